"""Finds rudiments inside a bar: by its hands, its graces and its rhythm, at any speed.

Accents are not asked for: a paradiddle without its accent is still one. The longest is
taken first, and no stroke belongs to two.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction
from itertools import groupby, pairwise

from wren_ladder.drumming.chart import Grace, Hand, Hit, RollKind
from wren_ladder.drumming.hands import Stick
from wren_ladder.drumming.rudiments.listed import RUDIMENTS, by_name
from wren_ladder.drumming.rudiments.rudiment import Rudiment

BREAK = "|"  # both hands at once, or a stroke that no hand plays
LETTERS = {
    (Hand.RIGHT, Grace.NONE): "R",
    (Hand.LEFT, Grace.NONE): "L",
    (Hand.RIGHT, Grace.FLAM): "F",
    (Hand.LEFT, Grace.FLAM): "f",
    (Hand.RIGHT, Grace.DRAG): "D",
    (Hand.LEFT, Grace.DRAG): "d",
    (Hand.RIGHT, Grace.RUFF): "U",
    (Hand.LEFT, Grace.RUFF): "u",
}
COUNTED = {
    5: "five", 6: "six", 7: "seven", 9: "nine", 10: "ten", 11: "eleven", 13: "thirteen",
    15: "fifteen", 17: "seventeen",
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Found:
    """A rudiment in a bar: from ``first`` to ``last`` crotchets, ``times`` in a row."""

    rudiment: Rudiment
    first: Fraction
    last: Fraction
    lead: Hand
    times: int = 1


@dataclass(frozen=True, slots=True)
class _Shape:
    """One side of a rudiment, or both, as letters with the gaps between their strokes."""

    rudiment: Rudiment
    lead: Hand
    sides: int
    letters: str
    gaps: tuple[Fraction, ...]


def _shape(one: Rudiment, lead: Hand, sides: int) -> _Shape:
    second = lead.other if one.alternates else lead
    strokes = [(stroke, stroke.at) for stroke in one.side(lead)]
    if sides == 2:
        strokes += [(stroke, one.length + stroke.at) for stroke in one.side(second)]
    letters = "".join(LETTERS[stroke.hand, stroke.grace] for stroke, _ in strokes)
    gaps = tuple(after - before for (_, before), (_, after) in pairwise(strokes))
    return _Shape(one, lead, sides, letters, gaps)


def _shapes() -> tuple[_Shape, ...]:
    """Longest first; both sides of a short rudiment go before one side of a longer one."""
    played = [one for one in RUDIMENTS if not any(stroke.buzz for stroke in one.strokes)]
    found = [_shape(one, lead, n) for one in played for lead in Hand for n in (1, 2)]
    return tuple(sorted(found, key=lambda s: (-len(s.letters), not s.rudiment.apart)))


SHAPES = _shapes()


def find_rudiments(sticks: Sequence[Stick]) -> tuple[Found, ...]:
    """The rudiments of a bar in time order; rolls written as rolls are named by count."""
    times, letters = _spelled(sticks)
    taken = [False] * len(letters)
    found = list(_written_rolls(sticks))
    for shape in SHAPES:
        place = letters.find(shape.letters)
        while place >= 0:
            end = place + len(shape.letters)
            if not any(taken[place:end]) and _fits(shape, times, place):
                taken[place:end] = [True] * (end - place)
                last = times[end - 1]
                found.append(Found(shape.rudiment, times[place], last, shape.lead, shape.sides))
            place = letters.find(shape.letters, place + 1)
    found.sort(key=lambda one: one.first)
    return tuple(_in_a_row(found))


def _spelled(sticks: Sequence[Stick]) -> tuple[list[Fraction], str]:
    """(when, which letter) of each onset of the hands."""
    by_hand = [stick for stick in sticks if not stick.hit.drum.by_foot]
    times, letters = [], []
    for at, group in groupby(by_hand, key=lambda stick: stick.hit.at):
        together = list(group)
        alone = together[0] if len(together) == 1 else None
        plain = alone and alone.hand and not alone.hit.roll
        times.append(at)
        letters.append(LETTERS[alone.hand, alone.hit.grace] if plain else BREAK)
    return times, "".join(letters)


def _fits(shape: _Shape, times: list[Fraction], place: int) -> bool:
    """Is the rhythm that of the rudiment, faster or slower?"""
    if not shape.gaps:
        return True
    scale = (times[place + 1] - times[place]) / shape.gaps[0]
    for offset, gap in enumerate(shape.gaps):
        if times[place + offset + 1] - times[place + offset] != gap * scale:
            return False
    return not shape.rudiment.apart or _stands_apart(shape, times, place, scale)


def _stands_apart(shape: _Shape, times: list[Fraction], place: int, scale: Fraction) -> bool:
    """A counted roll begins after a breath, and its last note has room behind it."""
    step = min(shape.gaps) * scale
    if place and times[place] - times[place - 1] <= step:
        return False
    behind = place + len(shape.letters)
    return behind == len(times) or times[behind] - times[behind - 1] > step


def _written_rolls(sticks: Sequence[Stick]) -> Iterator[Found]:
    for stick in sticks:
        roll = stick.hit.roll
        if not roll or not stick.hand:
            continue
        if roll.kind is RollKind.BUZZ:
            name = "multiple bounce roll"
        elif roll.kind is RollKind.OPEN:
            counted = COUNTED.get(roll.strokes or 0)
            name = f"{counted} stroke roll" if counted else "double stroke open roll"
        else:
            name = "single stroke seven" if roll.strokes == 7 else "single stroke roll"
        yield Found(by_name(name), stick.hit.at, _end(stick.hit), stick.hand)


def _end(hit: Hit) -> Fraction:
    return hit.at + hit.roll.length


def _in_a_row(found: Sequence[Found]) -> Iterator[Found]:
    """The same rudiment several times on end is told once."""
    for _, group in groupby(found, key=lambda one: one.rudiment.name):
        row = list(group)
        first, last = row[0], row[-1]
        times = sum(one.times for one in row)
        yield Found(first.rudiment, first.first, last.last, first.lead, times)
