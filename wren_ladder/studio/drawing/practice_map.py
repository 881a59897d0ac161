"""Practice, day by day: a drum head for each day, the larger the longer it was played."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from datetime import date, timedelta

WEEKS = 18
CELL, LEFT, TOP = 24, 34, 18
SMALLEST, LARGEST = 4.0, 10.5
PLENTY = 30  # minutes that fill a head
LATE_IN_MONTH = 18  # from then on the next month's name would run into its own
UNKNOWN = 10  # minutes that a day with tries stands for where none were logged


@dataclass(frozen=True, slots=True)
class Head:
    x: float
    y: float
    r: float
    kind: str  # none, played; lesson besides
    title: str


@dataclass(frozen=True, slots=True)
class Calendar:
    width: int
    height: int
    heads: tuple[Head, ...]
    months: tuple[tuple[float, str], ...]
    days: tuple[tuple[float, str], ...]
    spoken: str


def practice_calendar(
    tries: Mapping[date, int],
    minutes: Mapping[date, int],
    lessons: Collection[date],
    today: date,
) -> Calendar:
    """The last weeks, Mondays on top; lessons have a ring."""
    first = today - timedelta(days=today.weekday() + 7 * (WEEKS - 1))
    shown = [first + timedelta(days=n) for n in range((today - first).days + 1)]
    heads = tuple(_head(day, first, tries, minutes, lessons) for day in shown)
    mondays = shown[::7]
    months = tuple(
        (_x(day, first) - CELL / 2, f"{day:%b}")
        for day in mondays
        if day.day <= 7 or (day == first and day.day < LATE_IN_MONTH)
    )
    played = sum(day in tries or day in minutes for day in shown)
    total = sum(minutes.get(day, 0) for day in shown)
    spoken = f"Practice on {played} of the last {len(shown)} days, {total} minutes logged"
    names = ("Mon", "", "Wed", "", "Fri", "", "Sun")
    days = tuple((TOP + CELL * n + CELL / 2 + 4, name) for n, name in enumerate(names) if name)
    return Calendar(LEFT + CELL * WEEKS, TOP + CELL * 7, heads, months, days, spoken)


def _x(day: date, first: date) -> float:
    return LEFT + CELL * ((day - first).days // 7) + CELL / 2


def _head(day: date, first: date, tries, minutes, lessons) -> Head:
    count, spent = tries.get(day, 0), minutes.get(day, 0)
    played = bool(count or spent)
    share = min(1.0, (spent or UNKNOWN) / PLENTY)
    radius = SMALLEST + (LARGEST - SMALLEST) * share if played else SMALLEST
    kind = "head-played" if played else "head-none"
    if day in lessons:
        kind += " head-lesson"
    told = [f"{spent} minutes"] if spent else []
    told += [f"{count} tries"] if count else []
    told += ["lesson"] if day in lessons else []
    y = TOP + CELL * day.weekday() + CELL / 2
    title = f"{day:%-d %b}: {', '.join(told) or 'nothing'}"
    return Head(_x(day, first), y, round(radius, 1), kind, title)
