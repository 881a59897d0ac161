"""What lies along the road: stretches without a turn, what follows what, how long it takes."""

from collections.abc import Sequence
from dataclasses import dataclass

from wren_ladder.drumming.chart import Chart
from wren_ladder.drumming.roadmap.walk import Visit
from wren_ladder.drumming.units import seconds


@dataclass(frozen=True, slots=True)
class Leg:
    """Bars ``first`` to ``last`` (indices) played straight on; ``time`` of its first bar."""

    first: int
    last: int
    time: int
    start: int  # how many bars are played before it


def legs(visits: Sequence[Visit]) -> tuple[Leg, ...]:
    """The road as stretches without a turn."""
    found: list[Leg] = []
    begin = 0
    for here in range(1, len(visits) + 1):
        if here == len(visits) or visits[here].index != visits[here - 1].index + 1:
            first = visits[begin]
            found.append(Leg(first.index, visits[here - 1].index, first.time, begin))
            begin = here
    return tuple(found)


def what_follows(visits: Sequence[Visit], index: int, time: int) -> int | None:
    """The bar played after bar ``index`` comes the ``time``-th time; None at the end.

    ValueError if it never comes that often.
    """
    for here, visit in enumerate(visits):
        if (visit.index, visit.time) == (index, time):
            return visits[here + 1].index if here + 1 < len(visits) else None
    raise ValueError(f"bar {index} is not played {time} times")


def play_seconds(chart: Chart, visits: Sequence[Visit], bpm: int | None = None) -> float:
    """How long the visits last, in seconds, at the printed tempos.

    With ``bpm`` the opening tempo becomes that many beats a minute and every later mark
    is scaled alike. A mark holds on the page until the next, whatever jumps come between.
    """
    scale = bpm / chart.tempo.bpm if bpm else 1
    bars = zip(chart.bars, chart.tempos, strict=True)
    lengths = [seconds(bar.length, tempo) for bar, tempo in bars]
    return sum(lengths[visit.index] for visit in visits) / scale
