"""The line that strokes were played on, where they follow no click of their file.

A click is followed where the strokes lie near the same part of its beats: their directions on a
circle of one beat, or of a part of it, agree more than chance makes them (Rayleigh's test of
uniform directions; its statistic n R² is from memory), or where a program has put them. Else
the pace is looked for: of many paces the one that keeps the strokes nearest to its beats and
their halves, quarters and thirds, going along with a hand that speeds up or slows down. Common
practice, no source.
"""

from cmath import exp, phase
from collections.abc import Container, Iterator, Sequence
from math import log, pi
from typing import NamedTuple

APART = 30.0  # ms; nearer strokes are one moment
PARTS, FINE = (1, 2, 3, 4), (4, 3)  # of a beat, which strokes may follow; those first
MOST_LATE = 0.2  # of a beat; further off it is another place
AGREE = 7.0  # n R², which chance reaches once in some hundred times
FEW = 24  # moments that show no pace
EXACT, EXACTLY = (8, 6), 0.006  # parts of a beat; how near to them, in beats
SHORTEST, LONGEST, FINER = 425.0, 850.0, 1.012  # ms of a beat; one pace to the next
ENOUGH = 3000  # moments that show whether a click is followed
LOOKED_AT = 240  # moments, of which the pace is found
# What a place costs by how seldom it is struck; and ms that hands lie beside it.
SHARES = {1: 0.5, 2: 0.25, 4: 0.08, 3: 0.06, 6: 0.01}
SPREAD = 18.0
WORST = 28.0  # ms beside all places; with more it is no pace
FOLLOW, TURN, MOST_TURN = 0.35, 0.06, 0.1  # how the line goes along with a hand
MISSED = 0.15  # what it costs that the first stroke is none on a beat
ALIKE = 3.0  # what it is worth that bars are alike
CARRIED, ON_IT = 3.0, 0.12  # what it is worth that kick and snare lie on beats; how near
NEAR, MOST_TRIED, MOST_LINES = 0.03, 16, 3  # of a pace to another; looked at; told
OPENINGS = (0.0, 0.5, 0.75, 2 / 3)  # of the first stroke in its beat


class Click(NamedTuple):
    """How strokes lie to their file's click: whether they follow it, and how late."""

    is_followed: bool
    late: float  # crotchets behind its beats; negative before them


class Line(NamedTuple):
    """``beats`` of each stroke from the first beat on; the pace in beats a minute."""

    beats: list[float]
    bpm: float
    slowest: float
    fastest: float


