"""Where played strokes belong by the habit of the piece.

A hand that is late by more than half a place is nearer to the next one. What is struck at a
place in most bars is likelier there in the others too, and so is how a beat is divided: each
beat is looked at once more beside the same beat of the other bars. A stroke that lies far from
its drum's usual place stays where it is.

The weights are those of ``grid``; the share of what follows a habit is the house's.
"""

from collections import Counter
from collections.abc import Sequence
from fractions import Fraction
from math import log

from wren_ladder.drumming.notation.midi.grid import (
    TOGETHER,
    Beat,
    Fit,
    Played,
    grids_for,
    prices_of,
    spread_of,
    struck_again,
    take_so,
)

BY_HAND = 8.0  # ms; with less spread a program played, and there is nothing to ask
FEW_BARS = 4  # which show no habit
FOLLOWS = 0.9  # of the strokes, that do as in other bars
BEAT_PLACES = 2520  # a beat in parts that every grid divides
PASSES = 4
Place = tuple[Fraction, int, int]  # (its beat from the bar line, part of it, what is struck)


def follow_habit(
    beats: Sequence[Beat], played: Sequence[Played], found: list[Fit]
) -> list[Fit]:
    """The grids once more, where a hand has played some bars; as ``fit_grids`` found them
    otherwise."""
    if spread_of(found) < BY_HAND or len({beat.bar for beat in beats}) < FEW_BARS:
        return found
    for _ in range(PASSES):
        before, found = found, _once(beats, played, found)
        if found == before:
            break
    return found


def _once(beats: Sequence[Beat], played: Sequence[Played], before: Sequence[Fit]) -> list[Fit]:
    following = [*played[1:], Played((), ())]
    after = [*(beat.start for beat in beats[1:]), Fraction(0)]
    bars = Counter(beat.start for beat in beats)
    struck: list[list[Place]] = [
        _places(beat, then, strokes, fit)
        for beat, then, strokes, fit in zip(beats, after, played, before, strict=True)
    ]
    habits = Counter(place for mine in struck for place in mine)
    divided: dict[Fraction, Counter] = {}
    every: dict[bool, Counter] = {False: Counter(), True: Counter()}
    for beat, fit in zip(beats, before, strict=True):
        if fit.cells:
            divided.setdefault(beat.start, Counter())[fit.parts] += 1
            every[beat.ternary][fit.parts] += 1
    scale = 1 / (2 * spread_of(before) ** 2)
    usual = {ternary: prices_of(ternary, used) for ternary, used in every.items()}
    found: list[Fit] = []
    carried: set[int] = set()
    for beat, then, strokes, behind, mine in zip(
        beats, after, played, following, struck, strict=True
    ):
        prices = usual[beat.ternary]
        here = prices_of(beat.ternary, divided.get(beat.start, Counter()))
        habits.subtract(mine)  # a bar is no witness to itself
        others = max(1, bars[beat.start] - 1)
        best, least = None, float("inf")
        for parts in grids_for(beat, strokes):
            fit = _fit(beat, then, strokes, behind, parts, habits, others, scale)
            cost = fit.cost + fit.squares * scale + (prices[parts] + here[parts]) / 2
            if carried:
                cost += TOGETHER * struck_again(fit, strokes, carried)
            if cost < least:
                best, least = fit, cost
        habits.update(mine)
        found.append(best)
        carried = best.sent_on
    return found


def _places(beat: Beat, then: Fraction, strokes: Played, fit: Fit) -> list[Place]:
    return [
        _place(beat, then, fit.parts, cell, surface)
        for cell, surface in zip(fit.cells, strokes.surfaces, strict=True)
    ]


def _place(beat: Beat, then: Fraction, parts: int, cell: int, surface: int) -> Place:
    if cell == parts:
        return then, 0, surface
    return beat.start, cell * BEAT_PLACES // parts, surface


def _fit(
    beat: Beat,
    then: Fraction,
    strokes: Played,
    behind: Played,
    parts: int,
    habits: Counter,
    others: int,
    scale: float,
) -> Fit:
    """Every stroke at the likelier of the two cells beside it."""
    each, cells, cost = beat.ms / parts, [], 0.0
    anywhere = (1 - FOLLOWS) / parts
    for share, surface in zip(strokes.shares, strokes.surfaces, strict=True):
        at = share * parts
        below = min(int(at), parts - 1)
        chosen, least = below, float("inf")
        for cell in (below, below + 1):
            often = habits[_place(beat, then, parts, cell, surface)] / others
            choice = -log(FOLLOWS * min(1.0, often) + anywhere)
            off = (at - cell) * each
            if choice + off * off * scale < least:
                chosen, least, price = cell, choice + off * off * scale, choice
        cells.append(chosen)
        cost += price
    return take_so(strokes, behind, parts, beat.ms, cells, cost)
