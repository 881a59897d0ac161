"""How fast a climb goes, read from its log: what a practice day wins, how many there are.

A *practice day* of a step is a day on which it was tried.
"""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import cached_property
from statistics import median

from wren_ladder.drumming.climb import Attempt, ClimbRule, held_by_day
from wren_ladder.drumming.forecast.slope import theil_sen

WEEK = timedelta(days=7)
LOOK_BACK = 8  # weeks whose practice says how the next ones will be
RECENT = 10  # practice days that say how many steps a day are worked on
MOST_DAYS = (
    60  # practice days of a step that say how fast it goes now: half a year's, the house's
)
SLOW = 0.15  # BPM a practice day; less is not told from standing still
# Practice days whose worth is given to the wider figure while one's own are few: the
# piece's for a step, the studio's for a piece. The house's, see the calibration.
TRUST_STEP, TRUST_PIECE = 16, 8


@dataclass(frozen=True)  # without slots: the fold over the log is done once and kept
class Track:
    """One needed step: its rule, its log in the order it happened, and how many practice days
    it takes for each of a plain new bar, see ``breakdown.effort``."""

    climb: ClimbRule
    log: tuple[Attempt, ...] = ()
    effort: float = 1.0
    carried: bool = False  # by a longer step, which climbs for it

    @property
    def own(self) -> tuple[Attempt, ...]:
        """The tries of the step itself."""
        return tuple(one for one in self.log if not one.by)

    @cached_property
    def held_days(self) -> tuple[tuple[date, int], ...]:
        """(day, tempo held at its end)."""
        return held_by_day(self.climb, self.log)

    @property
    def held(self) -> int | None:
        """None too where the lowest rung was lost on the last day."""
        return dict(self.held_days).get(self.log[-1].day) if self.log else None

    @property
    def is_there(self) -> bool:
        return self.climb.is_reached(self.held)


@dataclass(frozen=True, slots=True)
class Habit:
    """Practice as it is: days in each of the last weeks, newest first, and how many steps
    are worked on in a day."""

    weeks: tuple[float, ...]
    steps: float

    @property
    def days_a_week(self) -> float:
        return sum(self.weeks) / len(self.weeks)


def practice_days(tracks: Sequence[Track]) -> list[date]:
    """The days on which anything was tried, in order."""
    return sorted({attempt.day for track in tracks for attempt in track.own})


def climbing(track: Track) -> list[tuple[int, int]]:
    """(practice day of the step, tempo held at its end) until the target is earned.

    Until the first try that fails the ladder only catches up with what the hands could do
    before, so the days before it are left out as soon as two days after it are known. Of a
    climb that goes on for long only the last days count.
    """
    held = dict(track.held_days)
    failed = next((one.day for one in track.own if not one.clean), None)
    found, honest = [], []
    for number, day in enumerate(sorted({attempt.day for attempt in track.own})):
        if day not in held:
            continue
        found.append((number, held[day]))
        if failed is not None and day >= failed:
            honest.append(found[-1])
        if track.climb.is_reached(held[day]):
            break
    return (honest if len(honest) > 1 else found)[-MOST_DAYS:]


def own_gain(tracks: Sequence[Track]) -> tuple[float | None, int]:
    """BPM that a practice day wins a plain new bar of this piece, as the median of its steps
    says, and how many practice days say so; None while no step has two."""
    slopes, days = [], 0
    for track in tracks:
        points = climbing(track)
        slope = theil_sen(points)
        if slope is not None:
            slopes.append(slope.middle * track.effort)
            days += len(points) - 1
    return (median(slopes), days) if slopes else (None, 0)


def drawn(own: float | None, days: float, wider: float | None, trust: float) -> float | None:
    """One's own figure drawn towards the wider one, the more the fewer days speak for it."""
    if own is None or wider is None:
        return wider if own is None else own
    return (own * days + wider * trust) / (days + trust)


def habit_of(tracks: Sequence[Track], today: date, days: float, steps: float) -> Habit:
    """What the last weeks show. ``days`` a week and ``steps`` a day are what was agreed; they
    stand for two weeks more, and for all while nothing was practised."""
    played = practice_days(tracks)
    if not played:
        return Habit((days,), steps)
    weeks: list[float] = []
    for back in range(LOOK_BACK):
        last = today - back * WEEK
        if last < played[0] + WEEK - timedelta(days=1) and weeks:
            break
        weeks.append(sum(last - WEEK < day <= last for day in played))
    if len(weeks) < LOOK_BACK / 2:
        weeks += [float(days)] * 2
    each = Counter(day for track in tracks for day in {one.day for one in track.own})
    recent = [each[day] for day in played[-RECENT:]]
    return Habit(tuple(weeks), sum(recent) / len(recent))
