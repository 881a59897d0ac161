"""Where plans stand: recomputed from the log, kept beside it for lists to read."""

from django.db import transaction
from django.utils import timezone

from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.drumming.breakdown.schools import HARD
from wren_ladder.drumming.climb import ClimbRule, Plateau, find_plateau, ready_speed, stand
from wren_ladder.studio.climb.forecasts import foretell
from wren_ladder.studio.climb.models import Attempt
from wren_ladder.studio.climb.rules import bars_in, climb_rule, log_of
from wren_ladder.studio.plans.models import Plan, Step


def plateau_of(step: Step, climb: ClimbRule) -> Plateau | None:
    """Is the step stuck, by its log alone?"""
    log = [attempt.to_core() for attempt in step.attempts.all()]
    kind = step.step_kind
    layered = kind is StepKind.BAR and step.rank >= HARD
    return find_plateau(climb, log, layered, kind not in (StepKind.NOTES, StepKind.HALF))


@transaction.atomic
def refresh(plan: Plan) -> None:
    """Write what the log says of every step, and of the piece, into the plan."""
    log = log_of(plan)
    steps = list(plan.steps.select_related("first", "last"))
    for step in steps:
        attempts = log.get(step.pk, [])
        climb = climb_rule(plan, step, bars_in(step))
        standing = stand(climb, [attempt.to_core() for attempt in attempts])
        step.held = standing.held
        step.next_tempo = standing.next
        step.reason = standing.reason
        step.falling = standing.dropped
        step.last_day = attempts[-1].day if attempts else None
    Step.objects.bulk_update(steps, ["held", "next_tempo", "reason", "falling", "last_day"])
    needed = [step for step in steps if step.is_needed]
    ready = ready_speed([_as_piece(plan, step) for step in needed])
    plan.ready, plan.slowest, plan.waiting = ready.speed, ready.slowest, ready.waiting
    plan.held_by = needed[ready.held_by] if ready.held_by is not None else None
    plan.last_day = max((step.last_day for step in steps if step.last_day), default=None)
    if plan.student_id:
        foretell(plan, steps, log, timezone.localdate())
    plan.save()


def _as_piece(plan: Plan, step: Step) -> int | None:
    """What a step holds as a speed of the piece: one with a target of its own is there when
    it holds that, whatever the others have to reach."""
    if step.held is None or not step.target:
        return step.held
    return step.held * plan.target // step.target


def catch_up() -> int:
    """Work out what a newer version keeps beside the plans and an older one did not; how many
    there were."""
    behind = Plan.objects.filter(student__isnull=False, foretold={})
    plans = list(behind.select_related("student", "piece"))
    for plan in plans:
        refresh(plan)
    return len(plans)


@transaction.atomic
def record(attempt: Attempt) -> None:
    """Save a new or corrected attempt and let everything follow."""
    attempt.save()
    refresh(attempt.step.plan)


@transaction.atomic
def forget(attempt: Attempt) -> None:
    """Delete an attempt and let everything follow."""
    plan = attempt.step.plan
    attempt.delete()
    refresh(plan)
