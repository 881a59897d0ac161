"""Will it be ready? The chance by the exam, in a word, and what would change it."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import date, timedelta
from enum import StrEnum

from wren_ladder.drumming.climb import rung_below
from wren_ladder.drumming.forecast.journey import Forecast, Journey, forecast
from wren_ladder.drumming.forecast.pace import Habit, Track

BUFFER = 14  # days before an exam that are kept for full runs; common practice, no source
SAFE, TIGHT = 80, 40  # per cent of chance; the house's
MOST_DAYS = 6  # of practice a week: one of rest is kept
LEVER_RUNS = 150  # journeys for what would change it; a word needs fewer than a window


class Status(StrEnum):
    BEHIND = "behind"
    TIGHT = "tight"
    UNKNOWN = "too little data"
    SAFE = "safe"
    OPEN = "no exam"
    READY = "at target"


RISK = tuple(Status)  # the most pressing first


@dataclass(frozen=True, slots=True)
class Outlook:
    """``by`` is the day it has to be ready, the exam less the buffer; ``chance`` in per cent,
    None where nothing is known or no exam is set."""

    status: Status
    forecast: Forecast
    by: date | None = None
    chance: int | None = None
    too_much: str = ""  # what is left, where it is more than the days can hold

    @property
    def risk(self) -> tuple[int, int]:
        """To put outlooks in order, the most pressing first."""
        return RISK.index(self.status), self.chance or 0

    @property
    def odds(self) -> str:
        """The chance in words; simulated climbs never make it impossible, or sure."""
        if self.chance is None:
            return ""
        return {0: "under 1 %", 100: "over 99 %"}.get(self.chance, f"{self.chance} %")

    @property
    def spoken(self) -> str:
        """ "tight: 55 % by 3 May, the exam less 2 weeks of full runs"."""
        if self.status is Status.READY:
            return "every step is at target"
        if self.too_much:
            return self.too_much
        if self.forecast.stuck:
            return self.forecast.unknown
        if not self.forecast.known:
            return f"not known: {self.forecast.unknown}"
        low, high = self.forecast.window
        when = f"{spoken_day(self.forecast.median)}, between {spoken_day(low)} and "
        when += f"{spoken_day(high)} eight times of ten"
        if self.chance is None or self.by is None:
            return f"at target about {when}"
        return f"{self.odds} by {spoken_day(self.by)}; at target about {when}"


@dataclass(frozen=True, slots=True)
class Left:
    """What a plan has left: ``rungs`` of so many ``steps``, and the ``days`` of a week on which
    it is practised, ``a_day`` steps on each."""

    rungs: int
    steps: int
    days: float
    a_day: float

    def most(self, days: int) -> float:
        """The rungs that so many days could win at best: one on every step, every time."""
        return days / 7 * self.days * self.a_day


def outlook(
    found: Forecast,
    today: date,
    exam: date | None = None,
    buffer: int = BUFFER,
    left: Left | None = None,
) -> Outlook:
    """The forecast against the day of the exam; while there is none, what is ``left`` against
    the days."""
    if found.known and found.days[-1] == 0:
        return Outlook(Status.READY, found)
    found = found.aged(today)
    if exam is None or exam < today:
        return Outlook(Status.OPEN, found)
    by = max(today, exam - timedelta(days=buffer))
    if found.stuck:
        return Outlook(Status.BEHIND, found, by)
    if not found.known:
        days = (exam - today).days
        if left is None or left.rungs <= left.most(days):
            return Outlook(Status.UNKNOWN, found)
        told = f"{left.rungs} rungs of {left.steps} steps are left, and {days} days"
        return Outlook(Status.BEHIND, found, by, too_much=told)
    chance = found.chance(by)
    status = (
        Status.SAFE if chance >= SAFE else Status.TIGHT if chance >= TIGHT else Status.BEHIND
    )
    return Outlook(status, found, by, chance)


@dataclass(frozen=True, slots=True)
class Pace:
    """Of the piece's speed, in BPM a week: what is needed to be there in time (None without
    an exam, or where no time is left), and what the forecast's middle amounts to."""

    needed: float | None
    going: float | None


