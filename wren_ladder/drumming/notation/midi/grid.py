"""Where played strokes belong: each beat divided by the grid that explains them best.

A grid explains a beat well where its strokes lie near it, where it has few places to choose
from, and where the piece uses it elsewhere. What is nearest to the next beat belongs to that,
over the bar line too. Two strokes of one drum are not to fall together.

The weights are those of a normal spread (dev² / 2 sigma² + log of the places); common
practice, no source. The shares of the grids are the house's.
"""

from collections import Counter
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import log, sqrt
from typing import NamedTuple

from quicktions import Fraction

# How often a beat is divided so, before the file says it; a beat of three counts otherwise.
BINARY = {1: 0.3, 2: 0.3, 4: 0.25, 3: 0.1, 6: 0.03, 8: 0.02, 12: 0.002, 5: 0.001, 7: 0.0005}
TERNARY = {1: 0.2, 3: 0.45, 6: 0.25, 12: 0.05, 2: 0.03, 4: 0.02, 9: 0.002}
FULL = {5: 4, 7: 5, 9: 6, 12: 5}  # onsets without which nobody writes such a beat
APART, FAR_APART = 0.05, 0.15  # of a beat: nearer is one onset; further surely are two
WEIGHT = 2  # beats that those shares are worth
SELDOM = 1.5  # how much more it counts that a grid is seldom used
TOGETHER = 9.0  # what it costs that two strokes of one surface fall together
SPREAD, LEAST_SPREAD, MOST_SPREAD = 12.0, 3.0, 28.0  # ms from the grid
BY_HAND = 8.0  # ms; with less spread a program played
PASSES, MOSTLY = 3, 0.9  # times to settle; the share of beats that is nearly all
PLAIN = ((1, 2, 4), (1, 3))  # what most pieces are made of


@dataclass(frozen=True, slots=True)
class Beat:
    """``start`` in crotchets from the bar line and ``length``; ``begin`` in crotchets from the
    start of the file; ``ms`` of the whole beat, its bar's place; ``grids`` that it may be
    divided by where it is a beat of two, None for all."""

    start: Fraction
    length: Fraction
    begin: float
    ms: float
    bar: int
    grids: Collection[int] | None = None

    @property
    def ternary(self) -> bool:
        return self.length.numerator % 3 == 0


class Played(NamedTuple):
    """The strokes of a beat in order: their places as shares of it from 0 up to 1, and numbers
    for what they strike, equal where that is one surface."""

    shares: Sequence[float]
    surfaces: Sequence[int]


class Fit(NamedTuple):
    """How one grid takes the strokes of a beat: the cell of each, where the one behind the last
    is the start of the next beat; the squares of how far they are moved, in ms; what its places
    to choose from and strokes that fall together cost; what is sent on to the next beat."""

    parts: int
    cells: list[int]
    squares: float
    cost: float
    together: int
    sent_on: set[int]


NOTHING: set[int] = set()
LOGS = {parts: log(parts) for parts in BINARY | TERNARY}


def fit_grids(beats: Sequence[Beat], played: Sequence[Played]) -> list[list[Fit]]:
    """The likeliest grid of each beat; where a hand played, other ways to take the whole piece
    behind it."""
    following = [*played[1:], Played((), ())]
    every = [
        [_fit(strokes, behind, parts, beat.ms) for parts in grids_for(beat, strokes)]
        for beat, strokes, behind in zip(beats, played, following, strict=True)
    ]
    found = _settled(beats, played, every, SPREAD)
    if spread_of(found) < BY_HAND:
        return [found]
    # Fine grids make any hand look exact: it is asked too whether a plain one explains more.
    if any(_mostly(grids, found) for grids in PLAIN):
        return [found]
    plain = [_settled(beats, played, _only(grids, every), MOST_SPREAD) for grids in PLAIN]
    return [found, *plain]


def _mostly(grids: Collection[int], found: Sequence[Fit]) -> bool:
    struck = [fit.parts in grids for fit in found if fit.cells]
    return sum(struck) >= MOSTLY * len(struck)


def _only(grids: Collection[int], every: Sequence[Sequence[Fit]]) -> list[Sequence[Fit]]:
    return [[fit for fit in fits if fit.parts in grids] or fits for fits in every]


def _settled(
    beats: Sequence[Beat],
    played: Sequence[Played],
    every: Sequence[Sequence[Fit]],
    spread: float,
) -> list[Fit]:
    """The likeliest grids, by a spread of the strokes that is asked of what they leave."""
    used: dict[bool, Counter] = {False: Counter(), True: Counter()}
    found: list[Fit] = []
    for _ in range(PASSES):
        before, found = found, _best(beats, played, every, used, spread)
        if found == before:
            break
        used = {False: Counter(), True: Counter()}
        for beat, fit in zip(beats, found, strict=True):
            if fit.cells:
                used[beat.ternary][fit.parts] += 1
        spread = spread_of(found)
    return found


