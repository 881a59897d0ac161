"""How onsets inside one beat are written as note values, rests and tuplets."""

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache
from itertools import pairwise
from math import lcm

FINEST = 32  # units per beat beyond which a grid is not looked for


@dataclass(frozen=True, slots=True)
class Value:
    """A written note value or rest; ``at`` in crotchets from the bar's start.

    ``name`` is MEI's: "4" for a crotchet, "8" for a quaver. ``sounds`` is False for rests.
    """

    at: Fraction
    name: str
    dots: int
    sounds: bool


@dataclass(frozen=True, slots=True)
class BeatValues:
    """One beat's values; ``tuplet`` is (3, 2) for a triplet, None for plain values."""

    values: tuple[Value, ...]
    tuplet: tuple[int, int] | None

    @property
    def sounding(self) -> bool:
        return any(value.sounds for value in self.values)


def write_beat(onsets: Sequence[Fraction], start: Fraction, length: Fraction) -> BeatValues:
    """Note values for rising ``onsets`` within start ≤ onset < start + length.

    Each note lasts to the next onset or the beat's end; silence before the first is
    rests. A note whose gap is no single value gets the largest that fits, then rests.
    """
    places = tuple((onset - start) / length for onset in onsets)
    tuplet, values = _divide(places, length)
    placed = tuple(Value(start + at, name, dots, sounds) for at, name, dots, sounds in values)
    return BeatValues(placed, tuplet)


@lru_cache(maxsize=2048)
def _divide(places: tuple[Fraction, ...], length: Fraction) -> tuple:
    """(tuplet, values) for places from 0 up to 1 of a beat; a piece has few of these."""
    grid = lcm(*(place.denominator for place in places)) if places else 1
    ternary = length.numerator % 3 == 0
    if ternary:
        grid = lcm(grid, 3)
    if _plain_grid(grid, ternary):
        unit, tuplet = length / grid, None
    else:
        normal = _normal(grid, ternary)
        unit, tuplet = length / normal, (grid, normal)
    marks = [int(place * grid) for place in places]
    values: list[tuple] = []
    if not marks or marks[0]:
        values += _fill(0, marks[0] if marks else grid, unit, False)
    for mark, end in pairwise([*marks, grid]):
        values += _fill(mark, end, unit, True)
    real = length / grid  # sounding length of one unit, tuplet or not
    return tuplet, [(units * real, name, dots, sounds) for units, name, dots, sounds in values]


def _plain_grid(grid: int, ternary: bool) -> bool:
    rest = grid // 3 if ternary and grid % 3 == 0 else grid
    return rest & (rest - 1) == 0


def _normal(grid: int, ternary: bool) -> int:
    """How many of the written values the beat would hold without the tuplet."""
    normal = 3 if ternary else 1
    while normal * 2 <= grid:
        normal *= 2
    return normal


def _fill(first: int, end: int, unit: Fraction, sounds: bool) -> list[tuple]:
    """Values from unit ``first`` to ``end``: one note (or rest), then rests."""
    values = []
    while first < end:
        units, name, dots = _largest(end - first, unit)
        values.append((first, name, dots, sounds))
        first += units
        sounds = False
    return values


def _largest(units: int, unit: Fraction) -> tuple[int, str, int]:
    """The longest single value of at most ``units`` units, plain or dotted."""
    for count in range(units, 0, -1):
        length = count * unit
        for dots, share in ((0, Fraction(1)), (1, Fraction(3, 2))):
            name = 4 / (length / share)
            if name.denominator == 1 and name.numerator & (name.numerator - 1) == 0:
                return count, str(name.numerator), dots
    return 1, str(FINEST), 0
