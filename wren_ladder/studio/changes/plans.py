"""Plans: made, given, revised and changed; their steps moved, split, joined and set by hand."""

from datetime import date

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.db.models import F, Q

from wren_ladder.drumming.breakdown import StepKind, describe
from wren_ladder.drumming.breakdown.step import MEETINGS, PARTS
from wren_ladder.drumming.building.layers import LayerCode
from wren_ladder.drumming.building.parts import Part
from wren_ladder.drumming.chart import Bar
from wren_ladder.drumming.chart.serial import bar_to_json
from wren_ladder.drumming.climb import start_tempo
from wren_ladder.drumming.description.phrases import phrases
from wren_ladder.drumming.style import School
from wren_ladder.studio.climb.standings import refresh, refresh_all
from wren_ladder.studio.pieces.models import BarRow, Piece
from wren_ladder.studio.plans.models import OwnRank, Plan, Revision, Step, StudentBar
from wren_ladder.studio.plans.planning import apply_revision, fill_plan
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.teaching.models import style_of

REPEATS = 4  # of a step of the teacher's own


def plan_defaults(owner_id: int, target: int, grade: int | None = None) -> dict[str, object]:
    """The school, the start, the rungs and what earns them, as this teacher has them in a new
    plan; a beginner starts where it is easy in itself."""
    style = style_of(owner_id)
    start = min(target, start_tempo(target, style.start_share, grade))
    return {
        "school": style.school,
        "start": start,
        "rung": style.rung,
        "clean_bars": style.clean_bars,
    }


@transaction.atomic
def model_plan(piece: Piece, owner: AbstractBaseUser) -> Plan:
    """The studio's own plan of a piece, broken down by the teacher's school if it is new."""
    target = piece.tempo.bpm
    plan, new = Plan.objects.get_or_create(
        piece=piece,
        student=None,
        owner=owner,
        defaults={
            "target": target,
            **plan_defaults(owner.pk, target),
        },
    )
    if new:
        fill_plan(plan)
        refresh(plan)
    return plan


@transaction.atomic
def give(plan: Plan, student: Student) -> Plan:
    """Save a new plan for a student, broken down for them; what the teacher changed by hand
    in the piece's model plan is taken over.

    ``plan`` carries the piece, target, start, rule, school and minutes; it is not stored yet.
    """
    model = Plan.objects.filter(piece=plan.piece, student=None).first()
    plan.student = student
    plan.save()
    fill_plan(plan, model)
    refresh_all(Plan.objects.filter(student=student))  # who has one piece more has less time
    return plan


@transaction.atomic
def set_status(plan: Plan, status: str, today: date) -> None:
    """Climbing, paused, finished and so on; the minutes of the others follow."""
    Plan.objects.filter(pk=plan.pk).update(status=status, since=today)
    refresh_all(Plan.objects.filter(student=plan.student_id))


@transaction.atomic
def revise(plan: Plan, today: date, school: School | None = None) -> Revision:
    """Revise the plan to the piece as it is, perhaps by another school."""
    revision = apply_revision(plan, today, school)
    refresh(plan)
    return revision


@transaction.atomic
def change_plan(plan: Plan, fields: dict[str, object]) -> Plan:
    """Target, start, rules: only the fields given are written."""
    Plan.objects.filter(pk=plan.pk).update(**fields, version=F("version") + 1)
    refresh(plan)
    return Plan.objects.get(pk=plan.pk)


@transaction.atomic
def change_step(step: Step, fields: dict[str, object]) -> None:
    """What the teacher set of a step by hand; a revision lets it be."""
    Step.objects.filter(pk=step.pk).update(**fields, by_hand=True)
    refresh(step.plan)


@transaction.atomic
def write_own_bar(plan: Plan, index: int, written: Bar) -> None:
    """Write a bar into the student's version of the piece; every plan of theirs follows."""
    row = plan.piece.bars.get(position=index)
    StudentBar.objects.update_or_create(
        student=plan.student,
        bar=row,
        defaults={"data": bar_to_json(written), "page": row.data},
    )
    refresh(plan)


