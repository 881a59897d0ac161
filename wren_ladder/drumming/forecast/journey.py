"""The day a piece is at target: many simulated journeys from where it stands.

Each draws a gain, a slowing near the target, plateaus and the practice of the coming weeks.
What is drawn how widely is the house's; the window is calibrated on made-up students with
known habits, whose figures are in docs/sources.md.
"""

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from functools import lru_cache
from math import ceil, exp, log, sqrt
from random import Random
from statistics import fmean

from wren_ladder.drumming.forecast.pace import (
    LOOK_BACK,
    SLOW,
    TRUST_PIECE,
    TRUST_STEP,
    WEEK,
    Habit,
    Track,
    climbing,
    drawn,
    own_gain,
    practice_days,
)
from wren_ladder.drumming.forecast.slope import theil_sen

RUNS = 400
SEED = 20  # the same answer to the same question
LEAST_DAYS = 3  # practice days before anything is foretold
FAR = 3 * 365  # days; beyond, nothing is known
WINDOW = (10, 90)  # per cent of the journeys
SLOWING, SLOWING_SPREAD = 0.1, 0.4  # of the gain, lost on the last rung; never below none
MOST_SLOWING = 0.9
UNSURE, UNSURE_OF_FEW = 0.38, 0.9  # of the gain: always, and after one practice day
UNEVEN = 0.1  # from step to step
PLATEAU, PLATEAU_DAYS = 0.3, 6.0  # how likely, and its mean length in practice days
# A rung that was tried in vain for so many days, on so many of them and so often, is stuck;
# the house's.
STUCK_DAYS, STUCK_PRACTICE, STUCK_FAILS = 56, 10, 16
MONTH = 30
MONTHS = {2: "two", 3: "three", 4: "four", 5: "five", 6: "six"}
LEAST_RATE = 0.25  # practice days a week


@dataclass(frozen=True, slots=True)
class Journey:
    """Where a piece stands: its needed steps, how it is practised, what the studio is used
    to (BPM a practice day, None while it has no figure)."""

    tracks: tuple[Track, ...]
    habit: Habit
    usual: float | None = None


@dataclass(frozen=True, slots=True)
class Forecast:
    """``days`` from ``as_of`` until the piece is at target, one figure for each per cent of
    the journeys; empty where nothing is known, and ``unknown`` says why."""

    as_of: date
    days: tuple[int, ...] = ()
    unknown: str = ""
    stuck: bool = False  # and that is why: a rung has not come for long

    @property
    def known(self) -> bool:
        return bool(self.days)

    @property
    def median(self) -> date:
        return self.at(50)

    @property
    def window(self) -> tuple[date, date]:
        """Eight journeys of ten end between these days."""
        low, high = WINDOW
        return self.at(low), self.at(high)

    def at(self, percent: int) -> date:
        return self.as_of + timedelta(days=self.days[percent])

    def aged(self, today: date) -> "Forecast":
        """The same some days later, nothing having been practised since: the journey is as
        long as it was, and the days without practice have made the habit thinner."""
        idle = max(0, (today - self.as_of).days)
        if not (self.known and idle and self.days[-1]):
            return replace(self, as_of=max(today, self.as_of))
        whole = LOOK_BACK * WEEK.days
        if idle >= whole:
            return Forecast(today, unknown=f"nothing practised for {LOOK_BACK} weeks")
        return Forecast(today, tuple(ceil(d * whole / (whole - idle)) for d in self.days))

    def chance(self, by: date) -> int:
        """Per cent of the journeys that are over by this day."""
        return min(100, bisect_right(self.days, (by - self.as_of).days))


@dataclass(frozen=True, slots=True)
class _Way:
    """What is left of one step: the share of its climb that is done, the share that the
    gain was seen at, the gain there, and the climb in BPM."""

    done: float
    seen: float
    gain: float
    climb: float


