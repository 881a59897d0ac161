"""What is said and clicked before the first note.

One bar; two where a bar is short, so that 3/4 gets six clicks; a pick-up stops the count
where it starts, after a full bar if too little would be left. An entry off the beat is counted
up to and with the beat that it hangs on. Common practice, no source.
"""

from dataclasses import dataclass
from math import ceil

from quicktions import Fraction

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
    entry = first.hits[0].at if first.hits else Fraction(0)
    before = ceil((first.count_offset + entry) / step)  # counts of the bar until it begins
    if first.pickup:
        bars = 0 if before >= ENOUGH else 1
    clicks = bars * counts + before
    words = tuple(str(place % counts + 1) for place in range(clicks))
    length = bars * meter.length + first.count_offset
    return CountIn(words, tuple(place * step for place in range(clicks)), length)


def _click(bar: Bar) -> tuple[Fraction, int]:
    """(crotchets from click to click, clicks in a bar): main beats in compound time."""
    meter = bar.meter
    if meter.compound:
        return 3 * meter.count_length, meter.beats // 3
    return meter.count_length, meter.beats
