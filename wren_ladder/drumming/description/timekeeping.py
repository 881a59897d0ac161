"""The cymbal that keeps time in a bar. Common practice, no source."""

from collections import Counter

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Surface
from wren_ladder.drumming.chart.drum import CRASHES, surfaces

TIMEKEEPERS = surfaces(lambda row: row.keeps_time)


def timekeeper(bar: Bar) -> Surface | None:
    """The cymbal that keeps time: struck more than any other, and at least twice."""
    counts = Counter(hit.drum.surface for hit in bar.hits)
    most = max(TIMEKEEPERS, key=counts.__getitem__)
    return most if counts[most] >= 2 else None


def cymbal_name(keeper: Surface) -> str:
    """ "hat", "ride": as it is said."""
    return keeper.value.replace("hihat", "hat")


def fill_start(bar: Bar) -> Fraction | None:
    """The beat on which the hands leave the cymbal of a groove and play to the end of the bar,
    None where they do not."""
    keeper, first = timekeeper(bar), None
    for start, _, hits in bar.by_beat():
        kept = any(hit.drum.surface is keeper for hit in hits)
        # A crash by itself is a push, and no fill.
        played = any(not hit.drum.by_foot and hit.drum.surface not in CRASHES for hit in hits)
        first = None if kept or not played else start if first is None else first
    return first if keeper is not None and first else None
