"""Where plans stand: recomputed from the log, kept beside it for lists to read."""

from django.db import transaction

from wren_ladder.drumming.breakdown import StepKind, start_for
from wren_ladder.drumming.breakdown.schools import HARD
from wren_ladder.drumming.tempo import Climb, Plateau, find_plateau, ready_speed, stand
from wren_ladder.studio.lessons.models import Plan, Step
from wren_ladder.studio.practice.models import Attempt


def climb_of(plan: Plan, step: Step, bars: int) -> Climb:
    """The core's rule for one step; it starts where the plan does, a hard one lower, and
    never above the target."""
    share = plan.start * 100 // plan.target
    start = plan.start
    if step.rank >= HARD:
        start = min(start, start_for(plan.target, share, step.rank))
    return Climb(plan.rungs_from(step.start or start), bars, plan.rule)


def bars_in(step: Step) -> int:
    """How many printed bars a step has; 1 if its music is gone."""
    return len(step.played) or 1


def log_of(plan: Plan) -> dict[int, list[Attempt]]:
    """Every attempt of a plan in the order it happened, by step."""
    by_step: dict[int, list[Attempt]] = {}
    for attempt in Attempt.objects.filter(step__plan=plan):
        by_step.setdefault(attempt.step_id, []).append(attempt)
    return by_step


def plateau_of(step: Step, climb: Climb) -> Plateau | None:
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
        climb = climb_of(plan, step, bars_in(step))
        standing = stand(climb, [attempt.to_core() for attempt in attempts])
        step.held = standing.held
        step.next_tempo = standing.next
        step.reason = standing.reason
        step.falling = standing.dropped
        step.last_day = attempts[-1].day if attempts else None
    Step.objects.bulk_update(steps, ["held", "next_tempo", "reason", "falling", "last_day"])
    needed = [s for s in steps if s.music_is_there and not (s.dropped or s.is_scaffold)]
    ready = ready_speed([step.held for step in needed])
    plan.ready, plan.slowest, plan.waiting = ready.speed, ready.slowest, ready.waiting
    plan.held_by = needed[ready.held_by] if ready.held_by is not None else None
    plan.last_day = max((step.last_day for step in steps if step.last_day), default=None)
    plan.save()


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
