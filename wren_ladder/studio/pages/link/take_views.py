"""Takes on the student's own page, where the teacher allows them."""

from datetime import timedelta

from django.contrib import messages
from django.contrib.auth.decorators import login_not_required
from django.db import IntegrityError
from django.http import Http404
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_POST, require_safe

from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.take_sources.midi_file import TakeError
from wren_ladder.drumming.takes.childs_words import advice_for_child, sentence_for_child
from wren_ladder.drumming.takes.judged import Judged
from wren_ladder.studio.climb.models import Take, Where
from wren_ladder.studio.pages.climb.entries import day_played
from wren_ladder.studio.pages.link.limits import limited
from wren_ladder.studio.pages.plans.lookups import STEPS
from wren_ladder.studio.pages.takes.form import MADE_UP, Recording, TakeForm
from wren_ladder.studio.pages.takes.page import take_context
from wren_ladder.studio.students.links import student_or_404
from wren_ladder.studio.students.models import Student

THEN = timedelta(days=14)  # before a take: far enough to hear that it was then
MOST_A_DAY = 60  # takes; more is no practice


@login_not_required
@limited
@require_POST
def link_take_record(request, signed):
    student = _who_records(signed)
    asked = read_whole(request.POST.get("step")) or 0
    step = get_object_or_404(STEPS.filter(plan__student=student), pk=asked)
    form = TakeForm(request.POST)
    try:
        if not (step.music_is_there and form.is_valid()):
            raise TakeError(form.problem() if form.errors else "its bars are gone")
        takes = Take.objects.filter(step__plan__student=student)
        key = form.cleaned_data["key"]
        if sent_before := takes.filter(key=key).first() if key else None:
            return redirect("link-take", signed, sent_before.pk)
        day = day_played(form.cleaned_data["day"])
        if day is None:
            raise TakeError("its day is too long ago, or not come yet")
        if takes.filter(day=day).count() >= MOST_A_DAY:
            raise TakeError(f"{MOST_A_DAY} takes a day are kept at the most")
        if form.cleaned_data["way"] == MADE_UP or not form.cleaned_data["heard"]:
            raise TakeError("nothing was heard")
        take = Recording(step, form.cleaned_data, form.kit, day, Where.HOME).kept()
    except IntegrityError:  # two senders at once
        return redirect("link", signed)
    except TakeError as error:
        messages.error(request, f"No take: {error}.")
        return redirect("link", signed)
    return redirect("link-take", signed, take.pk)


@login_not_required
@limited
@never_cache
@require_safe
def link_take(request, signed, pk):
    student = _who_records(signed)
    request.teaches = student.owner_id
    take = _take(student, pk)
    before = take.step.takes.filter(where=Where.HOME, day__lte=take.day - THEN)
    then = before.order_by("day", "pk").first()
    context = {**take_context(take, then), "signed": signed, "student": student}
    context |= _for_a_child(context.get("judged"))
    return render(request, "link/take.html", context)


@login_not_required
@limited
@require_POST
def link_take_delete(request, signed, pk):
    """For good: it is theirs."""
    _take(_who_records(signed), pk).delete()
    messages.success(request, "Gone.")
    return redirect("link", signed)


def _for_a_child(judged: Judged | None) -> dict[str, str]:
    """Its sentences as a child reads them; of bars that were changed since, that alone."""
    if judged is None:
        return {"sentence": "These bars have changed since then.", "advice": ""}
    return {
        "sentence": sentence_for_child(judged.first) if judged.first else "",
        "then": sentence_for_child(judged.then) if judged.then else "",
        "advice": advice_for_child(judged.first) if judged.first else "",
    }


def _who_records(signed: str) -> Student:
    student = student_or_404(signed)
    if not student.records_at_home:
        raise Http404("takes are not recorded on this link")
    return student


def _take(student: Student, pk: int) -> Take:
    """One that was made at home: those of the lesson are the teacher's to show."""
    takes = Take.objects.select_related("step__plan__student", "step__plan__piece")
    return get_object_or_404(takes, pk=pk, step__plan__student=student, where=Where.HOME)
