"""Lesson plans: made, given to students, their tempos changed, printed, deleted."""

import re

from django.contrib import messages
from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from wren_ladder.drumming.chart.tempo import SLOWEST
from wren_ladder.drumming.climb import Attempt, next_trial
from wren_ladder.drumming.numbers import read_whole
from wren_ladder.studio.changes.plans import (
    change_plan,
    give,
    model_plan,
    plan_defaults,
    set_status,
)
from wren_ladder.studio.changes.sharing import piece_for
from wren_ladder.studio.pages.deleting import confirm_delete
from wren_ladder.studio.pages.plans.forms import EditClimbForm, GiveForm
from wren_ladder.studio.pages.plans.lookups import plan_or_404, student_plan_or_404
from wren_ladder.studio.pages.plans.sheet import sheet_context, wall_chart_context
from wren_ladder.studio.pages.printing import paper_of, pdf
from wren_ladder.studio.pages.requests import (
    came_from,
    number_asked,
    owned_or_404,
    posted,
)
from wren_ladder.studio.pages.sent_once import sent_once
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.students.taught import students_of

MOST_TRIES = 30


@require_POST
@sent_once
def break_down(request, pk):
    piece = owned_or_404(Piece, request.user, pk)
    return redirect(model_plan(piece, request.user))


@require_http_methods(["GET", "POST"])
@sent_once
def give_piece(request, pk):
    piece = owned_or_404(Piece, request.user, pk)
    target = piece.tempo.bpm
    asked = students_of(request.user).filter(pk=number_asked(request, "student") or 0).first()
    plan = Plan(
        owner=request.user,
        piece=piece,
        target=target,
        **plan_defaults(request.user.pk, target, asked.grade if asked else None),
    )
    initial = {"students": [asked.pk] if asked else [], "target": target, "start": None}
    form = GiveForm(
        posted(request), instance=plan, owner=request.user, piece=piece, initial=initial
    )
    if form.is_valid():
        return _given(request, piece, form)
    usual = plan_defaults(request.user.pk, target, asked.grade if asked else None)
    context = {"form": form, "piece": piece, "usual": usual, "asked": asked}
    status = 422 if form.is_bound else 200
    return render(request, "plans/give.html", context, status=status)


@transaction.atomic
def _given(request: HttpRequest, piece: Piece, form: GiveForm) -> HttpResponse:
    given = []
    for student, plan in form.plans():
        follows = plan_defaults(student.owner_id, plan.target, student.grade)["start"]
        plan.start = plan.start or follows
        plan.piece, plan.owner = piece_for(student, piece), student.owner
        given.append(give(plan, student))
    said = ", ".join(f"{plan.student} climbs {piece.title} to {plan.target}" for plan in given)
    messages.success(request, f"{said}.")
    return redirect(given[0] if len(given) == 1 else piece)


@require_http_methods(["GET", "POST"])
def plan_edit(request, pk):
    plan = plan_or_404(request.user, pk)
    form = EditClimbForm(posted(request), instance=plan, piece=plan.piece)
    if form.is_valid():
        kept = change_plan(plan, form.changes())
        return redirect(came_from(request) or kept)
    context = {"form": form, "plan": plan}
    return render(request, "plans/climb.html", context, status=422 if form.is_bound else 200)


@require_http_methods(["GET", "POST"])
def plan_trial(request, pk):
    """The start found by trial: the next tempo is proposed until the clean limit is known."""
    plan = student_plan_or_404(request.user, pk)
    tries = _tries(request.GET.get("tries", ""))
    trial = next_trial(tries, plan.target)
    if request.method == "POST":
        start = read_whole(request.POST.get("start"), SLOWEST, plan.target)
        if start is not None:
            change_plan(plan, {"start": start})
            messages.success(request, f"The climb starts at {start}, found by trial.")
        return redirect("plan-edit", plan.pk)
    said = " ".join(f"{one.tempo}{'c' if one.clean else 'n'}" for one in tries)
    context = {"plan": plan, "trial": trial, "tries": tries, "said": said}
    return render(request, "plans/trial.html", context)


def _tries(text: str) -> list[Attempt]:
    """ "60c 90n": clean at 60, not yet at 90; anything else is passed over."""
    today = timezone.localdate()
    words = [word for word in text.split() if re.fullmatch(r"[0-9]{2,3}[cn]", word)]
    return [Attempt(today, int(word[:-1]), word[-1] == "c") for word in words[:MOST_TRIES]]


@require_POST
def plan_status(request, pk):
    """Paused, finished, passed and so on, by one press; climbed again by another."""
    plan = student_plan_or_404(request.user, pk)
    status = request.POST.get("status")
    if status in Plan.Status.values:
        set_status(plan, status, timezone.localdate())
        said = Plan.Status(status).label
        messages.success(request, f"{plan.piece.title} of {plan.student}: {said}.")
    return redirect(plan.student)


@require_http_methods(["GET", "POST"])
def plan_delete(request, pk):
    plan = plan_or_404(request.user, pk)
    whose = f"{plan.student}'s plan" if plan.student else "the model plan"
    return confirm_delete(
        request,
        plan,
        what=f"{whose} of {plan.piece}",
        lost=f"{plan.steps.count()} steps and every try logged in them",
        back=plan.get_absolute_url(),
        then=(plan.student or plan.piece).get_absolute_url(),
        done="The plan is deleted; the piece stays.",
        owner=plan.owner,
    )


@require_safe
def plan_sheet(request, pk):
    """This week's sheet, or the sheet of the steps asked for."""
    plan = plan_or_404(request.user, pk)
    asked = (read_whole(step) for step in request.GET.getlist("step"))
    wanted = {step for step in asked if step is not None}
    context = sheet_context(plan, wanted, timezone.localdate()) | paper_of(request)
    return pdf(
        request, "plans/sheet.html", context, f"{plan.student or 'model'} {plan.piece.title}"
    )


@require_safe
def wall_chart(request, pk):
    plan = plan_or_404(request.user, pk)
    context = wall_chart_context(plan) | paper_of(request)
    return pdf(request, "plans/wall_chart.html", context, f"{plan.piece.title} wall chart")
