"""Which of some heard strokes is which of some expected ones: in order, as many as can be, and
among these the nearest."""

from collections.abc import Sequence
from itertools import pairwise

WIDEST = 0.12  # seconds a stroke may be off and still be meant
NARROWEST = 0.025
SHARE = 0.5  # of the gap to the neighbour


def windows(at: Sequence[float], widest: float = WIDEST) -> list[float]:
    """How far each may be off, by the gaps around it; ``at`` rises."""
    gaps = [after - before for before, after in pairwise(at)]
    around = zip([*gaps, widest / SHARE], [widest / SHARE, *gaps], strict=True) if at else ()
    return [max(NARROWEST, min(widest, SHARE * min(both))) for both in around]


def pairs(
    expected: Sequence[float], heard: Sequence[float], window: Sequence[float]
) -> list[tuple[int, int]]:
    """(place of an expected, place of a heard) in order; both rise. As many pairs as can be
    within the windows, and of these the least distance in all."""
    found = []
    for expecting, hearing in _clusters(expected, heard, window):
        found += _best(expected, heard, window, expecting, hearing)
    return found


def _clusters(expected, heard, window):
    """Strokes that some window joins, as (range, range): nothing outside can change them."""
    first, place = 0, 0
    while place < len(expected):
        low = expected[place] - window[place]
        while first < len(heard) and heard[first] < low:
            first += 1
        end, begin = first, place
        reach = expected[place] + window[place]
        while True:
            while end < len(heard) and heard[end] <= reach:
                end += 1
            place += 1
            if place == len(expected) or end == first:
                break
            if expected[place] - window[place] > heard[end - 1]:
                break
            reach = max(reach, expected[place] + window[place])
        if end > first:
            yield range(begin, place), range(first, end)
            first = end


def _best(expected, heard, window, expecting: range, hearing: range):
    """Dynamic programming over a few strokes: (pairs left out, distance) is least."""
    if len(expecting) == len(hearing) == 1:
        return [(expecting[0], hearing[0])]
    best = {(0, 0): (0, 0.0, (0, 0))}
    for one in range(len(expecting) + 1):
        for other in range(len(hearing) + 1):
            if one == other == 0:
                continue
            ways = []
            if one:
                lost, far, _ = best[one - 1, other]
                ways.append((lost + 1, far, (one - 1, other)))
            if other:
                lost, far, _ = best[one, other - 1]
                ways.append((lost + 1, far, (one, other - 1)))
            if one and other:
                off = abs(heard[hearing[other - 1]] - expected[expecting[one - 1]])
                if off <= window[expecting[one - 1]]:
                    lost, far, _ = best[one - 1, other - 1]
                    ways.append((lost, far + off, (one - 1, other - 1)))
            best[one, other] = min(ways, key=lambda way: way[:2])
    found, at = [], (len(expecting), len(hearing))
    while at != (0, 0):
        before = best[at][2]
        if before[0] < at[0] and before[1] < at[1]:
            found.append((expecting[before[0]], hearing[before[1]]))
        at = before
    return found[::-1]
