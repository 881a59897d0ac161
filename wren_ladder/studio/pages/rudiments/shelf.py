"""The rudiment shelf: each of the forty drawn, and where it occurs in a teacher's pieces."""

from dataclasses import dataclass

from django.contrib.auth.models import AbstractBaseUser
from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Chart, Tempo
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
from wren_ladder.studio.drawing.engraving import engrave_each
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.pieces.studies import study_of
from wren_ladder.studio.teaching.models import style_of

SHELF_LAYOUT = Layout(clef=False, counts=False, hands=True)
SHELF_WIDTH = 1900
SKELETON_STEP = Fraction(1, 4)  # semiquavers


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
    for piece in Piece.objects.filter(owner=owner, kind=Piece.Kind.PIECE):
        for index, bar in enumerate(study_of(piece, style).bars):
            if bar.twin_of is not None:
                continue
            for name in dict.fromkeys(one.rudiment.name for one in bar.rudiments):
                found.setdefault(name, []).append(Place(piece, index, bar.bar.number))
    return found
