"""Climbing: the plan page with its ladder, logging attempts, progress over weeks."""

from django.contrib import messages
from django.db.models import Q
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from wren_ladder.drumming.climb import bar_tempos
from wren_ladder.studio.changes.attempts import (
    correct_attempt,
    log_attempts,
    never_again,
)
from wren_ladder.studio.climb.forecasts import levers_of, needed_tracks, outlook_of
from wren_ladder.studio.climb.forms import AttemptForm
from wren_ladder.studio.climb.log import log_of
from wren_ladder.studio.climb.models import Attempt
from wren_ladder.studio.climb.standings import plateau_of
from wren_ladder.studio.drawing.wall import shades
from wren_ladder.studio.pages.climb.forms import EditAttemptForm
from wren_ladder.studio.pages.climb.ladders import ladder_of
from wren_ladder.studio.pages.climb.progress import chart_of, pace_of, practised
from wren_ladder.studio.pages.climb.taken import taken
from wren_ladder.studio.pages.deleting import confirm_delete
from wren_ladder.studio.pages.pieces.wall_page import wall_context
from wren_ladder.studio.pages.plans.lookups import step_or_404, student_plan_or_404
from wren_ladder.studio.pages.plans.step_music import step_music
from wren_ladder.studio.pages.requests import (
    came_from,
    number_asked,
    posted,
    words_asked,
)
from wren_ladder.studio.pages.sent_once import key_of
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.plans.rules import climb_rule
from wren_ladder.studio.plans.versions import music_for, study_for
from wren_ladder.studio.students.taught import students_of

RECENT = 5
SHOWN = 60  # attempts on the progress page


@require_safe
def plan_page(request, pk):
    plan = student_plan_or_404(request.user, pk)
    context = {
        **wall_context(request, plan.piece, plan),
        **climb_context(plan, number_asked(request, "step")),
        "bar_asked": "bar" in request.GET,
    }
    return render(request, "climb/plan.html", context)


@require_safe
def climb_panel(request, pk):
    plan = student_plan_or_404(request.user, pk)
    return render(
        request, "climb/_climb.html", climb_context(plan, number_asked(request, "step"))
    )


def climb_context(
    plan: Plan, asked: int | None = None, form: AttemptForm | None = None
) -> dict:
    """The ladder, the step at hand with its form, and the shading of the wall."""
    steps = list(plan.steps.filter(dropped=False).placed().select_related("standing"))
    there = [step for step in steps if step.music_is_there]
    step = next((step for step in there if step.pk == asked), None)
    step = step or next((step for step in there if step.pk == plan.standing.held_by_id), None)
    today = timezone.localdate()
    context = {
        "plan": plan,
        "steps": there,
        "needed": sum(not step.is_scaffold for step in there),
        "step": step,
        "today": today,
        "ladder": ladder_of(plan, there, step, today),
        "seen": outlook_of(plan, today),
        "shades": _shades(plan, there),
    }
    if step:
        climb = climb_rule(plan, step)
        initial = {"tempo": step.standing.next_tempo, "passes": climb.passes, "day": today}
        context |= {
            "climb": climb,
            "music": step_music(plan, step, "chosen-", music_for(plan)),
            "plateau": plateau_of(plan, step, climb),
            "form": form or AttemptForm(initial=initial),
            "recent": list(step.attempts.order_by("-day", "-pk")[:RECENT]),
        }
    return context


def _shades(plan: Plan, steps: list[Step]):
    studied = study_for(plan)
    twins = dict(enumerate(studied.kinds))
    held = [(step.played, step.standing.held) for step in steps if not step.is_scaffold]
    return shades(bar_tempos(held, twins, len(studied.bars)), plan.target)


@require_POST
def attempt_log(request, pk):
    """Log a try at a step: two keys in the lesson, the climb follows at once."""
    step = step_or_404(request.user, pk)
    plan = student_plan_or_404(request.user, step.plan_id)
    form = AttemptForm(request.POST, instance=Attempt(step=step))
    if not form.is_valid():
        context = climb_context(plan, step.pk, form)
        if request.htmx:
            return render(request, "climb/_climb.html", context)
        context |= wall_context(request, plan.piece, plan)
        return render(request, "climb/plan.html", context, status=422)
    attempt = form.save(commit=False)
    attempt.key = key_of(request)
    if not (attempt.key and Attempt.objects.filter(key=attempt.key).exists()):  # sent twice
        log_attempts([attempt])
    plan = student_plan_or_404(request.user, step.plan_id)
    if request.htmx:
        context = climb_context(plan, step.pk)
        logged = {"logged": attempt, "follow": True}
        return render(request, "climb/_climb.html", {**context, **logged})
    messages.success(request, f"{step.name}: {attempt} is logged.")
    return redirect(f"{plan.get_absolute_url()}?step={step.pk}")


@require_http_methods(["GET", "POST"])
def attempt_edit(request, pk):
    attempt = _attempt_or_404(request.user, pk)
    form = EditAttemptForm(posted(request), instance=attempt)
    if form.is_valid():
        correct_attempt(form.save(commit=False))
        return redirect(came_from(request) or reverse("progress", args=[attempt.step.plan_id]))
    context = {"form": form, "attempt": attempt, "plan": attempt.step.plan}
    status = 422 if form.is_bound else 200
    return render(request, "climb/attempt.html", context, status=status)


@require_http_methods(["GET", "POST"])
def attempt_delete(request, pk):
    attempt = _attempt_or_404(request.user, pk)
    back = reverse("progress", args=[attempt.step.plan_id])
    if request.method == "POST":
        never_again(attempt.key)
    return confirm_delete(
        request,
        attempt,
        what=f"the try of {attempt.day:%-d %B %Y} at {attempt.tempo}",
        lost="this one try; the step's rung is worked out anew from the others",
        back=back,
        then=back,
        done="The try is deleted; the ladder is worked out anew.",
        owner=attempt.step.plan.owner,
    )


def _attempt_or_404(user, pk: int) -> Attempt:
    attempts = Attempt.objects.select_related("step__plan__piece", "step__plan__student")
    return get_object_or_404(attempts, pk=pk, step__plan__student__in=students_of(user))


def plan_attempts(plan: Plan, query: str):
    """The plan's attempts, newest first, whose step or word holds the query."""
    attempts = Attempt.objects.filter(step__plan=plan).select_related("step")
    if query:
        attempts = attempts.filter(Q(step__name__icontains=query) | Q(note__icontains=query))
    return attempts.order_by("-day", "-pk")


@require_safe
def progress(request, pk):
    plan = student_plan_or_404(request.user, pk)
    today = timezone.localdate()
    log = log_of(plan)
    steps = list(plan.steps.filter(dropped=False).placed().select_related("standing"))
    seen = outlook_of(plan, today)
    needed, tracks = needed_tracks(plan, log)
    chart = chart_of(plan, needed, tracks, seen, today, request.GET.get("step", ""))
    query = words_asked(request)
    found = plan_attempts(plan, query)
    context = {
        "plan": plan,
        "today": today,
        "seen": seen,
        "pace": pace_of(plan, seen, today),
        "levers": levers_of(plan, tracks, seen, today),
        "chart": chart,
        "rows": [{"step": step, "tries": len(log.get(step.pk, []))} for step in steps],
        "practice": practised(plan, log),
        "taken": taken(plan, today),
        "attempts": found[:SHOWN],
        "total": found.count(),
        "query": query,
    }
    return render(request, "climb/progress.html", context)
