"""What is learned at which grade, and what of a piece a student knows already.

The house syllabus is a starting point that a teacher edits; it is no exam board's.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

from wren_ladder.drumming.description.techniques import techniques
from wren_ladder.drumming.rudiments import RUDIMENTS
from wren_ladder.drumming.study import Study

MOST_GRADE = 8


class Kind(StrEnum):
    FIGURE = "figure"
    TECHNIQUE = "technique"
    RUDIMENT = "rudiment"


class Status(StrEnum):
    KNOWN = "known"
    DUE = "due"
    NEW = "new"


Syllabus = Mapping[str, int]  # name -> grade

FIGURES: Syllabus = {
    "rest": 1,
    "crotchet": 1,
    "two quavers": 1,
    "four semiquavers": 1,
    "two semiquavers + quaver": 1,
    "quaver + two semiquavers": 1,
    "dotted crotchet": 1,
    "dotted crotchet + quaver": 1,
    "three quavers": 1,
    "quaver": 1,
    "two semiquavers": 1,
    "minim": 1,
    "two crotchets": 1,
    "four quavers": 1,
    "two quavers + crotchet": 1,
    "crotchet + two quavers": 1,
    "off-beat crotchet": 2,
    "quaver–crotchet–quaver": 3,
    "quaver + dotted crotchet": 3,
    "crotchet rest + two quavers": 2,
    "quaver rest + three quavers": 3,
    "eight semiquavers": 2,
    "off-beat quaver": 2,
    "crotchet + quaver": 2,
    "quaver + crotchet": 2,
    "dotted quaver + semiquaver": 3,
    "semiquaver–quaver–semiquaver": 3,
    "semiquaver rest + three": 3,
    "semiquaver + dotted quaver": 3,
    "quaver rest + two semiquavers": 3,
    "triplet": 4,
    "triplet, middle silent": 4,
    "triplet, last silent": 4,
    "triplet, first silent": 4,
    "triplet, middle alone": 5,
    "triplet, last alone": 5,
    "six semiquavers": 4,
    "quaver + two semiquavers + quaver": 3,
    "two semiquavers + two quavers": 3,
    "two quavers + two semiquavers": 3,
    "four semiquavers + quaver": 3,
    "quaver + four semiquavers": 3,
    "crotchet + two semiquavers": 3,
    "sextuplet": 6,
    "sextuplet, last silent": 6,
    "half-beat triplet + quaver": 6,
    "quaver + half-beat triplet": 6,
    "half-beat triplet": 6,
    "eight demisemiquavers": 6,
    "crotchet triplet": 7,
    "five in a beat": 8,
    "seven in a beat": 8,
    "off-beat semiquaver": 5,
    "quaver rest + two quavers": 4,
    "off-beat semiquavers": 5,
    "semiquaver rest + two": 5,
    "single e": 5,
    "single a": 5,
    "two dotted quavers": 5,
    "dotted quaver + semiquaver + quaver": 5,
    "second quaver alone": 5,
    "last quaver alone": 5,
}
TECHNIQUES: Syllabus = {
    "rock beat": 1,
    "crash at a section": 1,
    "open and closed hat": 1,
    "pushed crash": 1,
    "toms": 1,
    "accents": 2,
    "flams": 2,
    "drags": 2,
    "ruffs": 2,
    "buzz roll": 2,
    "left foot on the hat": 2,
    "cross-stick": 2,
    "rim shots": 3,
    "open double-stroke roll": 3,
    "crescendo and diminuendo": 3,
    "ghost notes": 4,
    "off-beat open hats": 4,
    "paradiddle groove": 4,
    "inverted paradiddle": 4,
    "ride bell": 4,
    "5, 7 and 9 stroke rolls": 5,
    "bell on the off-beats": 4,
    "shuffle": 4,
    "shuffle with ghosts": 6,
    "bossa foot": 6,
    "samba foot": 6,
    "swing ride": 6,
    "comping on the ride": 6,
    "linear figures": 6,
    "hat opened in semiquavers": 6,
    "half-time shuffle": 7,
    "odd metre": 7,
    "left foot off the beat": 7,
    "flams round the kit": 7,
    "groups of three across the beat": 7,
    "linear groove": 8,
    "both feet under the hands": 8,
}
# What a first lesson has: never told as due or new.
BASICS = frozenset(
    {
        "rest",
        "crotchet",
        "two quavers",
        "dotted crotchet",
        "three quavers",
        "quaver",
        "minim",
        "two crotchets",
        "rock beat",
        "crash at a section",
    }
)
HOUSE_SYLLABUS: Syllabus = {
    **FIGURES,
    **TECHNIQUES,
    **{one.name: one.grade for one in RUDIMENTS},
}


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
    items = (
        Item(name, kind, syllabus.get(name), _status(syllabus.get(name), grade), tuple(bars))
        for (kind, name), bars in found.items()
    )
    return tuple(sorted(items, key=lambda item: (-(item.grade or MOST_GRADE + 1), item.bars)))


def _names(bar) -> dict[Kind, Sequence[str]]:
    return {
        Kind.FIGURE: bar.figures,
        Kind.TECHNIQUE: techniques(bar.bar, bar.swing),
        Kind.RUDIMENT: tuple(dict.fromkeys(one.rudiment.name for one in bar.rudiments)),
    }


def _status(asked: int | None, grade: int) -> Status:
    """Due at the student's own grade; what no syllabus has is new."""
    if asked is None or asked > grade:
        return Status.NEW
    return Status.DUE if asked == grade else Status.KNOWN
