"""Equal bars: learned once, named after the first of them."""

from collections.abc import Sequence

from wren_ladder.drumming.chart import Bar


def twins(bars: Sequence[Bar]) -> tuple[int, ...]:
    """For each bar the index of the first bar equal to it; its own where it is new.

    Equal means the same metre, length and strokes; marks such as repeats and how long the
    notes are written do not count.
    """
    first: dict[tuple, int] = {}
    return tuple(
        first.setdefault((bar.meter, bar.length, bar.music), index)
        for index, bar in enumerate(bars)
    )
