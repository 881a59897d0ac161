"""What is pressed on the tray: taken, put back, in another order, given."""

from dataclasses import replace

from django.contrib import messages
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST
from django_htmx.http import HttpResponseClientRedirect

from wren_ladder.drumming.chart.tempo import FASTEST, SLOWEST
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.workshop.recipes import asked_for, recipe_text
from wren_ladder.studio.changes.bin import delete_for_good
from wren_ladder.studio.pages.undo import tell_done, way_back
from wren_ladder.studio.pages.workshop.asked import context_of
from wren_ladder.studio.pages.workshop.giving import back_of, give_to, whom_asked, why_not_given
from wren_ladder.studio.pages.workshop.tray import (
    MOST,
    TRAY,
    How,
    Taken,
    as_asked,
    lay,
    tray_of,
)
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.students.taught import students_of
from wren_ladder.studio.teaching.models import syllabus_of


@require_POST
def take(request: HttpRequest) -> HttpResponse:
    """On the tray, or back from it where it lies there."""
    try:
        text = request.POST.get("recipe", "")
        recipe, found = asked_for(text, syllabus_of(request.user.pk))
    except ValueError as error:
        messages.error(request, f"Not taken: {error}.")
        return _page_again(request)
    text, lying = recipe_text(recipe), tray_of(request)
    left = [one for one in lying if one.recipe != text]
    if len(left) == len(lying):
        if len(lying) >= MOST:
            messages.error(request, f"The tray holds {MOST}: give these first.")
            return _page_again(request)
        left.append(Taken(text, found.title, found.target))
    lay(request, left)
    return _answer(request)


@require_POST
def tray(request: HttpRequest) -> HttpResponse:
    """One put back or earlier; all given. Tempos that were typed stay."""
    lying = tray_of(request)
    last = len(lying) - 1
    typed = [request.POST.get(f"target-{n}", str(one.target)) for n, one in enumerate(lying)]
    targets = [read_whole(one, SLOWEST, FASTEST) for one in typed]
    lying = [
        replace(one, target=target or one.target)
        for one, target in zip(lying, targets, strict=True)
    ]
    put_back = read_whole(request.POST.get("put-back"), 0, last)
    earlier = read_whole(request.POST.get("earlier"), 1, last)
    if put_back is not None:
        del lying[put_back]
    elif earlier is not None:
        lying[earlier - 1 : earlier + 1] = lying[earlier], lying[earlier - 1]
    lay(request, lying)
    if "give" in request.POST:
        return _give(request, lying, None in targets)
    return _answer(request)


def _give(request: HttpRequest, lying: list[Taken], wrong: bool) -> HttpResponse:
    whom = whom_asked(request)
    if not whom or wrong:
        messages.error(request, why_not_given(whom))
        return _page_again(request)
    how = request.POST.get("how")
    how = How(how) if how in tuple(How) else How.EACH
    theirs = Plan.objects.filter(student__in=whom)
    before = list(theirs.values_list("pk", flat=True))
    with transaction.atomic():
        for recipe, found, target in as_asked(lying, how, syllabus_of(request.user.pk)):
            give_to(request, whom, recipe, found, target)
    new = list(theirs.exclude(pk__in=before).values_list("pk", flat=True))
    if new:
        said = "All given." if len(new) > 1 else "Given."
        tell_done(request, said, back_on_the_tray, new, request.session.pop(TRAY, []))
    return _page_again(request)


@way_back
def back_on_the_tray(request: HttpRequest, plans: list[int], things: list) -> str:
    """What was given, where nobody has played it yet."""
    mine = Plan.objects.filter(pk__in=plans, student__in=students_of(request.user))
    for plan in mine.select_related("student", "piece"):
        if plan.steps.filter(attempts__isnull=False).exists():
            messages.error(request, f"{plan.student} has played {plan.piece}: it stays.")
        else:
            delete_for_good(plan)
    lay(request, [Taken(*one) for one in things])
    return "It lies on the tray again."


def _answer(request: HttpRequest) -> HttpResponse:
    if not request.htmx:
        return redirect(back_of(request))
    return render(request, "workshop/_tray.html", context_of(request, ""))


def _page_again(request: HttpRequest) -> HttpResponse:
    """Where a message is to be read."""
    there = back_of(request)
    return HttpResponseClientRedirect(there) if request.htmx else redirect(there)