def pace(seen: Outlook, speed: int, target: int, today: date) -> Pace:
    missing = max(0, target - speed)

    def weekly(day: date) -> float | None:
        weeks = (day - today).days / 7
        return missing / weeks if weeks > 0 else None

    needed = weekly(seen.by) if seen.by else None
    return Pace(needed, weekly(seen.forecast.median) if seen.forecast.known else None)


@dataclass(frozen=True, slots=True)
class Lever:
    """One thing that could be changed, and the answer then."""

    what: str
    chance: int
    median: date


def levers(journey: Journey, seen: Outlook, dropping: Mapping[str, Habit]) -> tuple[Lever, ...]:
    """More days, a lower target, another piece less: what each would make of the chance.

    ``dropping`` is the habit that would be left for this piece without another one, by name.
    """
    if seen.by is None or seen.chance is None:
        return ()
    found = [
        _lever(
            f"{days:.0f} days a week in place of {journey.habit.days_a_week:.1f}",
            ahead,
            seen,
            seen.by,
        )
        for days, ahead in _more_days(journey)
    ]
    lower = _lower_target(journey, seen, seen.by)
    found += [lower] if lower else []
    found += [
        _lever(f"without {name}", replace(journey, habit=habit), seen, seen.by)
        for name, habit in dropping.items()
    ]
    return tuple(lever for lever in found if lever.chance > seen.chance)


def _lever(what: str, journey: Journey, seen: Outlook, by: date) -> Lever:
    found = forecast(journey, seen.forecast.as_of, runs=LEVER_RUNS)
    if not found.known:
        return Lever(what, 0, date.max)
    return Lever(what, found.chance(by), found.median)


def _more_days(journey: Journey) -> list[tuple[float, Journey]]:
    now = journey.habit.days_a_week
    found: list[tuple[float, Journey]] = []
    for more in (1, 2):
        days = min(MOST_DAYS, round(now) + more)
        if days > now and days not in [other for other, _ in found]:
            steady = Habit((float(days),) * len(journey.habit.weeks), journey.habit.steps)
            found.append((float(days), replace(journey, habit=steady)))
    return found


def _lower_target(journey: Journey, seen: Outlook, by: date) -> Lever | None:
    """The highest target that is safe, else the lowest that is still above what is held."""
    target = max(track.climb.target for track in journey.tracks)
    ladder = next(t.climb.rungs for t in journey.tracks if t.climb.target == target)
    lever = None
    while (lower := rung_below(ladder, target)) < target and lower > ladder[0]:
        target = lower
        ahead = replace(
            journey, tracks=tuple(_up_to(track, target) for track in journey.tracks)
        )
        lever = _lever(f"a target of {target}", ahead, seen, by)
        if lever.chance >= SAFE:
            break
    return lever


def _up_to(track: Track, target: int) -> Track:
    rungs = tuple(bpm for bpm in track.climb.rungs if bpm <= target)
    if not rungs:
        return track
    return replace(track, climb=replace(track.climb, rungs=rungs))


def spoken_day(day: date) -> str:
    return f"{day:%-d %B %Y}"


def nearer(one: tuple[str, Outlook], other: tuple[str, Outlook]) -> str:
    """Which of two pieces is at target first, in words, and how sure that is."""
    first, second = sorted((one, other), key=_when)
    if not first[1].forecast.known:
        return "Neither can be told yet"
    if first[1].status is Status.READY:
        both = second[1].status is Status.READY
        return "Both are at target" if both else f"{first[0]} is there already"
    if not second[1].forecast.known:
        return f"{first[0]}; of {second[0]} too little is known"
    days = (second[1].forecast.median - first[1].forecast.median).days
    if days == 0:
        return "Both at the same time"
    apart = f"{first[0]}, by about {_days_or_weeks(days)}"
    if first[1].forecast.window[1] >= second[1].forecast.window[0]:
        return f"{apart}, but not for sure: their windows overlap"
    return apart


def _when(named: tuple[str, Outlook]) -> tuple[bool, date]:
    found = named[1].forecast
    return (not found.known, found.median if found.known else date.max)


def _days_or_weeks(days: int) -> str:
    if days < 14:
        return f"{days} day{'' if days == 1 else 's'}"
    return f"{round(days / 7)} weeks"
