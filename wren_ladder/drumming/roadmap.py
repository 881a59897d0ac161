"""The order in which the printed bars are played, and how long that takes.

Linear parts and simple repeats; a repeat end with no start goes back to the last repeat
end, else to the beginning.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from wren_ladder.drumming.chart import DEFAULT_TEMPO, Bar, Chart, Problem
from wren_ladder.drumming.units import seconds

MOST_VISITS = 20_000


@dataclass(frozen=True, slots=True)
class Visit:
    """One playing of a bar: its index (from 0) and which time it comes (from 1)."""

    index: int
    time: int


@dataclass(frozen=True, slots=True)
class RoadMap:
    visits: tuple[Visit, ...]
    problems: tuple[Problem, ...]


def road_map(bars: Sequence[Bar]) -> RoadMap:
    """The visits in sounding order; faults of the page are told, never raised."""
    problems, order = [], []
    start = 0
    opened = None  # index of a repeat start that still waits for its end
    for index, bar in enumerate(bars):
        if bar.repeat_start:
            if opened is not None:
                problems.append(_never_ends(bars[opened]))
            start = opened = index
        order.append(index)
        if bar.repeat_passes:
            order += list(range(start, index + 1)) * (bar.repeat_passes - 1)
            start, opened = index + 1, None
        if len(order) > MOST_VISITS:
            text = f"the repeats make more than {MOST_VISITS} bars; the rest is left out"
            problems.append(Problem("too-long", text, bar.number))
            break
    if opened is not None:
        problems.append(_never_ends(bars[opened]))
    return RoadMap(_count_times(order), tuple(problems))


def _never_ends(bar: Bar) -> Problem:
    text = "a repeat starts here and never ends; it is played once"
    return Problem("repeat-open", text, bar.number)


def _count_times(order: list[int]) -> tuple[Visit, ...]:
    times: dict[int, int] = {}
    visits = []
    for index in order:
        times[index] = times.get(index, 0) + 1
        visits.append(Visit(index, times[index]))
    return tuple(visits)


def play_seconds(chart: Chart, visits: Sequence[Visit], bpm: int | None = None) -> float:
    """How long the visits last, in seconds, at the printed tempos.

    With ``bpm`` the opening tempo becomes that many beats a minute and every later mark
    is scaled alike. A mark holds on the page until the next, whatever jumps come between.
    """
    scale = bpm / chart.tempo.bpm if bpm else 1
    marks, current = [], chart.bars[0].tempo or DEFAULT_TEMPO
    for bar in chart.bars:
        current = bar.tempo or current
        marks.append(seconds(bar.length, current))
    return sum(marks[visit.index] for visit in visits) / scale
