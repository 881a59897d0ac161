"""What of a piece a student knows already, by the table of grades."""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from itertools import chain, pairwise

from quicktions import Fraction

from wren_ladder.drumming.chart import Tempo
from wren_ladder.drumming.description.techniques import techniques
from wren_ladder.drumming.grades import HOUSE_SYLLABUS, MOST_GRADE, Syllabus
from wren_ladder.drumming.study import Study

PROPORTION = "tempo change at a proportion"
SIMPLE = {Fraction(*pair) for pair in ((2, 1), (1, 2), (3, 2), (2, 3), (4, 3), (3, 4))}


class Kind(StrEnum):
    FIGURE = "figure"
    TECHNIQUE = "technique"
    RUDIMENT = "rudiment"


# One thing by two names is told once: what is left out where the other is found.
SHORT_ROLLS = (Kind.TECHNIQUE, "5, 7 and 9 stroke rolls")
COUNTED = [(Kind.RUDIMENT, f"{many} stroke roll") for many in ("five", "seven", "nine")]
SAME = (
    ((Kind.RUDIMENT, "flam"), (Kind.TECHNIQUE, "flams")),
    ((Kind.RUDIMENT, "drag"), (Kind.TECHNIQUE, "drags")),
    ((Kind.RUDIMENT, "multiple bounce roll"), (Kind.TECHNIQUE, "buzz roll")),
    ((Kind.RUDIMENT, "double stroke open roll"), (Kind.TECHNIQUE, "open double-stroke roll")),
    *((SHORT_ROLLS, counted) for counted in COUNTED),
)


class Status(StrEnum):
    KNOWN = "known"
    DUE = "due"
    NEW = "new"


@dataclass(frozen=True, slots=True)
class Item:
    """One thing of a piece; ``bars`` are places from 0, the first where it first appears."""

    name: str
    kind: Kind
    grade: int | None  # None where no syllabus has it
    status: Status
    bars: tuple[int, ...]


def vocabulary(
    studied: Study, grade: int, syllabus: Syllabus = HOUSE_SYLLABUS
) -> tuple[Item, ...]:
    """Everything in a piece against a student's grade, hardest first."""
    found: dict[tuple[Kind, str], list[int]] = {}
    for place, bar in enumerate(studied.bars):
        for kind, names in _names(bar).items():
            for name in names:
                found.setdefault((kind, name), []).append(place)
    for left_out, stands in SAME:
        if stands in found:
            found.pop(left_out, None)
    for place in _proportions(studied.tempos):
        found.setdefault((Kind.TECHNIQUE, PROPORTION), []).append(place)
    items = (
        Item(name, kind, syllabus.get(name), _status(syllabus.get(name), grade), tuple(bars))
        for (kind, name), bars in found.items()
    )
    return tuple(sorted(items, key=lambda item: (-(item.grade or MOST_GRADE + 1), item.bars)))


def _proportions(tempos: Sequence[Tempo]) -> list[int]:
    """The places of the bars where the tempo is a simple multiple or share of the last."""
    ratios = [
        (after.beat * after.bpm) / (before.beat * before.bpm)
        for before, after in pairwise(tempos)
    ]
    return [place for place, ratio in enumerate(ratios, 1) if ratio in SIMPLE]


def names_in(studied: Study) -> tuple[str, ...]:
    """Every figure, technique and rudiment in it."""
    found = (names for bar in studied.bars for names in _names(bar).values())
    return tuple(dict.fromkeys(chain.from_iterable(found)))


def _names(bar) -> dict[Kind, Sequence[str]]:
    return {
        Kind.FIGURE: bar.figures,
        Kind.TECHNIQUE: techniques(bar.bar, bar.feel),
        Kind.RUDIMENT: tuple(dict.fromkeys(one.rudiment.name for one in bar.rudiments)),
    }


def _status(asked: int | None, grade: int) -> Status:
    """Due at the student's own grade, but for what a first lesson has; what no syllabus has is
    new."""
    if asked is None or asked > grade:
        return Status.NEW
    if not asked:
        return Status.KNOWN
    return Status.DUE if asked == grade else Status.KNOWN
