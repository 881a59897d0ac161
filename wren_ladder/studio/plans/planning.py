"""Making and revising plans: the core's steps written down, and history kept."""

from collections.abc import Sequence
from datetime import date

from django.db import transaction
from django.db.models import Count, Value

from wren_ladder.drumming.breakdown import (
    ExistingStep,
    RevisedStep,
    StepChange,
    StepIdentity,
    describe,
    revise,
)
from wren_ladder.drumming.breakdown import Step as CoreStep
from wren_ladder.drumming.chart import Bar
from wren_ladder.drumming.chart.serial import bar_from_json, bar_to_json
from wren_ladder.drumming.description.differences import changes
from wren_ladder.drumming.judging.judgement import music_of
from wren_ladder.drumming.style import School
from wren_ladder.studio.pieces.models import BarRow
from wren_ladder.studio.plans.judged import steps_for
from wren_ladder.studio.plans.models import Plan, PlanSnapshot, Revision, Step
from wren_ladder.studio.plans.rules import climb_rule

MOST_SAID = 4  # changes of a bar named one by one


def core_step(step: Step) -> CoreStep:
    """A stored step as the core has it; its bars are in the piece."""
    return CoreStep(
        kind=step.step_kind,
        first=step.places[0],
        last=step.places[1],
        repeats=step.repeats,
        why=step.why,
        part=step.part,
        gap=step.gap,
        watch=tuple(step.watch),
        rank=step.rank,
    )


def name_step(step: CoreStep, bars: tuple[Bar, ...]) -> str:
    first, last = bars[step.first], bars[step.last]
    return describe(step.kind, step.part, first, last, first.section)


def propose(plan: Plan, school: School | None = None) -> tuple[RevisedStep, ...]:
    """How the plan would change if it were made now; nothing is written."""
    return _revision_of(plan, plan, _tried(plan), school)


def steps_by(plan: Plan, school: School) -> list[Step]:
    """The steps that the plan would have by a school, those that are left out besides; nothing
    is written."""
    steps, rows = _tried(plan), list(plan.piece.bars.all())
    return _changed_steps(plan, steps, _revision_of(plan, plan, steps, school), rows)


def _tried(plan: Plan) -> list[Step]:
    """The steps of a plan, with how often each was tried."""
    steps = plan.steps.placed().select_related("standing")
    return list(steps.annotate(tries=Count("attempts")))


def _revision_of(
    plan: Plan, before: Plan, steps: list[Step], school: School | None = None
) -> tuple[RevisedStep, ...]:
    """``steps``, of the plan ``before``, revised for ``plan``."""
    rows = list(plan.piece.bars.all())
    studied, steps_now = steps_for(plan, school)
    bars = studied.chart.bars
    then = _bars_then(before)
    made = [(name_step(step, bars), _identity(step, rows, bars), step) for step in steps_now]
    return revise(
        [_existing(before, step, then, rows) for step in steps],
        made,
        _edited(dict(then), rows),
        keep_order=school is None or school == plan.school,
    )


def _identity(step: CoreStep, rows: list[BarRow], bars: tuple[Bar, ...]) -> StepIdentity:
    music = tuple(music_of(bars[index]) for index in step.played)
    return StepIdentity(
        step.kind, step.part, music, tuple(rows[index].pk for index in step.played)
    )


def _existing(
    plan: Plan, step: Step, then: list[tuple[int, Bar]], rows: list[BarRow]
) -> ExistingStep:
    places = {pk: place for place, (pk, _) in enumerate(then)}
    identity = None
    if step.music_is_there:
        if step.first_id in places and step.last_id in places:
            first, last = places[step.first_id], places[step.last_id]
            played = CoreStep(step.step_kind, first, last, 1, "").played
            those = [then[place] for place in played]
        else:  # a bar that came after the plan was made
            those = [(rows[place].pk, rows[place].bar) for place in step.played]
        music = tuple(music_of(bar) for _, bar in those)
        identity = StepIdentity(step.step_kind, step.part, music, tuple(pk for pk, _ in those))
    return ExistingStep(
        name=step.name,
        identity=identity,
        tries=step.tries,
        passed=_passed(plan, step),
        by_hand=step.by_hand,
        dropped=step.dropped,
    )


def _passed(plan: Plan, step: Step) -> bool:
    """Does it hold its target? A step that was just made stands nowhere yet."""
    held = step.standing.held if hasattr(step, "standing") else None
    return climb_rule(plan, step).is_reached(held)


