"""What is said and clicked before the first note.

One bar; two where a bar is short, so that 3/4 gets six clicks; a pick-up stops the count
where it starts, after a full bar if too little would be left. Common practice, no source.
"""

from dataclasses import dataclass
from fractions import Fraction

from wren_ladder.drumming.chart import Bar

SHORT = 4  # counts; a bar with fewer is counted twice
ENOUGH = 3  # counts that must be heard before a pick-up


@dataclass(frozen=True, slots=True)
class CountIn:
    """``clicks`` in crotchets from the first; the music's first bar starts at ``length``."""

    words: tuple[str, ...]
    clicks: tuple[Fraction, ...]
    length: Fraction

    @property
    def spoken(self) -> str:
        return " ".join(self.words)


def count_in(first: Bar) -> CountIn:
    """The count before ``first``; where that begins with silence, on through it to the
    first note."""
    meter = first.meter
    step, counts = _click(first)
    bars = 2 if counts < SHORT else 1
    before = first.count_offset / step  # counts of the pick-up's own bar that are not played
    silent = _silence(first, step)
    if first.pickup:
        bars = 0 if before >= ENOUGH else 1
    clicks = bars * counts + int(before) + silent
    words = tuple(str(place % counts + 1) for place in range(clicks))
    length = bars * meter.length + first.count_offset
    return CountIn(words, tuple(place * step for place in range(clicks)), length)


def _click(bar: Bar) -> tuple[Fraction, int]:
    """(crotchets from click to click, clicks in a bar): main beats in compound time."""
    meter = bar.meter
    if meter.compound:
        return 3 * meter.count_length, meter.beats // 3
    return meter.count_length, meter.beats


def _silence(bar: Bar, step: Fraction) -> int:
    """Whole counts of rest that the bar begins with; none where it rests throughout."""
    return int(bar.hits[0].at / step) if bar.hits else 0
