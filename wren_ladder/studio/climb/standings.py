"""Where plans stand: worked out from the log, kept beside it for lists to read."""

from collections.abc import Callable, Collection, Iterable, Sequence
from dataclasses import dataclass

from django.db import transaction
from django.db.models import F, Q, QuerySet
from django.utils import timezone

from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.drumming.breakdown.schools import HARD
from wren_ladder.drumming.climb import Attempt as CoreAttempt
from wren_ladder.drumming.climb import ClimbRule, Plateau, find_plateau, ready_speed, stand
from wren_ladder.studio.climb.forecasts import forecast_fields, tracks_of
from wren_ladder.studio.climb.log import (
    Earning,
    Log,
    earning,
    earning_log,
    earning_logs,
    log_of,
)
from wren_ladder.studio.climb.models import (
    RULES,
    HeldChange,
    OpenSteps,
    PlanStanding,
    StepStanding,
)
from wren_ladder.studio.climb.open_steps import parts_to_keep, rows_to_keep
from wren_ladder.studio.climb.rungs_held import rungs_held
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.plans.rules import climb_rule

MOST_REASON = 200
MOST_TRIES = 4  # then the database is held while it is worked out
OF_A_STEP = (
    "held",
    "next_tempo",
    "reason",
    "falling",
    "held_in_id",
    "last_day",
)


def plateau_of(
    plan: Plan, step: Step, climb: ClimbRule, log: Sequence[CoreAttempt] | None = None
) -> Plateau | None:
    """Is the step stuck, by what earns its rungs? By that ``log``, where it is known."""
    log = earning_log(step) if log is None else log
    kind = step.step_kind
    layered = kind is StepKind.BAR and step.rank >= HARD
    parted = kind in (StepKind.FIGURE, StepKind.NOTES, StepKind.HALF)
    return find_plateau(climb, log, layered, not parted)


@dataclass(frozen=True, slots=True)
class Folded:
    """Where a plan and its steps stand, worked out and not written yet."""

    plan: Plan
    steps: list[Step]
    found: dict[int, StepStanding]  # by step
    fields: dict[str, object]  # of the plan's standing
    opened: dict[str, list]  # of what is kept of its open steps
    held_when: dict[int, str]  # by step, of those whose own tries have changed


@transaction.atomic
def refresh(plan: Plan) -> None:
    """Work out where the plan and its steps stand, from what is stored now: ``plan`` may be
    older than that. For what changes a plan, inside the transaction that changes it."""
    note_changes([plan.pk])
    _write(_folded(plan.pk), _changes(plan.pk))


def refresh_all(plans: Iterable[Plan]) -> None:
    for plan in plans:
        refresh(plan)


def note_changes(plans: Iterable[int]) -> None:
    """Their logs have changed: to be called with the change, in one transaction. What is worked
    out later follows it, though the studio stop in between."""
    PlanStanding.objects.filter(plan__in=plans).update(changes=F("changes") + 1)


def follow(plans: Iterable[int], tried: Collection[int]) -> None:
    """Work out where plans stand of which some steps were ``tried`` and their change noted.
    Nobody who writes waits for the reckoning: it is done before the database is locked, and
    anew where the log went on."""
    for pk in plans:
        for _ in range(MOST_TRIES):
            changes = _changes(pk)
            folded = _folded(pk, tried)
            with transaction.atomic():
                if _changes(pk) == changes:
                    _write(folded, changes)
                    break
        else:
            if plan := Plan.objects.filter(pk=pk).first():
                refresh(plan)


def _changes(plan: int) -> int:
    kept = PlanStanding.objects.filter(plan=plan).values_list("changes", flat=True).first()
    return kept or 0


def _folded(pk: int, tried: Collection[int] | None = None) -> Folded | None:
    """None where the plan is gone. ``tried`` are the steps whose own tries have changed, if
    nothing else has."""
    plan = Plan.objects.select_related("student", "piece").filter(pk=pk).first()
    if plan is None:
        return None
    log = log_of(plan)
    steps = list(plan.steps.placed().select_related("standing"))
    logs = earning_logs(plan, steps, log)
    found = _standings(plan, steps, log, logs)
    held_when = {
        step.pk: rungs_held(climb_rule(plan, step), earning(plan, log.get(step.pk, ())))
        for step in steps
        if tried is None or step.pk in tried or not hasattr(step, "standing")
    }
    needed = [step for step in steps if step.is_needed]
    ready = ready_speed([as_piece_speed(plan, step, found[step.pk].held) for step in needed])
    held_by = needed[ready.held_by] if ready.held_by is not None else None
    plateau = held_by and plateau_of(plan, held_by, climb_rule(plan, held_by), logs[held_by.pk])
    fields = {
        "stuck": plateau.spoken if plateau else "",
        "ready": ready.speed,
        "slowest": ready.slowest,
        "waiting": ready.waiting,
        "held_by": held_by,
        "last_day": max((one.last_day for one in found.values() if one.last_day), default=None),
    }
    if plan.student_id:
        tracks = tracks_of(plan, steps, logs, found)
        fields |= forecast_fields(plan, tracks, timezone.localdate())
    opened = {"steps": rows_to_keep(plan, steps, found), "parts": parts_to_keep(steps, found)}
    return Folded(plan, steps, found, fields, opened, held_when)


