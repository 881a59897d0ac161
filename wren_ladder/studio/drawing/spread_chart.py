"""Takes over time: how far their strokes spread, with the tempo of each beside its dot."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

WIDTH, HEIGHT = 860, 200
LEFT, RIGHT, TOP, BOTTOM = 46, 30, 18, 30
LEAST = 40  # milliseconds that the scale holds at least
STEP = 10
FEWEST_DAYS = 14
ASIDE = 14  # pixels between two names of days
INSIDE = 24  # from the edge to the first and the last day


@dataclass(frozen=True, slots=True)
class TakeDot:
    x: float
    y: float
    tempo: int
    clean: bool
    spoken: str


@dataclass(frozen=True, slots=True)
class SpreadChart:
    width: int
    height: int
    left: float
    right: float
    bottom: float
    dots: tuple[TakeDot, ...]
    levels: tuple[tuple[float, str], ...]  # y, milliseconds
    days: tuple[tuple[float, str], ...]  # x, day
    spoken: str


def spread_chart(
    takes: Sequence[tuple[date, int, int, bool]], today: date
) -> SpreadChart | None:
    """``takes``: (day, BPM, milliseconds of spread, whether most of it was clean)."""
    if not takes:
        return None
    first = min(min(day for day, *_ in takes), today - timedelta(days=FEWEST_DAYS))
    high = max(LEAST, max(spread for *_, spread, _ in takes) + STEP)
    across, room = max(1, (today - first).days), WIDTH - LEFT - RIGHT - 2 * INSIDE

    def x_of(day: date) -> float:
        return round(LEFT + INSIDE + (day - first).days / across * room, 1)

    def y_of(spread: float) -> float:
        return round(HEIGHT - BOTTOM - spread / high * (HEIGHT - TOP - BOTTOM), 1)

    shown, days = [], sorted({day for day, *_ in takes} | {today})
    for day in days:
        if not shown or x_of(day) - shown[-1][0] > 3 * ASIDE:
            shown.append((x_of(day), f"{day:%-d %b}"))
    return SpreadChart(
        width=WIDTH,
        height=HEIGHT,
        left=LEFT,
        right=WIDTH - RIGHT,
        bottom=HEIGHT - BOTTOM,
        dots=tuple(
            TakeDot(x_of(day), y_of(spread), bpm, clean, f"{day:%-d %b}: {spread} ms at {bpm}")
            for day, bpm, spread, clean in takes
        ),
        levels=tuple((y_of(level), str(level)) for level in range(0, high + 1, STEP)),
        days=tuple(shown),
        spoken="; ".join(
            f"{day:%-d %B}: {spread} ms at {bpm}" for day, bpm, spread, _ in takes
        ),
    )