def against_click(
    crotchets: Sequence[float], ms: Sequence[float], strong: Sequence[bool]
) -> Click:
    """Of strokes in order, by the file's crotchets and by time; ``strong`` of each as in
    ``played_lines``, by stroke."""
    found = [crotchets[group[0]] for group in _moments(ms)]
    found = found[:: 1 + len(found) // ENOUGH]
    many = len(found)
    if many < FEW or _is_exact(found):
        return Click(True, 0.0)
    means = {n: sum(exp(2j * pi * n * at) for at in found) / many for n in PARTS}
    agree = {n: many * abs(mean) ** 2 for n, mean in means.items()}
    if max(agree.values()) < AGREE:
        return Click(False, 0.0)
    fine = [parts for parts in FINE if agree[parts] >= AGREE] or PARTS
    parts = max(fine, key=agree.__getitem__)
    late = phase(means[parts]) / (2 * pi * parts)
    beside = [late, late - 1 / parts, late + 1 / parts]
    beside = [off for off in beside if abs(off) <= MOST_LATE]
    carried = [at for at, one in zip(crotchets, strong, strict=True) if one] or found

    def on_beats(off: float) -> float:
        return sum(abs(at - off - round(at - off)) < ON_IT for at in carried) / len(carried)

    best = max(beside, key=lambda off: on_beats(off) - abs(off), default=0.0)
    return Click(True, best)


def _is_exact(crotchets: Sequence[float]) -> bool:
    """Did a program put most of them on eighths or sixths of a beat?"""
    off = sorted(
        min(abs(at * parts - round(at * parts)) / parts for parts in EXACT) for at in crotchets
    )
    return off[len(off) * 3 // 4] < EXACTLY


def played_lines(
    ms: Sequence[float], struck: Sequence[int], strong: Container[int]
) -> list[Line]:
    """The lines that strokes in order of their times may have been played on, the likeliest
    first; ``struck`` are numbers for what they strike, ``strong`` those that carry the beat, as
    kick and snare do. None where no even pace is found."""
    groups = list(_moments(ms))
    if len(groups) < FEW:
        return []
    times = [ms[group[0]] for group in groups]
    kinds = [frozenset(struck[one] for one in group) for group in groups]
    weights = [2.0 if any(one in strong for one in mine) else 1.0 for mine in kinds]
    some = times[:LOOKED_AT], weights[:LOOKED_AT]
    tried = sorted(
        (_follow(*some, pace, at)[0] + (MISSED if at else 0.0), pace, at)
        for pace in _paces()
        for at in OPENINGS
    )
    ends = []
    for cost, pace, at in _distinct(tried):
        _, places, _, _ = _follow(*some, pace, at)
        worth = ALIKE * _alike(places, kinds) + CARRIED * _on_the_beat(places, weights)
        ends.append((cost - worth, pace, at))
    lines = (_line(ms, groups, times, weights, pace, at) for _, pace, at in sorted(ends))
    found: list[Line] = []
    for line in lines:
        if line and all(abs(log(line.bpm / other.bpm)) > NEAR for other in found):
            found.append(line)
        if len(found) == MOST_LINES:
            break
    return found


def _line(
    ms: Sequence[float],
    groups: Sequence[Sequence[int]],
    times: Sequence[float],
    weights: Sequence[float],
    pace: float,
    at: float,
) -> Line | None:
    _, places, paces, off = _follow(times, weights, pace, at)
    if off > WORST:
        return None
    beats = [0.0] * len(ms)
    for group, place, now in zip(groups, places, paces, strict=True):
        for one in group:
            beats[one] = place + (ms[one] - ms[group[0]]) / now
    bpm = 60_000 * (places[-1] - places[0]) / (times[-1] - times[0])
    settled = paces[len(paces) // 10 :]
    return Line(beats, bpm, 60_000 / max(settled), 60_000 / min(settled))


def _distinct(tried: Sequence[tuple[float, float, float]]) -> list[tuple[float, float, float]]:
    """The best of the paces that lie apart."""
    found: list[tuple[float, float, float]] = []
    for one in tried:
        if all(abs(log(one[1] / other[1])) > NEAR for other in found):
            found.append(one)
        if len(found) == MOST_TRIED:
            break
    return found


def _alike(places: Sequence[float], kinds: Sequence[frozenset[int]]) -> float:
    """How much of what is struck comes again after a bar of four beats, or of three."""
    there = {
        (round(at * 4), one) for at, mine in zip(places, kinds, strict=False) for one in mine
    }
    last = max(at for at, _ in there)
    return max(_again(there, last, 4), 0.6 * _again(there, last, 3))


def _on_the_beat(places: Sequence[float], weights: Sequence[float]) -> float:
    """The share of what carries the beat that lies on it."""
    mine = [at for at, weight in zip(places, weights, strict=False) if weight > 1]
    return sum(abs(at - round(at)) < ON_IT for at in mine) / len(mine) if mine else 0.0


def _again(there: set[tuple[int, int]], last: int, beats: int) -> float:
    asked = [(at + 4 * beats, one) for at, one in there if at + 4 * beats <= last]
    if not asked:
        return 0.0
    return sum(one in there for one in asked) / len(asked)


def _paces() -> Iterator[float]:
    """An octave of them: what is twice as fast is written in shorter notes."""
    pace = SHORTEST
    while pace < LONGEST:
        yield pace
        pace *= FINER


def _moments(ms: Sequence[float]) -> Iterator[list[int]]:
    """The places of strokes that sound together."""
    group: list[int] = []
    for place, at in enumerate(ms):
        if group and at - ms[group[0]] > APART:
            yield group
            group = []
        group.append(place)
    if group:
        yield group


def _follow(
    times: Sequence[float], weights: Sequence[float], pace: float, at: float
) -> tuple[float, list[float], list[float], float]:
    """(what it costs to be played so, the place of each moment in beats, the pace at each, how
    many ms they lie beside their places)."""
    first, total, squares = pace, 0.0, 0.0
    places, paces = [at], [pace]
    before = times[0]
    scale = 1 / (2 * SPREAD * SPREAD)
    for now, weight in zip(times[1:], weights[1:], strict=True):
        gap = (now - before) / pace
        at += gap
        chosen, least, off = at, float("inf"), 0.0
        for parts, price in PRICES:
            place = round(at * parts) / parts
            away = (at - place) * pace
            cost = away * away * scale + price
            if cost < least:
                chosen, least, off = place, cost, away
        total += weight * least
        squares += off * off
        places.append(at)
        error = at - chosen
        at = chosen + (1 - FOLLOW) * error
        pace *= 1 + TURN * error / max(gap, 0.25)
        pace = min(first * (1 + MOST_TURN), max(first * (1 - MOST_TURN), pace))
        paces.append(pace)
        before = now
    many = len(times)
    return total / many + log(first), places, paces, (squares / many) ** 0.5


def _prices() -> list[tuple[int, float]]:
    return [(parts, -log(share)) for parts, share in SHARES.items()]


PRICES = _prices()
