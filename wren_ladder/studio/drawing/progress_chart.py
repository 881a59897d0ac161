"""Tempo against date: a stair for every step, the target, and the day of the exam."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

WIDTH, HEIGHT = 860, 380
LEFT, RIGHT, TOP, BOTTOM = 46, 150, 30, 40
BPM_GRID = (5, 10, 20, 40)
MOST_LINES = 9
LINE = 15  # between two names
FARTHEST = timedelta(days=365)


@dataclass(frozen=True, slots=True)
class HeldTempos:
    """One step's held tempos: (day, BPM), rising in time."""

    name: str
    days: tuple[tuple[date, int], ...]
    strong: bool = False  # the one that holds the piece, or that was asked for


@dataclass(frozen=True, slots=True)
class Stair:
    name: str
    path: str
    end_x: float
    end_y: float
    name_y: float  # below the target's own name where it would lie on it
    strong: bool


@dataclass(frozen=True, slots=True)
class Line:
    position: float
    text: str


@dataclass(frozen=True, slots=True)
class ProgressChart:
    width: int
    height: int
    left: float
    right: float
    top: float
    bottom: float
    stairs: tuple[Stair, ...]
    band: str  # the points of the forecast, empty without one
    middle: str  # the path of its median
    ready: Line | None
    tempos: tuple[Line, ...]
    dates: tuple[Line, ...]
    target: Line
    exam: Line | None
    today: Line
    spoken: str


@dataclass(frozen=True, slots=True)
class Ahead:
    """The forecast from the piece's speed today: its window and its median day."""

    speed: int
    low: date
    median: date
    high: date


def progress_chart(
    climbs: Sequence[HeldTempos],
    target: int,
    today: date,
    exam: date | None = None,
    ahead: Ahead | None = None,
) -> ProgressChart:
    """Lay out the chart from the first day with a held tempo to the exam, the forecast or
    today; a forecast's far end is cut off a year ahead."""
    known = [day for climb in climbs for day, _ in climb.days]
    first = min([*known, today - timedelta(days=28)])
    until = [min(ahead.high, today + FARTHEST)] if ahead else []
    last = max([*known, today, *until, *([exam] if exam else [])]) + timedelta(days=3)
    tempos = [bpm for climb in climbs for _, bpm in climb.days]
    low = min([*tempos, target - 20]) // 10 * 10
    high = max([*tempos, target]) + 6

    def x_of(day: date) -> float:
        share = (day - first).days / (last - first).days
        return round(LEFT + share * (WIDTH - LEFT - RIGHT), 1)

    def y_of(bpm: int) -> float:
        share = (bpm - low) / (high - low)
        return round(HEIGHT - BOTTOM - share * (HEIGHT - TOP - BOTTOM), 1)

    band, middle, ready = _ahead(ahead, x_of, y_of, today, target, last)
    step = next(s for s in BPM_GRID if (high - low) / s <= MOST_LINES or s == BPM_GRID[-1])
    return ProgressChart(
        width=WIDTH,
        height=HEIGHT,
        left=LEFT,
        right=WIDTH - RIGHT,
        top=TOP,
        bottom=HEIGHT - BOTTOM,
        stairs=tuple(
            _stair(climb, x_of, y_of, today, y_of(target))
            for climb in sorted(climbs, key=lambda climb: climb.strong)
            if climb.days
        ),
        band=band,
        middle=middle,
        ready=ready,
        tempos=tuple(Line(y_of(bpm), str(bpm)) for bpm in range(low, high + 1, step)),
        dates=tuple(Line(x_of(day), text) for day, text in _months(first, last)),
        target=Line(y_of(target), f"target {target}"),
        exam=Line(x_of(exam), f"exam {exam:%-d %b}") if exam else None,
        today=Line(x_of(today), "today"),
        spoken=_speak(climbs, target),
    )


def _ahead(ahead: Ahead | None, x_of, y_of, today: date, target: int, last: date):
    """The forecast as a wedge from today to its window at the target."""
    if ahead is None:
        return "", "", None
    x, y, top = x_of(today), y_of(ahead.speed), y_of(target)

    def at(day: date) -> float:
        return x_of(min(day, last))

    band = f"{x},{y} {at(ahead.low)},{top} {at(ahead.high)},{top}"
    middle = f"M{x} {y}L{at(ahead.median)} {top}"
    return band, middle, Line(at(ahead.median), f"{ahead.median:%-d %b}")


def _stair(climb: HeldTempos, x_of, y_of, today: date, target_y: float) -> Stair:
    """A held tempo stays until the next: flat, then straight up."""
    (day, bpm), *rest = climb.days
    parts = [f"M{x_of(day)} {y_of(bpm)}"]
    for day, bpm in rest:
        parts.append(f"H{x_of(day)}V{y_of(bpm)}")
    end = max(day, today)
    parts.append(f"H{x_of(end)}")
    y = y_of(bpm)
    name_y = y if abs(y - target_y) >= LINE else target_y + LINE
    return Stair(climb.name, "".join(parts), x_of(end), y, name_y, climb.strong)


def _months(first: date, last: date) -> list[tuple[date, str]]:
    """The firsts of the months shown, or every Monday where they are too few."""
    days = [first + timedelta(days=n) for n in range((last - first).days + 1)]
    months = [(day, f"{day:%b}") for day in days if day.day == 1]
    if len(months) > 2:
        return months
    return [(day, f"{day:%-d %b}") for day in days if day.weekday() == 0]


def _speak(climbs: Sequence[HeldTempos], target: int) -> str:
    said = [
        f"{climb.name} from {climb.days[0][1]} to {climb.days[-1][1]}"
        for climb in climbs
        if climb.days
    ]
    return f"Held tempo over time, target {target}. {'; '.join(said) or 'nothing held yet'}"
