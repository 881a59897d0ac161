"""Plans: broken down from a piece, given to students, their steps edited."""

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from wren_ladder.drumming.breakdown import StepKind, break_down, describe
from wren_ladder.drumming.breakdown.step import REPEATS
from wren_ladder.drumming.tempo import start_tempo
from wren_ladder.studio.lessons.models import Plan, Step
from wren_ladder.studio.pieces.models import BarRow, Piece
from wren_ladder.studio.pieces.studies import study_of
from wren_ladder.studio.practice.standings import refresh
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.teaching.models import style_of


def climb_defaults(owner_id: int, target: int) -> dict[str, int]:
    """Where a climb starts, its rungs and what earns them, as this teacher does it."""
    style = style_of(owner_id)
    start = min(target, start_tempo(target, style.start_share))
    return {"start": start, "rung": style.rung, "clean_bars": style.clean_bars}


@transaction.atomic
def model_plan(piece: Piece, owner: AbstractBaseUser) -> Plan:
    """The studio's own plan of a piece, broken down by the bar school if it is new."""
    target = piece.tempo.bpm
    plan, new = Plan.objects.get_or_create(
        piece=piece,
        student=None,
        owner=owner,
        defaults={"target": target, **climb_defaults(owner.pk, target)},
    )
    if new:
        _break_down(plan)
    return plan


def _break_down(plan: Plan) -> None:
    studied = study_of(plan.piece)
    rows = list(plan.piece.bars.all())
    bars = studied.chart.bars
    Step.objects.bulk_create(
        Step(
            plan=plan,
            position=position,
            kind=step.kind,
            first=rows[step.first],
            last=rows[step.last],
            name=describe(
                step.kind, bars[step.first], bars[step.last], bars[step.first].section
            ),
            why=step.why[:300],
            repeats=step.repeats,
        )
        for position, step in enumerate(break_down(studied))
    )
    refresh(plan)


@transaction.atomic
def give(plan: Plan, student: Student) -> Plan:
    """Save a new plan for a student, with the steps of the piece's model plan.

    ``plan`` carries the piece, target, start and rule; it is not stored yet.
    """
    model = model_plan(plan.piece, plan.owner)
    plan.student = student
    plan.save()
    Step.objects.bulk_create(
        Step(
            plan=plan,
            position=position,
            kind=step.kind,
            first_id=step.first_id,
            last_id=step.last_id,
            name=step.name,
            why=step.why,
            repeats=step.repeats,
            start=step.start,
        )
        for position, step in enumerate(model.steps.filter(dropped=False))
    )
    refresh(plan)
    return plan


@transaction.atomic
def add_step(plan: Plan, first: BarRow, last: BarRow, repeats: int = 0) -> Step:
    """A step of the teacher's own, at the end of the plan."""
    position = max((step.position for step in plan.steps.all()), default=-1) + 1
    step = Step.objects.create(
        plan=plan,
        position=position,
        kind=StepKind.OWN,
        first=first,
        last=last,
        name=describe(StepKind.OWN, first.bar, last.bar),
        why="added by you",
        repeats=repeats or REPEATS[StepKind.OWN],
    )
    refresh(plan)
    return step


@transaction.atomic
def move_step(step: Step, by: int) -> None:
    """Move a step up (-1) or down (+1) among those that are not dropped."""
    steps = list(step.plan.steps.filter(dropped=False))
    here = steps.index(step)
    there = max(0, min(len(steps) - 1, here + by))
    steps.insert(there, steps.pop(here))
    for position, moved in enumerate(steps):
        if moved.position != position:
            Step.objects.filter(pk=moved.pk).update(position=position)
    refresh(step.plan)


@transaction.atomic
def set_dropped(step: Step, dropped: bool) -> None:
    """Leave a step out, or bring it back; its attempts stay either way."""
    step.dropped = dropped
    step.save(update_fields=["dropped"])
    refresh(step.plan)
