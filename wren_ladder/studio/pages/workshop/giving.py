"""An exercise made and given by one press."""

from collections.abc import Iterable, Mapping
from dataclasses import replace

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_POST

from wren_ladder.drumming.chart.tempo import FASTEST, SLOWEST
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.drumming.workshop.recipes import Made, asked_for
from wren_ladder.studio.changes.exercises import give_exercise, make_exercise
from wren_ladder.studio.pages.requests import own_page
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.students.taught import students_of
from wren_ladder.studio.teaching.models import syllabus_of
from wren_ladder.studio.teaching.note_names import in_names


def back_of(request: HttpRequest) -> str:
    """Where it was pressed."""
    return own_page(request.POST.get("back", "")) or "/workshop/"


def whom_asked(request: HttpRequest) -> list[Student]:
    """The teacher's own students that are named in a form."""
    asked = [read_whole(one) or 0 for one in request.POST.getlist("student")]
    return list(students_of(request.user).filter(pk__in=asked).select_related("owner"))


def why_not_given(whom: list[Student]) -> str:
    """Where nobody is chosen, or a target is none."""
    said = f"a target is {SLOWEST} to {FASTEST}" if whom else "choose a student"
    return f"Not given: {said}."


def give_to(
    request: HttpRequest,
    whom: Iterable[Student],
    recipe: Mapping[str, object],
    found: Made,
    target: int,
) -> list[Plan]:
    """Made, if it is not there yet, and given to each; told to the page that comes."""
    chart, plans = replace(found.chart, title=in_names(found.chart.title)), []
    for student in whom:
        piece = make_exercise(student.owner, chart, found.kind, recipe, found.grade or None)
        plan = give_exercise(piece, student, target, found.chart.tempo.bpm)
        messages.success(request, f"{student} climbs {piece.title} to {plan.target}.")
        plans.append(plan)
    return plans


@require_POST
def give(request: HttpRequest) -> HttpResponse:
    """One exercise, given to be recorded at once."""
    whom = whom_asked(request)
    try:
        recipe, found = asked_for(request.POST.get("recipe", ""), syllabus_of(request.user.pk))
    except ValueError as error:
        messages.error(request, f"Not given: {error}.")
        return redirect(back_of(request))
    target = read_whole(request.POST.get("target"), SLOWEST, FASTEST)
    if not whom or target is None:
        messages.error(request, why_not_given(whom))
        return redirect(back_of(request))
    plans = give_to(request, whom, recipe, found, target)
    if request.POST.get("then") == "step":
        return redirect("step", plans[-1].steps.get().pk)
    return redirect(back_of(request))