def _edited(then: dict[int, Bar], rows: list[BarRow]) -> dict[int, str]:
    """What changed in each bar of the piece, in words."""
    said = {}
    for row in rows:
        bar, before = row.bar, then.get(row.pk)
        if before is None or music_of(before) == music_of(bar):
            continue
        found = changes(before, bar)
        if found and len(found) <= MOST_SAID:
            words = ", ".join(change.spoken for change in found)
            said[row.pk] = f"bar {bar.number} is now {words}"
        else:
            said[row.pk] = f"bar {bar.number} is written anew"
    return said


@transaction.atomic
def fill_plan(plan: Plan, model: Plan | None = None) -> None:
    """The first steps of a plan; with a ``model``, what the teacher changed there is taken
    over: steps left out, added, or set by hand."""
    steps = []
    if model:
        related = model.steps.placed().select_related("standing")
        steps = list(related.annotate(tries=Value(0)))
    rows = list(plan.piece.bars.all())
    for position, entry in enumerate(_revision_of(plan, model or plan, steps)):
        old = steps[entry.old] if entry.old is not None else None
        if entry.change in (StepChange.REMOVED, StepChange.LEFT_OUT):
            continue
        step = Step(plan=plan, position=position)
        if old is not None and old.by_hand:
            _copy(old, step)
        _write(step, entry, rows, old)
        step.save()
    made_now(plan)


@transaction.atomic
def apply_revision(plan: Plan, today: date, school: School | None = None) -> Revision:
    """Revise the plan, and keep what changed and why."""
    steps = _tried(plan)
    entries = _revision_of(plan, plan, steps, school)
    rows = list(plan.piece.bars.all())
    changed_school = school is not None and school != plan.school
    if school is not None:
        plan.school = school
        Plan.objects.filter(pk=plan.pk).update(school=school.value)
    for entry in entries:
        if entry.change is StepChange.REMOVED:
            steps[entry.old].delete()
    for step in _changed_steps(plan, steps, entries, rows):
        step.save()
    said = (
        f"to the {School(plan.school).label}" if changed_school else "to the piece as it is now"
    )
    lines = [
        [entry.change.value, entry.name, entry.why]
        for entry in entries
        if entry.change is not StepChange.STAYS or entry.why.startswith("was ")
    ]
    revision = Revision.objects.create(plan=plan, day=today, said=said, lines=lines)
    made_now(plan)
    return revision


def _changed_steps(
    plan: Plan, steps: list[Step], entries: Sequence[RevisedStep], rows: list[BarRow]
) -> list[Step]:
    """The steps that a revision leaves, in order and as it has them; nothing is stored."""
    found = []
    for position, entry in enumerate(entries):
        old = steps[entry.old] if entry.old is not None else None
        if entry.change is StepChange.REMOVED:
            continue
        step = old or Step(plan=plan)
        step.position = position
        if entry.change is StepChange.LEFT_OUT:
            step.dropped = True
        _write(step, entry, rows, old)
        found.append(step)
    return found


def _write(step: Step, entry: RevisedStep, rows: list[BarRow], old: Step | None) -> None:
    """What the core says of a step; where the teacher changed it by hand, only its bars."""
    made = entry.step
    if made is None:
        return
    step.kind, step.part, step.name = made.kind, made.part, entry.name
    step.first, step.last = rows[made.first], rows[made.last]
    step.watch, step.rank = list(made.watch), made.rank
    if old is not None:
        step.dropped = old.dropped or step.dropped
    if old is not None and old.by_hand:
        step.name = old.name
        return
    step.repeats, step.gap, step.why = made.repeats, made.gap, made.why[:300]


def _copy(old: Step, step: Step) -> None:
    """A step of the model as it is, for a student."""
    for name in (
        "kind",
        "part",
        "first",
        "last",
        "name",
        "why",
        "repeats",
        "gap",
        "watch",
        "rank",
        "start",
        "by_hand",
        "dropped",
    ):
        setattr(step, name, getattr(old, name))


def made_now(plan: Plan) -> None:
    """Note the piece as the plan knows it."""
    plan.made_of = plan.piece.fingerprint
    Plan.objects.filter(pk=plan.pk).update(made_of=plan.made_of)
    bars = [[row.pk, bar_to_json(row.bar)] for row in plan.piece.bars.all()]
    PlanSnapshot.objects.update_or_create(plan=plan, defaults={"bars": bars})


def _bars_then(plan: Plan) -> list[tuple[int, Bar]]:
    """(row, bar) in order when the plan was made; none known where it never was noted."""
    snapshot = PlanSnapshot.objects.filter(plan=plan).first()
    return [(pk, bar_from_json(data)) for pk, data in snapshot.bars] if snapshot else []
