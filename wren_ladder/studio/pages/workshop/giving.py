"""An exercise made and given by one press."""

from dataclasses import replace

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect
from django.utils.http import url_has_allowed_host_and_scheme
from django.views.decorators.http import require_POST

from wren_ladder.drumming.chart.tempo import FASTEST, SLOWEST
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.studio.changes.exercises import give_exercise, make_exercise
from wren_ladder.studio.pages.workshop.recipes import (
    asked_for,
)
from wren_ladder.studio.students.taught import students_of
from wren_ladder.studio.teaching.models import syllabus_of
from wren_ladder.studio.teaching.note_names import in_names


@require_POST
def give(request) -> HttpResponse:
    """Made, if it is not there yet, and given; back to where it was pressed."""
    back = request.POST.get("back", "")
    own = back.startswith("/") and url_has_allowed_host_and_scheme(back, allowed_hosts=None)
    if not own:
        back = "/workshop/"
    asked = [read_whole(one) or 0 for one in request.POST.getlist("student")]
    whom = students_of(request.user).filter(pk__in=asked).select_related("owner")
    try:
        recipe, found = asked_for(request.POST.get("recipe", ""), syllabus_of(request.user.pk))
    except ValueError as error:
        messages.error(request, f"Not given: {error}.")
        return redirect(back)
    target = read_whole(request.POST.get("target"), SLOWEST, FASTEST)
    if not whom or target is None:
        said = f"a target is {SLOWEST} to {FASTEST}" if whom else "choose a student"
        messages.error(request, f"Not given: {said}.")
        return redirect(back)
    grade = found.grade or None
    for student in whom:
        chart = replace(found.chart, title=in_names(found.chart.title))
        piece = make_exercise(student.owner, chart, found.kind, recipe, grade)
        plan = give_exercise(piece, student, target, found.chart.tempo.bpm)
        messages.success(request, f"{student} climbs {piece.title} to {plan.target}.")
    if request.POST.get("then") == "step":  # to be recorded at once
        return redirect("step", plan.steps.get().pk)
    return redirect(back)
