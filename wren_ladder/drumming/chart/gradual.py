"""Rit. and accel.: how the tempo of the page bends over some bars.

From where the mark stands the tempo changes evenly with the beats, to what the mark says, else
to the tempo mark that stands where it ends, else to three quarters of it, or to four thirds
(common practice, no source). Where it ends, the tempo of the page holds again.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import log

from quicktions import Fraction

from wren_ladder.drumming.chart.bar import Bar
from wren_ladder.drumming.chart.marks import GRADUAL, Mark, MarkKind
from wren_ladder.drumming.chart.tempo import Tempo

USUAL = {MarkKind.RIT: Fraction(3, 4), MarkKind.ACCEL: Fraction(4, 3)}


@dataclass(frozen=True, slots=True)
class Gradual:
    """``start`` and ``end`` in crotchets from where one bar starts, which may lie before and
    behind it; ``goal`` is the share of the bar's tempo that is reached at the end."""

    start: Fraction
    end: Fraction
    goal: Fraction

    def share_at(self, at: Fraction) -> float:
        """Of the page's tempo, at a place inside."""
        return 1 + float((self.goal - 1) * (at - self.start) / (self.end - self.start))

    def stretched(self, first: Fraction, last: Fraction) -> float:
        """How many crotchets of the page's tempo the music from ``first`` to ``last`` takes."""
        if self.goal == 1:
            return float(last - first)
        steepness = float((self.goal - 1) / (self.end - self.start))
        return log(self.share_at(last) / self.share_at(first)) / steepness


def lasting(at: Fraction, graduals: Sequence[Gradual]) -> float:
    """Crotchets of the page's tempo from where a bar starts to ``at`` in it."""
    taken, now = 0.0, Fraction(0)
    for one in graduals:
        first, last = max(now, min(one.start, at)), min(one.end, at)
        if last <= first:
            continue
        taken += float(first - now) + one.stretched(first, last)
        now = last
    return taken + float(at - now)


def graduals_of(
    bars: Sequence[Bar], tempos: Sequence[Tempo]
) -> tuple[tuple[Gradual, ...], ...]:
    """For each bar what bends its tempo, in order; a mark reaches over the bars behind it."""
    found: list[list[Gradual]] = [[] for _ in bars]
    for index, bar in enumerate(bars):
        for mark in bar.marks:
            if mark.kind in GRADUAL:
                _spread(mark, index, bars, tempos, found)
    return tuple(tuple(sorted(some, key=lambda one: one.start)) for some in found)


def _spread(mark: Mark, index: int, bars, tempos, found: list[list[Gradual]]) -> None:
    start, end, place = mark.at, mark.at + mark.length, index
    reached = []
    while place < len(bars) and end > 0:
        reached.append((place, start, end))
        start, end = start - bars[place].length, end - bars[place].length
        place += 1
    at_end = bars[place].tempo if place < len(bars) and end == 0 else None
    for place, start, end in reached:
        found[place].append(Gradual(start, end, _goal(mark, tempos[place], at_end)))


def _goal(mark: Mark, tempo: Tempo, following: Tempo | None) -> Fraction:
    if mark.text:
        return Fraction(int(mark.text), tempo.bpm)
    if following:
        share = following.bpm * following.beat / (tempo.bpm * tempo.beat)
        if (share < 1) is (mark.kind is MarkKind.RIT) and share != 1:
            return share
    return USUAL[mark.kind]
