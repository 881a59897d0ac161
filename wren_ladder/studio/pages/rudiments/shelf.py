"""The rudiment shelf: each of the forty drawn, and where it occurs in a teacher's pieces."""

from dataclasses import dataclass, replace
from fractions import Fraction

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from wren_ladder.drumming.chart import Bar, Chart, Hand, Tempo
from wren_ladder.drumming.notation.mei import Layout
from wren_ladder.drumming.performance import strokes_per_second
from wren_ladder.drumming.rudiments import (
    RUDIMENTS,
    inversion_drills,
    roll_skeleton,
)
from wren_ladder.drumming.rudiments.drills import Drill
from wren_ladder.drumming.rudiments.recognise import COUNTED
from wren_ladder.drumming.rudiments.rolls import roll_bars
from wren_ladder.drumming.study import BarStudy, study_bar
from wren_ladder.drumming.style import Style
from wren_ladder.studio.climb.standings import refresh
from wren_ladder.studio.drawing.engraving import engrave_each
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.pieces.services import add_piece, save_chart
from wren_ladder.studio.pieces.studies import study_of
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.plans.planning import made_now
from wren_ladder.studio.plans.services import add_step, climb_defaults
from wren_ladder.studio.students.models import Student
from wren_ladder.studio.teaching.models import style_of

SHELF_LAYOUT = Layout(clef=False, counts=False, hands=True)
REPEATS = 8
SHELF_WIDTH = 1900
SKELETON_STEP = Fraction(1, 4)  # semiquavers
DRILLS_FOR = "Drills for "


@dataclass(frozen=True, slots=True)
class Place:
    """Where a rudiment occurs: a bar of a piece."""

    piece: Piece
    index: int
    number: str


def drills() -> tuple[Drill, ...]:
    """Everything on the shelf: the forty, then the sixteen inversion drills."""
    return (*(Drill(one.name, one.bar()) for one in RUDIMENTS), *inversion_drills())


def drill_named(name: str) -> Drill:
    """KeyError if nothing on the shelf has that name."""
    return {drill.name: drill for drill in drills()}[name]


def studied(bar: Bar, style: Style) -> BarStudy:
    return study_bar(bar, Chart("", (bar,)).tempo, style)


@dataclass(frozen=True, slots=True)
class RollView:
    """A counted roll as it is learned: its skeleton, then each note of it doubled."""

    motions: int
    skeleton: str
    full: str
    speeds: tuple[tuple[int, float], ...]  # BPM, strokes a second


def roll_of(name: str) -> RollView | None:
    """The skeleton of a roll with a count, None for anything else."""
    strokes = next(
        (count for count, word in COUNTED.items() if name == f"{word} stroke roll"), 0
    )
    if not strokes:
        return None
    bars = roll_bars(strokes, SKELETON_STEP)
    tempos = [(bpm, Tempo(Fraction(1), bpm)) for bpm in (60, 90, 120)]
    studies = [study_bar(bar, tempos[0][1]) for bar in bars]
    skeleton, full = engrave_each(studies, SHELF_LAYOUT, SHELF_WIDTH)
    return RollView(
        motions=roll_skeleton(strokes).motions,
        skeleton=skeleton,
        full=full,
        speeds=tuple((bpm, strokes_per_second(SKELETON_STEP, tempo)) for bpm, tempo in tempos),
    )


def occurrences(owner: AbstractBaseUser) -> dict[str, list[Place]]:
    """Rudiment's name -> the bars of the teacher's pieces that hold it, twins once."""
    style = style_of(owner.pk)
    found: dict[str, list[Place]] = {}
    for piece in Piece.objects.filter(owner=owner).exclude(title__startswith=DRILLS_FOR):
        for index, bar in enumerate(study_of(piece, style).bars):
            if bar.twin_of is not None:
                continue
            for name in dict.fromkeys(one.rudiment.name for one in bar.rudiments):
                found.setdefault(name, []).append(Place(piece, index, bar.bar.number))
    return found


@transaction.atomic
def send(drill: Drill, student: Student, tempo: int) -> Step:
    """A drill as a step of the student's own plan of drills, to be reached at ``tempo``.

    The drills of a student are a piece of their own, a bar for each, so that they climb
    and are logged like any other step.
    """
    title = f"{DRILLS_FOR}{student.name}"
    bar = drill.bar if student.lead == Hand.RIGHT else _mirrored(drill.bar)
    piece = Piece.objects.filter(owner=student.owner, title=title).first()
    if piece is None:
        chart = Chart(title, (_titled(bar, drill.name, "1"),))
        piece = add_piece(student.owner, _at(chart, tempo))
        plan = Plan(
            owner=student.owner, piece=piece, student=student, target=tempo, for_exam=False
        )
        for name, value in climb_defaults(student.owner_id, tempo).items():
            setattr(plan, name, value)
        plan.save()
    else:
        there = _sent(piece, student, drill.name)
        if there:
            return _raise(there, tempo)
        rows = [row.pk for row in piece.bars.all()]
        bars = piece.chart().bars
        bars = (*bars, _titled(bar, drill.name, str(len(bars) + 1)))
        save_chart(piece, Chart(title, bars), [*rows, None])
        plan = piece.plans.get(student=student)
        plan.target = max(plan.target, tempo)
        plan.save()
    row = piece.bars.last()
    step = add_step(plan, row, row, REPEATS)
    step.name = drill.name
    step.start = climb_defaults(student.owner_id, tempo)["start"]
    step.save()
    made_now(plan)
    refresh(plan)
    return step


def is_drills(piece: Piece) -> bool:
    """Is it the piece that a student's drills are kept in?"""
    return piece.title.startswith(DRILLS_FOR)


def forget_drills(student: Student) -> None:
    """The piece of a student's drills goes with the student, unless others climb it too."""
    drills = Piece.objects.filter(owner=student.owner, title=f"{DRILLS_FOR}{student.name}")
    drills.exclude(plans__student__in=student.owner.students.exclude(pk=student.pk)).delete()


def _sent(piece: Piece, student: Student, name: str) -> Step | None:
    """The step of a drill that the student has already."""
    steps = Step.objects.filter(plan__piece=piece, plan__student=student, name=name)
    return steps.select_related("plan").first()


def _raise(step: Step, tempo: int) -> Step:
    """A drill sent again goes on where it stands, to the higher target."""
    step.dropped = False
    step.save()
    step.plan.target = max(step.plan.target, tempo)
    step.plan.save()
    refresh(step.plan)
    return step


def _titled(bar: Bar, name: str, number: str) -> Bar:
    return replace(bar, number=number, section=name[:60])


def _mirrored(bar: Bar) -> Bar:
    hits = tuple(replace(hit, hand=hit.hand and hit.hand.other) for hit in bar.hits)
    return replace(bar, hits=hits)


def _at(chart: Chart, tempo: int) -> Chart:
    first = replace(chart.bars[0], tempo=Tempo(Fraction(1), tempo))
    return Chart(chart.title, (first, *chart.bars[1:]))