@transaction.atomic
def forget_own_bar(plan: Plan, index: int) -> None:
    """Back to the bar as the page has it."""
    row = plan.piece.bars.get(position=index)
    StudentBar.objects.filter(student=plan.student, bar=row).delete()
    refresh(plan)


@transaction.atomic
def add_step(plan: Plan, first: BarRow, last: BarRow, **fields) -> Step:
    """A step of the teacher's own, at the end of the plan; ``fields`` of Step go over what it
    has by itself."""
    position = max((step.position for step in plan.steps.all()), default=-1) + 1
    by_itself = {
        "name": describe(StepKind.OWN, "", first.bar, last.bar),
        "why": "added by you",
        "repeats": REPEATS,
    }
    step = Step.objects.create(
        plan=plan,
        position=position,
        kind=StepKind.OWN,
        first=first,
        last=last,
        by_hand=True,
        **by_itself | fields,
    )
    refresh(plan)
    return step


@transaction.atomic
def bar_called_up(plan: Plan, row: BarRow) -> Step:
    """The step of one bar of the piece, to be worked at in a lesson; one of the teacher's own
    where the plan has none, or one that was left out, taken up again."""
    alone = plan.steps.filter(first=row, last=row, kind__in=(StepKind.BAR, StepKind.OWN))
    step = alone.order_by("dropped", "position").first()
    if step is None:
        return add_step(plan, row, row, why="called up in a lesson")
    if step.dropped:
        set_dropped(step, dropped=False)
    return step


@transaction.atomic
def layer_called_up(step: Step, code: LayerCode) -> Step:
    """A layer or pair of limbs of a step's bar, put in front of it where the plan has none."""
    there = step.plan.steps.filter(kind=StepKind.LAYER, first=step.first, part=code)
    layer = there.order_by("dropped", "position").first()
    if layer is None:
        name = describe(StepKind.LAYER, code, step.first.bar, step.first.bar)
        layer = Step(
            kind=StepKind.LAYER, part=code, first=step.first, last=step.first, name=name
        )
        _insert(step, [layer], behind=False)
        refresh(step.plan)
    elif layer.dropped:
        Step.objects.filter(pk=layer.pk).update(dropped=False)
        refresh(step.plan)
    return layer


@transaction.atomic
def move_step(step: Step, by: int) -> None:
    """Move a step up (-1) or down (+1) among those that are not dropped."""
    steps = list(step.plan.steps.filter(dropped=False))
    if step not in steps:
        return  # it was left out meanwhile
    here = steps.index(step)
    there = max(0, min(len(steps) - 1, here + by))
    steps.insert(there, steps.pop(here))
    _number(steps)
    refresh(step.plan)


@transaction.atomic
def place_step(step: Step, before: Step | None) -> None:
    """Move a step in front of another of its plan, or to the end."""
    steps = [one for one in step.plan.steps.filter(dropped=False) if one != step]
    steps.insert(steps.index(before) if before in steps else len(steps), step)
    _number(steps)
    refresh(step.plan)


def _number(steps: list[Step]) -> None:
    for position, moved in enumerate(steps):
        if moved.position != position:
            Step.objects.filter(pk=moved.pk).update(position=position)


@transaction.atomic
def set_dropped(step: Step, dropped: bool) -> int:
    """Leave a step out, or bring it back; its attempts stay either way. The halves and layers
    of a bar go and come with it; how many those were."""
    with_it = Q(pk=step.pk)
    if step.step_kind is StepKind.BAR:
        with_it |= Q(first=step.first_id, kind__in=PARTS)
    changed = step.plan.steps.filter(with_it).exclude(dropped=dropped)
    many = changed.update(dropped=dropped)
    step.dropped = dropped
    refresh(step.plan)
    return max(0, many - 1)


