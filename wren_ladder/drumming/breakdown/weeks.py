"""A plan laid out over weeks: one lesson, and practice at home, until the exam."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from math import ceil

from wren_ladder.drumming.breakdown.minutes import Work
from wren_ladder.drumming.wording import counted

WEEK = timedelta(days=7)
LEAST = 1e-9  # minutes; less is nothing left
SLOWLY = 0.35  # of a step's minutes, until it goes slowly; the house's
TWICE = 2  # times the minutes of a practice day that one step has on a day at most; the house's
FULL_RUNS = 2  # weeks before an exam that are kept for full runs; common practice, no source


@dataclass(frozen=True, slots=True)
class Pace:
    """The minutes there are in a week: one lesson, and days at home. They are the student's,
    and ``pieces`` share them."""

    lesson: int = 30
    days: int = 5
    home: int = 15
    pieces: int = 1

    @property
    def minutes(self) -> int:
        """For one of the pieces."""
        return (self.lesson + self.days * self.home) // self.pieces

    @property
    def sessions(self) -> int:
        """Days of practice in a week, the lesson one of them."""
        return self.days + 1

    def __str__(self) -> str:
        said = f"{self.lesson}-minute lesson + {self.days} × {self.home} minutes at home"
        return f"{said}, shared by {self.pieces} pieces" if self.pieces > 1 else said


@dataclass(frozen=True, slots=True)
class Week:
    """(place of a step, minutes for it this week); one that is long goes on next week."""

    first: date
    shares: tuple[tuple[int, float], ...]

    @property
    def steps(self) -> tuple[int, ...]:
        return tuple(place for place, _ in self.shares)

    @property
    def minutes(self) -> float:
        return sum(minutes for _, minutes in self.shares)


@dataclass(frozen=True, slots=True)
class Schedule:
    pace: Pace
    weeks: tuple[Week, ...]
    minutes: float  # of all steps together
    room: int | None  # weeks there are before the full runs; None without an exam
    longest: float = 0.0  # practice days that one step takes, the longest

    @property
    def needed(self) -> int:
        return len(self.weeks)

    @property
    def fits(self) -> bool:
        return self.room is None or self.needed <= self.room

    @property
    def in_words(self) -> str:
        """ "about three weeks, one in hand"; what a teacher says who is asked."""
        need = f"about {counted(self.needed)} week{'' if self.needed == 1 else 's'}"
        if self.room is None:
            return need
        spare = self.room - self.needed
        if not spare:
            return f"{need}, just enough before the exam"
        return f"{need}, {counted(abs(spare))} {'in hand' if spare > 0 else 'too many'}"

    @property
    def spoken(self) -> str:
        """ "9 weeks at 105 minutes; 11 there are before the last 2 of full runs: 2 in hand"."""
        need = f"{_weeks(self.needed)} at {self.pace.minutes} minutes a week"
        if self.room is None:
            return need
        there = f"{need}; {_weeks(self.room)} until the last {FULL_RUNS}, kept for full runs"
        spare = self.room - self.needed
        if spare >= 0:
            return f"{there}: {spare} in hand" if spare else f"{there}: just enough"
        if self.room < 1:
            return f"{there}: too late to build all of it; choose what matters most"
        alone = ceil(self.longest / (TWICE * self.pace.sessions))
        if alone > self.room:
            days = ceil(self.longest)
            return f"{there}: {-spare} too many. One step alone takes {days} days of practice"
        more = max(1, ceil(self.minutes / self.room) - self.pace.minutes)
        return f"{there}: {-spare} too many. It would take {more} minutes a week more"


def _weeks(number: int) -> str:
    return f"{number} week{'' if number == 1 else 's'}"


def reached(ends: Sequence[bool], begun: Sequence[bool], there: Sequence[bool]) -> list[bool]:
    """Which steps of a plan are a child's now, in its order: those of the first line that is
    not at its target, and of the next one once all of that goes; what is begun stays. ``ends``
    says which steps close a line, ``there`` which are at their target."""
    found, first = list(begun), 0
    for place, closes in enumerate(ends):
        if not closes and place < len(ends) - 1:
            continue
        line = range(first, place + 1)
        first = place + 1
        if all(there[one] for one in line):
            continue
        for one in line:
            found[one] = True
        if not all(begun[one] for one in line):
            break
    return found


def slowly_first(works: Sequence[Work], ends: Sequence[bool]) -> list[tuple[int, float]]:
    """(place of a step, minutes) in the order of the weeks: through each line or section
    slowly, before any of it is driven up. ``ends`` says which steps close one."""
    found: list[tuple[int, float]] = []
    first = 0
    for place, closes in enumerate(ends):
        if closes or place == len(ends) - 1:
            group = range(first, place + 1)
            found += ((one, works[one].minutes * SLOWLY) for one in group)
            found += ((one, works[one].minutes * (1 - SLOWLY)) for one in group)
            first = place + 1
    return found


def schedule(
    works: Sequence[Work],
    pace: Pace,
    today: date,
    exam: date | None = None,
    order: Sequence[tuple[int, float]] | None = None,
) -> Schedule:
    """Steps in order poured into weeks from today on; no week holds more than the pace gives,
    nor more of a step than goes into its days of practice, and no step begins before the one
    that stands before it. ``order`` parts them, see ``slowly_first``."""
    filled: list[dict[int, float]] = [{}]
    began, seen = 0, set()
    for place, needed in order or [(n, work.minutes) for n, work in enumerate(works)]:
        most, left, number = TWICE * works[place].a_day * pace.sessions, needed, began
        while left > LEAST:
            if number == len(filled):
                filled.append({})
            week = filled[number]
            had = week.get(place, 0.0)
            room = min(pace.minutes - sum(week.values()), most - had)
            if room > LEAST:
                began = number if place not in seen else began
                seen.add(place)
                week[place] = had + min(left, room)
                left -= room
            number += 1
    weeks = tuple(
        Week(today + number * WEEK, tuple(shares.items()))
        for number, shares in enumerate(filled)
        if shares
    )
    ahead = None
    if exam is not None:
        ahead = max(0, (exam - today).days // 7 - FULL_RUNS)
    longest = max((work.days for work in works), default=0.0)
    return Schedule(pace, weeks, sum(work.minutes for work in works), ahead, longest)
