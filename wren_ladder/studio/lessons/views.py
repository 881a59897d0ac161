"""Lesson plans: breaking a piece down, giving it, editing its steps, printing a sheet."""

from django.contrib import messages
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from wren_ladder.studio.lessons.forms import AddStepForm, ClimbForm, GiveForm, StepForm
from wren_ladder.studio.lessons.lookups import plan_or_404, step_or_404
from wren_ladder.studio.lessons.models import Plan, Step
from wren_ladder.studio.lessons.services import (
    add_step,
    climb_defaults,
    give,
    model_plan,
    move_step,
    set_dropped,
)
from wren_ladder.studio.lessons.sheet import sheet_context, sheet_steps
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.practice.standings import refresh
from wren_ladder.studio.printing import pdf
from wren_ladder.studio.requests import confirm_delete, owned_or_404, posted


@require_POST
def break_down(request, pk):
    piece = owned_or_404(Piece, request.user, pk)
    return redirect(model_plan(piece, request.user))


@require_http_methods(["GET", "POST"])
def give_piece(request, pk):
    piece = owned_or_404(Piece, request.user, pk)
    target = piece.tempo.bpm
    plan = Plan(
        owner=request.user,
        piece=piece,
        target=target,
        **climb_defaults(request.user.pk, target),
    )
    initial = {"student": request.GET.get("student")}
    form = GiveForm(
        posted(request), instance=plan, owner=request.user, piece=piece, initial=initial
    )
    if form.is_valid():
        plan = give(form.save(commit=False), form.cleaned_data["student"])
        messages.success(request, f"{plan.student} climbs {piece.title} to {plan.target}.")
        return redirect(plan)
    status = 422 if form.is_bound else 200
    return render(request, "lessons/give.html", {"form": form, "piece": piece}, status=status)


@require_http_methods(["GET", "POST"])
def plan_edit(request, pk):
    plan = plan_or_404(request.user, pk)
    form = ClimbForm(posted(request), instance=plan, piece=plan.piece)
    if form.is_valid():
        refresh(form.save())
        return redirect(plan)
    context = {"form": form, "plan": plan}
    return render(request, "lessons/climb.html", context, status=422 if form.is_bound else 200)


@require_http_methods(["GET", "POST"])
def plan_delete(request, pk):
    plan = plan_or_404(request.user, pk)
    whose = f"{plan.student}'s plan" if plan.student else "the model plan"
    return confirm_delete(
        request,
        plan,
        what=f"{whose} of {plan.piece}",
        lost=f"{plan.steps.count()} steps and every attempt logged in them",
        back=plan.get_absolute_url(),
        then=(plan.student or plan.piece).get_absolute_url(),
        done="The plan is deleted; the piece stays.",
    )


@require_safe
def plan_steps(request, pk):
    plan = plan_or_404(request.user, pk)
    return render(request, "lessons/steps.html", _steps_context(plan))


def _steps_context(plan: Plan, moved: Step | None = None) -> dict:
    steps = list(plan.steps.select_related("first", "last"))
    return {
        "plan": plan,
        "steps": [step for step in steps if not step.dropped],
        "dropped": [step for step in steps if step.dropped],
        "add_form": AddStepForm(piece=plan.piece),
        "moved": moved,
    }


def _steps(request, plan: Plan, moved: Step | None = None):
    """The list again after a change: the fragment for htmx, the page otherwise."""
    if request.htmx:
        return render(request, "lessons/_steps.html", _steps_context(plan, moved))
    return redirect("plan-steps", plan.pk)


@require_POST
def step_move(request, pk, way):
    step = step_or_404(request.user, pk)
    if not step.dropped:
        move_step(step, -1 if way == "up" else 1)
    return _steps(request, step.plan, step)


@require_POST
def step_drop(request, pk):
    step = step_or_404(request.user, pk)
    set_dropped(step, dropped=True)
    return _steps(request, step.plan)


@require_POST
def step_restore(request, pk):
    step = step_or_404(request.user, pk)
    set_dropped(step, dropped=False)
    return _steps(request, step.plan, step)


@require_http_methods(["GET", "POST"])
def step_edit(request, pk):
    step = step_or_404(request.user, pk)
    form = StepForm(posted(request), instance=step)
    if form.is_valid():
        form.save()
        refresh(step.plan)
        return redirect("plan-steps", step.plan_id)
    context = {"form": form, "step": step, "plan": step.plan}
    return render(request, "lessons/step.html", context, status=422 if form.is_bound else 200)


@require_POST
def step_add(request, pk):
    plan = plan_or_404(request.user, pk)
    form = AddStepForm(request.POST, piece=plan.piece)
    if not form.is_valid():
        context = {**_steps_context(plan), "add_form": form}
        return render(request, "lessons/steps.html", context, status=422)
    added = form.cleaned_data
    add_step(plan, added["first"], added["last"], added["repeats"])
    return redirect("plan-steps", plan.pk)


@require_safe
def plan_sheet(request, pk):
    plan = plan_or_404(request.user, pk)
    wanted = {int(step) for step in request.GET.getlist("step") if step.isdigit()}
    context = sheet_context(plan, sheet_steps(plan, wanted), timezone.localdate())
    return pdf("lessons/sheet.html", context, f"{plan.student or 'model'} {plan.piece.title}")