def forecast(journey: Journey, today: date, runs: int = RUNS, seed: int = SEED) -> Forecast:
    """When every needed step is at its target."""
    ways = _ways(journey)
    if ways is None:
        return Forecast(today, unknown=_why_unknown(journey))
    if not ways:
        return Forecast(today, (0,) * 101)
    stuck = [found for track in journey.tracks if (found := stuck_for(track))]
    if stuck:
        # Months of failing are no pace: a date would be made of the tries before.
        return Forecast(today, unknown=max(stuck).spoken, stuck=True)
    played = len(practice_days(journey.tracks))
    unsure = sqrt(UNSURE**2 + UNSURE_OF_FEW**2 / played)
    different = list(dict.fromkeys(ways))
    steps = [different.index(way) for way in ways]
    chances = _chances(runs, len(ways), len(journey.habit.weeks), seed)
    ends = sorted(_one(different, steps, journey.habit, unsure, one) for one in chances)
    if ends[runs // 2] > FAR:
        return Forecast(today, unknown="at the pace so far it is years away")
    days = [ceil(ends[round(share * (runs - 1) / 100)]) for share in range(101)]
    return Forecast(today, tuple(min(one, 2 * FAR) for one in days))


@dataclass(frozen=True, slots=True, order=True)
class Stuck:
    """A rung that has not come for so many days, tried on so many of them."""

    days: int
    practice: int
    tempo: int

    @property
    def spoken(self) -> str:
        """ "110 has not come in two months: lower, split or wait"."""
        months = round(self.days / MONTH)
        long = "a month" if months < 2 else f"{MONTHS.get(months, months)} months"
        return f"{self.tempo} has not come in {long}: lower it, split it or wait"


def stuck_for(track: Track) -> Stuck | None:
    """How long the next rung of a step has been tried in vain; None where that is not long."""
    if track.is_there or track.carried or not track.own:
        return None
    best, since = 0, None
    for day, tempo in track.held_days:
        if tempo > best:
            best, since = tempo, day
    next_rung = next((rung for rung in track.climb.rungs if rung > best), None)
    tried = sorted({one.day for one in track.own if since is None or one.day > since})
    failed = sum(not one.clean and (since is None or one.day > since) for one in track.own)
    if next_rung is None or len(tried) < STUCK_PRACTICE or failed < STUCK_FAILS:
        return None
    days = (tried[-1] - (since or tried[0])).days
    return Stuck(days, len(tried), next_rung) if days >= STUCK_DAYS else None


def _why_unknown(journey: Journey) -> str:
    played = len(practice_days(journey.tracks))
    if not journey.tracks:
        return "the plan has no steps"
    if played < LEAST_DAYS:
        day = "day" if played == 1 else "days"
        return f"{played} practice {day} so far; {LEAST_DAYS} are needed to tell a pace"
    return "no step has been practised twice since its first rung"


def _ways(journey: Journey) -> list[_Way] | None:
    """The steps that are not there yet; None where the data is too little."""
    tracks = journey.tracks
    if not tracks:
        return None
    left = [track for track in tracks if not track.is_there]
    if not left:
        return []
    if len(practice_days(tracks)) < LEAST_DAYS:
        return None
    own, days = own_gain(tracks)
    piece = drawn(own, days, journey.usual, TRUST_PIECE)
    if piece is None:
        return None
    return [_way(track, piece) for track in left if not track.carried]


def _way(track: Track, piece_gain: float) -> _Way:
    low, target = track.climb.rungs[0], track.climb.enough
    climb = max(1, target - low)
    points = climbing(track)
    slope = theil_sen(points)
    own = slope.middle if slope else None
    gain = drawn(own, len(points) - 1, piece_gain / track.effort, TRUST_STEP)
    tempos = [held for _, held in points]
    seen = (fmean(tempos) - low) / climb if tempos else 0.0
    done = ((track.held or low) - low) / climb
    return _Way(
        max(0.0, done), min(max(0.0, seen), max(0.0, done)), max(SLOW, gain or SLOW), climb
    )


@dataclass(frozen=True, slots=True)
class _Chance:
    """What the dice say of one journey, whatever is known of the piece."""

    slowing: float
    better: float  # of a normal distribution around 0
    uneven: tuple[float, ...]  # by step, times its practice
    plateau: float  # practice days
    weeks: tuple[int, ...]  # which of the weeks known come again


@lru_cache(maxsize=16)
def _chances(runs: int, steps: int, weeks: int, seed: int) -> tuple[_Chance, ...]:
    """The same dice for the same question: who logs a try after the other has most of it."""
    random = Random(seed)
    found = []
    for _ in range(runs):
        slowing = min(MOST_SLOWING, max(0.0, random.gauss(SLOWING, SLOWING_SPREAD)))
        better = random.gauss(0, 1)
        uneven = tuple([exp(random.gauss(0, UNEVEN)) for _ in range(steps)])
        stays = random.random() < PLATEAU
        plateau = random.expovariate(1 / PLATEAU_DAYS) if stays else 0.0
        again = tuple(random.choices(range(weeks), k=weeks))
        found.append(_Chance(slowing, better, uneven, plateau, again))
    return tuple(found)


def _one(
    ways: Sequence[_Way], steps: Sequence[int], habit: Habit, unsure: float, chance: _Chance
) -> float:
    """Days until the last step is there, once; each of the steps has one of the ways."""
    better = exp(chance.better * unsure)
    practice = [_practice(way, chance.slowing) for way in ways]
    needed = [
        practice[way] * uneven / better
        for way, uneven in zip(steps, chance.uneven, strict=True)
    ]
    together = max(sum(needed) / max(1.0, habit.steps), *needed) + chance.plateau
    rate = sum(habit.weeks[week] for week in chance.weeks) / len(habit.weeks)
    return max(1.0, together) * 7 / max(LEAST_RATE, rate)


def _practice(way: _Way, slowing: float) -> float:
    """Practice days of a step whose gain falls in a straight line along its climb: the rest
    is the integral of 1 / gain."""
    first = way.gain / (1 - slowing * way.seen)
    if slowing < 0.01:
        return way.climb * (1 - way.done) / first
    rest = log((1 - slowing * way.done) / (1 - slowing)) / slowing
    return way.climb * rest / first
