"""Where played strokes belong by the habit of the piece.

A hand that is late by more than half a place is nearer to the next one. What is struck at a
place in most bars is likelier there in the others too, and so is how a beat is divided: each
beat is looked at once more beside the same beat of the other bars. A stroke that lies far from
its drum's usual place stays where it is.

The weights are those of ``grid``; the share of what follows a habit is the house's.
"""

from collections import Counter
from collections.abc import Sequence
from math import log
from statistics import median

from quicktions import Fraction

from wren_ladder.drumming.notation.midi.grid import (
    BY_HAND,
    TOGETHER,
    Beat,
    Fit,
    Played,
    grids_for,
    prices_of,
    spread_of,
    struck_again,
    take_so,
    unlikely,
)

FEW_BARS = 4  # which show no habit
SURE = 0.125  # of a cell: with less spread its middle is four times as far as hands go
FOLLOWS = 0.95  # of the strokes, that do as in other bars
BEAT_PLACES = 2520  # a beat in parts that every grid divides
SURFACES = 64  # more than there are
WELL, SAFE = 0.3, (1, 2, 3, 4)  # of a cell beside its place; grids that are not fine
PASSES = 4


def follow_habit(
    beats: Sequence[Beat], played: Sequence[Played], ways: Sequence[list[Fit]]
) -> list[Fit]:
    """Of the ways to take a piece the likeliest, once more by its habit where a hand has played
    some bars of it."""
    cells = [beat.ms / fit.parts for beat, fit in zip(beats, ways[0], strict=True) if fit.cells]
    least = max(BY_HAND, SURE * median(cells)) if cells else BY_HAND
    if spread_of(ways[0]) < least or len({beat.bar for beat in beats}) < FEW_BARS:
        return ways[0]
    return min((_settled(beats, played, found) for found in ways), key=unlikely)


def _settled(beats: Sequence[Beat], played: Sequence[Played], found: list[Fit]) -> list[Fit]:
    for _ in range(PASSES):
        before, found = found, _once(beats, played, found)
        if found == before:
            break
    return found


def _once(beats: Sequence[Beat], played: Sequence[Played], before: Sequence[Fit]) -> list[Fit]:
    following = [*played[1:], Played((), ())]
    numbers = {start: n for n, start in enumerate(dict.fromkeys(map(_felt, beats)))}
    here = [numbers[_felt(beat)] for beat in beats]
    after = [*here[1:], 0]
    bars = Counter(here)
    struck = [
        [
            _place(one, then, fit.parts, cell, what)
            for cell, what in zip(fit.cells, mine.surfaces, strict=True)
        ]
        for one, then, mine, fit in zip(here, after, played, before, strict=True)
    ]
    habits = Counter(place for mine in struck for place in mine)
    divided: dict[int, Counter] = {}
    every: dict[bool, Counter] = {False: Counter(), True: Counter()}
    for one, beat, fit in zip(here, beats, before, strict=True):
        if fit.cells:
            divided.setdefault(one, Counter())[fit.parts] += 1
            every[beat.ternary][fit.parts] += 1
    scale = 1 / (2 * spread_of(before) ** 2)
    usual = {ternary: prices_of(ternary, used) for ternary, used in every.items()}
    of_place = {
        one: prices_of(beat.ternary, divided.get(one, Counter()))
        for one, beat in zip(here, beats, strict=True)
    }
    most = {one: many.most_common(1)[0][0] for one, many in divided.items()}
    found: list[Fit] = []
    carried: set[int] = set()
    for beat, one, then, strokes, behind, old, mine in zip(
        beats, here, after, played, following, before, struck, strict=True
    ):
        plain = old.parts in SAFE and old.parts == most.get(one)
        if not strokes.shares or (plain and _lies_well(strokes, old)):
            found.append(old)
            carried = old.sent_on
            continue
        prices, those = usual[beat.ternary], of_place[one]
        habits.subtract(mine)  # a bar is no witness to itself
        others = max(1, bars[one] - 1)
        best, least = old, float("inf")
        for parts in grids_for(beat, strokes):
            ahead = prices[parts] / 2 + those[parts]
            if ahead >= least:
                continue
            cells, cost = _cells(strokes, one, then, parts, beat.ms, habits, others, scale)
            if cost + ahead >= least:
                continue
            fit = take_so(strokes, behind, parts, beat.ms, cells, 0)
            cost += ahead + fit.cost
            if carried:
                cost += TOGETHER * struck_again(fit, strokes, carried)
            if cost < least:
                best, least = fit, cost
        habits.update(mine)
        found.append(best)
        carried = best.sent_on
    return found


def _lies_well(strokes: Played, fit: Fit) -> bool:
    """Is every stroke so near to its cell that no habit would move it?"""
    shares = zip(strokes.shares, fit.cells, strict=True)
    return all(abs(share * fit.parts - cell) < WELL for share, cell in shares)


def _felt(beat: Beat) -> tuple[Fraction, Fraction]:
    return beat.start, beat.length


def _place(beat: int, then: int, parts: int, cell: int, struck: int) -> int:
    """A number for what is struck at a place of the bar, equal where both are."""
    if cell == parts:
        return then * BEAT_PLACES * SURFACES + struck
    return (beat * BEAT_PLACES + cell * BEAT_PLACES // parts) * SURFACES + struck


def _cells(
    strokes: Played,
    beat: int,
    then: int,
    parts: int,
    ms: float,
    habits: Counter,
    others: int,
    scale: float,
) -> tuple[list[int], float]:
    """(the likelier of the two cells beside each stroke, what that costs)."""
    cells, total = [], 0.0
    scale *= (ms / parts) ** 2
    anywhere = (1 - FOLLOWS) / parts
    for share, what in zip(strokes.shares, strokes.surfaces, strict=True):
        at = share * parts
        below = min(int(at), parts - 1)
        chosen, least = below, float("inf")
        for cell in (below, below + 1):
            often = habits.get(_place(beat, then, parts, cell, what), 0) / others
            cost = (at - cell) * (at - cell) * scale - log(FOLLOWS * min(1.0, often) + anywhere)
            if cost < least:
                chosen, least = cell, cost
        cells.append(chosen)
        total += least
    return cells, total
