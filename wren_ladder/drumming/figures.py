"""Figures: what fills one beat, by its common name.

The names are those of note values (common practice, no source).
"""

from fractions import Fraction

from wren_ladder.drumming.chart import Bar

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


def figures(bar: Bar) -> tuple[str, ...]:
    """The distinct figures of the bar's hands and feet together, in order of appearance."""
    found: dict[str, None] = {}
    for start, length, hits in bar.by_beat():
        found[name_figure({hit.at - start for hit in hits}, length)] = None
    return tuple(found)


def name_figure(onsets: set[Fraction], length: Fraction) -> str:
    """The name of one beat's onsets, counted in crotchets from the beat."""
    if not onsets:
        return "rest"
    if length == Fraction(3, 2):
        return _look_up(COMPOUND, onsets, length / 6)
    binary = _look_up(QUARTERS, onsets, length / 4)
    return binary if binary != OTHER else _look_up(THIRDS, onsets, length / 3)


def _look_up(table: dict, onsets: set[Fraction], unit: Fraction) -> str:
    places = sorted(onset / unit for onset in onsets)
    if any(place.denominator != 1 for place in places):
        return OTHER
    return table.get(tuple(int(place) for place in places), OTHER)