@transaction.atomic
def split_step(step: Step) -> tuple[Step, Step]:
    """A step in two: a bar gets its halves before it, a run becomes two runs and is left out.

    ValueError, in words, where there is nothing to split.
    """
    _refuse_left_out(step)
    kind = step.step_kind
    if not step.music_is_there or (kind in (*PARTS, *MEETINGS) and kind is not StepKind.NOTES):
        raise ValueError(f"{step.name} has no smaller parts")
    first, last = step.places
    if first == last:
        halves = [_part_of(step, half) for half in (Part.FIRST, Part.SECOND)]
        _insert(step, halves, behind=False)
        refresh(step.plan)
        return halves[0], halves[1]
    middle = _middle(step.plan, first, last)
    runs = [_run_of(step, first, middle - 1), _run_of(step, middle, last)]
    _insert(step, runs, behind=True)
    set_dropped(step, dropped=True)
    return runs[0], runs[1]


def _middle(plan: Plan, first: int, last: int) -> int:
    """Where a run is cut: at a line if one begins inside it, as near the middle as can be."""
    starts = [phrase.first for phrase in phrases(plan.piece.chart().bars)]
    inside = [place for place in starts if first < place <= last]
    wanted = (first + last + 1) / 2
    return min(inside or [round(wanted)], key=lambda place: abs(place - wanted))


def _part_of(step: Step, half: str) -> Step:
    name = describe(StepKind.HALF, half, step.first.bar, step.first.bar)
    return Step(kind=StepKind.HALF, part=half, first=step.first, last=step.first, name=name)


def _run_of(step: Step, first: int, last: int) -> Step:
    rows = {row.position: row for row in step.plan.piece.bars.all()}
    name = describe(StepKind.OWN, "", rows[first].bar, rows[last].bar)
    return Step(kind=StepKind.OWN, first=rows[first], last=rows[last], name=name)


def _insert(step: Step, new: list[Step], behind: bool) -> None:
    """Put steps of the teacher's own into the plan, next to one that is there."""
    steps = list(step.plan.steps.filter(dropped=False))
    here = steps.index(step) + (1 if behind else 0)
    for one in new:
        one.plan, one.by_hand, one.repeats = step.plan, True, step.repeats
        one.why, one.rank, one.watch = f"from {step.name}, by you", step.rank, step.watch
        one.position = step.position
        one.save()
    _number([*steps[:here], *new, *steps[here:]])


@transaction.atomic
def join_with_next(step: Step) -> Step:
    """One step from this and the next of the plan; both are left out, and can be brought
    back. ValueError, in words, where their bars do not follow each other."""
    _refuse_left_out(step)
    steps = list(
        step.plan.steps.filter(dropped=False).select_related("first", "last", "standing")
    )
    here = steps.index(step)
    if here + 1 == len(steps):
        raise ValueError(f"{step.name} is the last step; nothing follows it")
    after = steps[here + 1]
    if StepKind.JUMP in (step.step_kind, after.step_kind):
        raise ValueError("a join across a jump stays by itself")
    if not (step.music_is_there and after.music_is_there):
        raise ValueError("the bars of one of the two are gone from the piece")
    ends = [*step.places, *after.places]
    played = {*step.played, *after.played}
    if played != set(range(min(ends), max(ends) + 1)):
        raise ValueError(f"the bars of {step.name} and {after.name} do not follow each other")
    joined = _run_of(step, min(ends), max(ends))
    _insert(after, [joined], behind=True)
    step.plan.steps.filter(pk__in=(step.pk, after.pk)).update(dropped=True)
    refresh(step.plan)
    return joined


def _refuse_left_out(step: Step) -> None:
    if step.dropped:
        raise ValueError(f"{step.name} is left out of the plan; bring it back first")


@transaction.atomic
def set_repeats(step: Step, repeats: int, gap: int) -> None:
    """How often, and with how many empty bars between, as the teacher wants it."""
    change_step(step, {"repeats": repeats, "gap": gap})


@transaction.atomic
def set_rank(plan: Plan, row: BarRow, rank: float | None) -> None:
    """The teacher's own rank of a bar for the plan's student, or none; equal bars follow."""
    OwnRank.objects.filter(bar=row, student=plan.student).delete()
    if rank is not None:
        OwnRank.objects.create(bar=row, student=plan.student, rank=rank)
