"""The cymbal that keeps time in a bar. Common practice, no source."""

from wren_ladder.drumming.chart import Bar, Surface
from wren_ladder.drumming.chart.drum import surfaces

TIMEKEEPERS = surfaces(lambda row: row.keeps_time)


def timekeeper(bar: Bar) -> Surface | None:
    """The cymbal that keeps time: struck more than any other, and at least twice."""
    counts = {
        surface: sum(1 for hit in bar.hits if hit.drum.surface is surface)
        for surface in TIMEKEEPERS
    }
    most = max(counts, key=counts.__getitem__)
    return most if counts[most] >= 2 else None
