"""Figures: what fills one beat, by its common name.

The names are those of note values (common practice, no source).
"""

from enum import StrEnum
from fractions import Fraction

from wren_ladder.drumming.chart import Bar, Hit

QUARTERS = {
    (0,): "crotchet",
    (0, 2): "two quavers",
    (0, 1, 2, 3): "four semiquavers",
    (0, 1, 2): "two semiquavers + quaver",
    (0, 2, 3): "quaver + two semiquavers",
    (0, 3): "dotted quaver + semiquaver",
    (0, 1): "semiquaver + dotted quaver",
    (0, 1, 3): "semiquaver–quaver–semiquaver",
    (2,): "off-beat quaver",
    (1, 2, 3): "semiquaver rest + three",
    (2, 3): "quaver rest + two semiquavers",
    (1, 3): "off-beat semiquavers",
    (1, 2): "semiquaver rest + two",
    (1,): "single e",
    (3,): "single a",
}
THIRDS = {
    (0, 1, 2): "triplet",
    (0, 2): "triplet, middle silent",
    (0, 1): "triplet, last silent",
    (1, 2): "triplet, first silent",
    (1,): "triplet, middle alone",
    (2,): "triplet, last alone",
}
COMPOUND = {
    (0,): "dotted crotchet",
    (0, 2, 4): "three quavers",
    (0, 4): "crotchet + quaver",
    (0, 2): "quaver + crotchet",
    (0, 3): "two dotted quavers",
    (0, 1, 2, 3, 4, 5): "six semiquavers",
    (2, 4): "quaver rest + two quavers",
    (0, 3, 4): "dotted quaver + semiquaver + quaver",
    (2,): "second quaver alone",
    (4,): "last quaver alone",
}
OTHER = "mixed figure"


class Voice(StrEnum):
    """Whose figures are named: each side by itself, or what sounds together."""

    HANDS = "hands"
    FEET = "feet"
    TOGETHER = "together"


def figures(bar: Bar, voice: Voice = Voice.TOGETHER) -> tuple[str, ...]:
    """The distinct figures of a bar's voice, in order of appearance."""
    return tuple(dict.fromkeys(name for _, name in beat_figures(bar, voice)))


def beat_figures(bar: Bar, voice: Voice = Voice.TOGETHER) -> tuple[tuple[Fraction, str], ...]:
    """(start, name) of what fills each beat; none where a roll goes on through it."""
    found = []
    for start, length, hits in bar.by_beat():
        onsets = {hit.at - start for hit in hits if _sounds_in(hit, voice)}
        if not onsets and voice is not Voice.FEET and bar.rolls_through(start):
            continue  # a roll is no rest, and no figure of its own
        found.append((start, name_figure(onsets, length)))
    return tuple(found)


def _sounds_in(hit: Hit, voice: Voice) -> bool:
    return voice is Voice.TOGETHER or hit.drum.by_foot == (voice is Voice.FEET)


def name_figure(onsets: set[Fraction], length: Fraction) -> str:
    """The name of one beat's onsets, counted in crotchets from the beat."""
    if not onsets:
        return "rest"
    if length == Fraction(3, 2):
        return _look_up(COMPOUND, onsets, length / 6)
    binary = _look_up(QUARTERS, onsets, length / 4)
    return binary if binary != OTHER else _look_up(THIRDS, onsets, length / 3)


def onsets_of(name: str, length: Fraction) -> tuple[Fraction, ...]:
    """When the notes of a figure come, in crotchets from the beat; the inverse of
    ``name_figure``. KeyError where no beat of this length has a figure of that name."""
    for table, parts in _tables(length):
        for places, found in table.items():
            if found == name:
                return tuple(place * length / parts for place in places)
    if name == "rest":
        return ()
    raise KeyError(name)


def names_for(length: Fraction) -> tuple[str, ...]:
    """Every figure that fills a beat of this length, silence too."""
    names = [name for table, _ in _tables(length) for name in table.values()]
    return ("rest", *dict.fromkeys(names))


def _tables(length: Fraction) -> tuple[tuple[dict, int], ...]:
    """(table, parts of a beat) for a beat of this length."""
    if length == Fraction(3, 2):
        return ((COMPOUND, 6),)
    return ((QUARTERS, 4), (THIRDS, 3))


def _look_up(table: dict, onsets: set[Fraction], unit: Fraction) -> str:
    places = sorted(onset / unit for onset in onsets)
    if any(place.denominator != 1 for place in places):
        return OTHER
    return table.get(tuple(int(place) for place in places), OTHER)
