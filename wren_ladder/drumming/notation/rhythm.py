"""How onsets inside one beat are written as note values, rests and tuplets."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import pairwise
from math import lcm

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar

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
    """One beat's values; ``tuplet`` is (3, 2) for a triplet, None for plain values. ``end`` is
    where they end, in crotchets: a note may last over its beat."""

    values: tuple[Value, ...]
    tuplet: tuple[int, int] | None
    end: Fraction

    @property
    def sounding(self) -> bool:
        return any(value.sounds for value in self.values)


def halves(bar: Bar) -> tuple[Fraction, ...]:
    """Where two beats may be written as one rest or one roll: the halves of 4/4, so that its
    middle can be seen."""
    return (Fraction(0), Fraction(2)) if str(bar.meter) == "4/4" and not bar.pickup else ()


def write_beat(
    onsets: Sequence[Fraction],
    start: Fraction,
    length: Fraction,
    ends: Mapping[Fraction, Fraction] | None = None,
    first: Fraction | None = None,
) -> BeatValues:
    """Note values for rising ``onsets`` within start ≤ onset < start + length.

    Each note lasts to the next onset or the beat's end, or to where ``ends`` has it end;
    silence is rests. A note whose gap is no single value gets the largest that fits, then
    rests. Up to ``first`` a note of the beat before still lasts.
    """
    ends, stop = ends or {}, start + length
    over = bool(onsets) and ends.get(onsets[-1], stop) > stop
    if over or first not in (None, start):
        return _write_over(onsets, start if first is None else first, stop, ends)
    places = tuple((onset - start) / length for onset in onsets)
    until = tuple((ends[onset] - start) / length if onset in ends else None for onset in onsets)
    tuplet, values = _divide(places, until, length)
    placed = tuple(Value(start + at, name, dots, sounds) for at, name, dots, sounds in values)
    return BeatValues(placed, tuplet, stop)


def _write_over(
    onsets: Sequence[Fraction], first: Fraction, stop: Fraction, ends: Mapping
) -> BeatValues:
    """A beat that a note lasts into or out of: plain values, and ties where one alone does
    not hold a note."""
    values: list[Value] = []
    at = first
    for onset, following in pairwise([*onsets, stop]):
        values += _plain(at, onset, False)
        if onset in ends:
            at = ends[onset]
            values += _plain(onset, at, True)
            continue
        note, *rests = _plain(onset, following, True)
        values += [note, *(replace(rest, sounds=False) for rest in rests)]
        at = following
    values += _plain(at, stop, False)
    return BeatValues(tuple(values), None, max(at, stop))


def _plain(start: Fraction, end: Fraction, sounds: bool) -> list[Value]:
    """Values without a tuplet from ``start`` to ``end``; the longest first."""
    values, unit = [], Fraction(1, lcm(start.denominator, end.denominator))
    while start < end:
        units, name, dots = _largest(int((end - start) / unit), unit)
        values.append(Value(start, name, dots, sounds))
        start += units * unit
    return values


@lru_cache(maxsize=2048)
def _divide(
    places: tuple[Fraction, ...], until: tuple[Fraction | None, ...], length: Fraction
) -> tuple:
    """(tuplet, values) for places from 0 up to 1 of a beat, each ``until`` where its note
    ends or None for the next one; a piece has few of these."""
    given = [*places, *(end for end in until if end is not None)]
    grid = lcm(*(place.denominator for place in given)) if given else 1
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
    for (mark, end), stop in zip(pairwise([*marks, grid]), until, strict=True):
        if stop is None:
            values += _fill(mark, end, unit, True)
            continue
        last = min(end, int(stop * grid))
        values += _fill(mark, last, unit, True, tied=True)
        values += _fill(last, end, unit, False)
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


def _fill(
    first: int, end: int, unit: Fraction, sounds: bool, tied: bool = False
) -> list[tuple]:
    """Values from unit ``first`` to ``end``: one note (or rest), then rests, or notes that are
    tied to it."""
    values = []
    while first < end:
        units, name, dots = _largest(end - first, unit)
        values.append((first, name, dots, sounds))
        first += units
        sounds = sounds and tied
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