def _write(folded: Folded | None, changes: int) -> None:
    """Only what is different."""
    if folded is None:
        return
    _write_steps(folded.steps, folded.found)
    _write_rungs(folded.held_when)
    fields = {**folded.fields, "worked_out": changes, "rules": RULES}
    PlanStanding.objects.update_or_create(plan=folded.plan, defaults=fields)
    kept = OpenSteps.objects.filter(plan=folded.plan).values("steps", "parts").first()
    if kept != folded.opened:
        OpenSteps.objects.update_or_create(plan=folded.plan, defaults=folded.opened)


def _standings(
    plan: Plan, steps: Sequence[Step], log: Log, logs: Earning
) -> dict[int, StepStanding]:
    named = {step.name: step for step in steps}
    found = {}
    for step in steps:
        attempts = log.get(step.pk, [])
        standing = stand(climb_rule(plan, step), logs[step.pk])
        found[step.pk] = StepStanding(
            step_id=step.pk,
            held=standing.held,
            next_tempo=standing.next,
            reason=standing.reason[:MOST_REASON],
            falling=standing.dropped,
            held_in=named.get(standing.by),
            last_day=attempts[-1].day if attempts else None,
        )
    return found


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
    StepStanding.objects.bulk_update(changed, [name.removesuffix("_id") for name in OF_A_STEP])


def _write_rungs(held_when: dict[int, str]) -> None:
    """By itself: what another try's reckoning read of these steps may be older."""
    kept = list(StepStanding.objects.filter(step__in=held_when).only("step", "rungs_held"))
    changed = [one for one in kept if one.rungs_held != held_when[one.step_id]]
    for one in changed:
        one.rungs_held = held_when[one.step_id]
    StepStanding.objects.bulk_update(changed, ["rungs_held"])


def as_piece_speed(plan: Plan, step: Step, held: int | None) -> int | None:
    """What a step holds as a speed of the piece: one with a target of its own is there when
    it holds that, whatever the others have to reach."""
    if held is None or not step.target:
        return held
    return held * plan.target // step.target


def behind() -> QuerySet[Plan]:
    """Plans that a newer version keeps more of than an older one did, and those where the
    studio was stopped between a try and what follows from it."""
    return Plan.objects.filter(
        Q(standing=None)
        | Q(student__isnull=False, opened=None)
        | Q(student__isnull=False, standing__forecast={})
        | Q(standing__worked_out__lt=F("standing__changes"))
        | Q(student__isnull=False, standing__rules__lt=RULES)
    )


def catch_up(tell: Callable[[int], None] = lambda done: None) -> int:
    """Work them out; how many there were. ``tell`` is told after each how many are done. What
    other rules make of the same log is remembered, to be told."""
    waiting = list(behind().select_related("standing"))
    for done, plan in enumerate(waiting, 1):
        with transaction.atomic():
            before = _held(plan)
            refresh(plan)
            if _by_older_rules(plan):
                _remember_changes(before, _held(plan))
        tell(done)
    return len(waiting)


def _by_older_rules(plan: Plan) -> bool:
    """And by nothing else: its log was worked out to the end."""
    kept = getattr(plan, "standing", None)
    return bool(kept) and kept.rules < RULES and kept.worked_out >= kept.changes


def _held(plan: Plan) -> dict[int, int | None]:
    rows = StepStanding.objects.filter(step__plan=plan, step__dropped=False)
    return dict(rows.values_list("step", "held"))


def _remember_changes(before: dict[int, int | None], after: dict[int, int | None]) -> None:
    HeldChange.objects.bulk_create(
        HeldChange(step_id=step, before=before[step], after=held, rules=RULES)
        for step, held in after.items()
        if step in before and before[step] != held
    )
