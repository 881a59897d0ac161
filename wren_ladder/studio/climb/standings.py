"""Where plans stand: worked out from the log, kept beside it for lists to read."""

from collections.abc import Iterable

from django.db import transaction
from django.utils import timezone

from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.drumming.breakdown.schools import HARD
from wren_ladder.drumming.climb import ClimbRule, Plateau, find_plateau, ready_speed, stand
from wren_ladder.studio.climb.forecasts import forecast_fields
from wren_ladder.studio.climb.log import Log, earning, log_of
from wren_ladder.studio.climb.models import PlanStanding, StepStanding
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.plans.rules import climb_rule

OF_A_STEP = ("held", "next_tempo", "reason", "falling", "last_day")


def plateau_of(plan: Plan, step: Step, climb: ClimbRule) -> Plateau | None:
    """Is the step stuck, by its log alone?"""
    log = earning(plan, step.attempts.all())
    kind = step.step_kind
    layered = kind is StepKind.BAR and step.rank >= HARD
    parted = kind in (StepKind.FIGURE, StepKind.NOTES, StepKind.HALF)
    return find_plateau(climb, log, layered, not parted)


@transaction.atomic
def refresh(plan: Plan) -> None:
    """Work out where the plan and its steps stand, from what is stored now: ``plan`` may be
    older than that. Only what is different is written."""
    plan = Plan.objects.select_related("student", "piece").get(pk=plan.pk)
    log = log_of(plan)
    steps = list(plan.steps.select_related("first", "last", "standing"))
    found = {step.pk: _standing(plan, step, log) for step in steps}
    _write_steps(steps, found)
    needed = [step for step in steps if step.is_needed]
    ready = ready_speed([as_piece_speed(plan, step, found[step.pk].held) for step in needed])
    fields = {
        "ready": ready.speed,
        "slowest": ready.slowest,
        "waiting": ready.waiting,
        "held_by": needed[ready.held_by] if ready.held_by is not None else None,
        "last_day": max((one.last_day for one in found.values() if one.last_day), default=None),
    }
    if plan.student_id:
        fields |= forecast_fields(plan, steps, log, timezone.localdate())
    PlanStanding.objects.update_or_create(plan=plan, defaults=fields)


def refresh_all(plans: Iterable[Plan]) -> None:
    for plan in plans:
        refresh(plan)


def _standing(plan: Plan, step: Step, log: Log) -> StepStanding:
    attempts = log.get(step.pk, [])
    climb = climb_rule(plan, step)
    standing = stand(climb, earning(plan, attempts))
    return StepStanding(
        step_id=step.pk,
        held=standing.held,
        next_tempo=standing.next,
        reason=standing.reason,
        falling=standing.dropped,
        last_day=attempts[-1].day if attempts else None,
    )


def _write_steps(steps: list[Step], found: dict[int, StepStanding]) -> None:
    """New standings, and those that are not what they were."""
    kept = {step.pk: step.standing for step in steps if hasattr(step, "standing")}
    new = [standing for pk, standing in found.items() if pk not in kept]
    changed = []
    for pk, standing in found.items():
        old = kept.get(pk)
        if old and any(getattr(old, name) != getattr(standing, name) for name in OF_A_STEP):
            standing.pk = old.pk
            changed.append(standing)
    StepStanding.objects.bulk_create(new)
    StepStanding.objects.bulk_update(changed, OF_A_STEP)


def as_piece_speed(plan: Plan, step: Step, held: int | None) -> int | None:
    """What a step holds as a speed of the piece: one with a target of its own is there when
    it holds that, whatever the others have to reach."""
    if held is None or not step.target:
        return held
    return held * plan.target // step.target


def catch_up() -> int:
    """Work out what a newer version keeps beside the plans and an older one did not; how many
    there were."""
    behind = list(Plan.objects.filter(standing=None))
    behind += Plan.objects.filter(student__isnull=False, standing__forecast={})
    refresh_all(behind)
    return len(behind)