def unlikely(found: Sequence[Fit]) -> float:
    """Of a whole piece taken so: places to choose from, the spread, strokes that fall together
    and how many kinds of grids it needs."""
    struck = [fit for fit in found if fit.cells]
    many = sum(len(fit.cells) for fit in struck)
    kinds = Counter(fit.parts for fit in struck)
    mixed = -sum(used * log(used / len(struck)) for used in kinds.values())
    return (
        sum(len(fit.cells) * LOGS[fit.parts] + TOGETHER * fit.together for fit in struck)
        + many * log(max(LEAST_SPREAD, _beside(struck)))
        + SELDOM * mixed
    )


def grids_for(beat: Beat, strokes: Played) -> list[int]:
    if not strokes.shares:
        return [1]
    gaps = [two - one for one, two in pairwise(strokes.shares)]
    most = 1 + sum(gap > APART for gap in gaps)
    least = 1 + sum(gap > FAR_APART for gap in gaps)
    shares = TERNARY if beat.ternary else BINARY
    if beat.grids is not None and not beat.ternary:
        return [parts for parts in shares if parts in beat.grids]
    return [parts for parts in shares if FULL.get(parts, 0) <= most and least <= parts + 1]


def _fit(strokes: Played, behind: Played, parts: int, ms: float) -> Fit:
    """Every stroke at the nearest cell."""
    cells = [int(share * parts + 0.5) for share in strokes.shares]
    return take_so(strokes, behind, parts, ms, cells, len(cells) * LOGS[parts])


def take_so(
    strokes: Played, behind: Played, parts: int, ms: float, cells: list[int], cost: float
) -> Fit:
    """A grid with its strokes at these cells; ``cost`` is what the choice of them costs."""
    squares = 0.0
    for share, cell in zip(strokes.shares, cells, strict=True):
        off = share * parts - cell
        squares += off * off
    together = len(cells) - len(set(zip(cells, strokes.surfaces, strict=True)))
    sent_on = NOTHING
    if parts in cells:
        struck = zip(cells, strokes.surfaces, strict=True)
        sent_on = {surface for cell, surface in struck if cell == parts}
        there = zip(behind.shares, behind.surfaces, strict=True)
        together += sum(share < 0.5 / parts and one in sent_on for share, one in there)
    each = ms / parts
    cost += TOGETHER * together
    return Fit(parts, cells, squares * each * each, cost, together, sent_on)


def _best(
    beats: Sequence[Beat],
    played: Sequence[Played],
    every: Sequence[Sequence[Fit]],
    used: Mapping[bool, Counter],
    spread: float,
) -> list[Fit]:
    """The likeliest grids by how the piece has been taken so far."""
    prices = {ternary: prices_of(ternary, many) for ternary, many in used.items()}
    scale = 1 / (2 * spread * spread)
    found: list[Fit] = []
    carried = NOTHING
    for beat, strokes, fits in zip(beats, played, every, strict=True):
        table = prices[beat.ternary]
        best, least = fits[0], float("inf")
        for fit in fits:
            cost = fit.cost + fit.squares * scale + table[fit.parts]
            if carried:
                cost += TOGETHER * struck_again(fit, strokes, carried)
            if cost < least:
                best, least = fit, cost
        found.append(best)
        carried = best.sent_on
    return found


def struck_again(fit: Fit, strokes: Played, carried: set[int]) -> int:
    """How many strokes at the beat's start fall together with those sent on to it."""
    struck = zip(fit.cells, strokes.surfaces, strict=True)
    return sum(cell == 0 and surface in carried for cell, surface in struck)


def prices_of(ternary: bool, used: Counter) -> dict[int, float]:
    """What each grid costs for being seldom used. Of those that use it one is not counted: a
    beat is no witness to itself."""
    total = WEIGHT + used.total()
    return {
        parts: -SELDOM * log((WEIGHT * share + max(0, used[parts] - 1)) / total)
        for parts, share in (TERNARY if ternary else BINARY).items()
    }


def spread_of(found: Sequence[Fit]) -> float:
    """How far the strokes lie from their places, in ms; within what hands do."""
    return min(MOST_SPREAD, max(LEAST_SPREAD, _beside(found)))


def _beside(found: Sequence[Fit]) -> float:
    many = sum(len(fit.cells) for fit in found)
    return sqrt(sum(fit.squares for fit in found) / many) if many else SPREAD
