"""Made-up students with known habits, whose whole climb is known to the end.

They are made by other rules than the forecast's: hands have a skill that practice moves, tries
come out by chance, and the log is what a teacher would have written down.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum
from random import Random

from wren_ladder.drumming.climb import Attempt, ClimbRule, rungs
from wren_ladder.drumming.climb.standing import ClimbState
from wren_ladder.drumming.forecast.pace import Track

FIRST = date(2026, 1, 5)
LONGEST = 700  # days; whoever is not there by then is made again
WOBBLE = 3.0  # BPM from one try to the next


class Kind(StrEnum):
    STEADY = "steady"
    SLOWING = "slowing"
    PLATEAU = "plateau"
    IRREGULAR = "irregular"


@dataclass
class Pupil:
    """A whole climb: one log for each step, and the day on which the last was there."""

    kind: Kind
    climbs: list[ClimbRule]
    logs: list[list[Attempt]]
    ready: date
    days_a_week: float

    def until(self, day: date) -> tuple[Track, ...]:
        """What was known on a day."""
        return tuple(
            Track(climb, tuple(one for one in log if one.day <= day))
            for climb, log in zip(self.climbs, self.logs, strict=True)
        )


def pupils(number: int, seed: int) -> Iterator[Pupil]:
    random = Random(seed)
    made = 0
    while made < number:
        pupil = _pupil(list(Kind)[made % len(Kind)], random)
        if pupil is not None:
            made += 1
            yield pupil


def _pupil(kind: Kind, random: Random) -> Pupil | None:
    target = random.randrange(90, 141)
    start = round(target * random.uniform(0.55, 0.75))
    count = random.randint(4, 14)
    climbs = [
        ClimbRule(rungs(start, target, 5), random.choice((1, 2, 4))) for _ in range(count)
    ]
    gain = random.uniform(1.0, 3.5)  # BPM a practised day at first
    days = random.uniform(2.5, 6)
    at_once = random.randint(3, 6)
    stuck = random.uniform(0.3, 0.8)
    stuck_for = random.randint(4, 14)
    skills = [start + random.uniform(-3, 6) for _ in climbs]
    talents = [random.lognormvariate(0, 0.25) for _ in climbs]
    stalled = [stuck_for] * count
    states = [ClimbState(climb) for climb in climbs]
    logs: list[list[Attempt]] = [[] for _ in climbs]
    chance = days / 7
    for number in range(LONGEST):
        day = FIRST + timedelta(days=number)
        if kind is Kind.IRREGULAR and number % 7 == 0:
            chance = random.choice((0, days / 14, days / 7, min(1.0, days / 4)))
        if random.random() > chance:
            continue
        left = [n for n in range(count) if (states[n].held or 0) < target]
        left.sort(key=lambda n: states[n].held or 0)
        front = left[: at_once * 2]
        for n in random.sample(front, min(at_once, len(front))):
            for _ in range(2):
                tempo = states[n].working
                clean = tempo <= skills[n] + random.gauss(0, WOBBLE)
                passes = climbs[n].passes if clean else 1
                attempt = Attempt(day, tempo, clean, passes)
                logs[n].append(attempt)
                states[n].take(attempt)
            share = (skills[n] - start) / (target - start)
            won = gain * talents[n] * random.uniform(0.3, 1.7)
            if kind is Kind.SLOWING:
                won *= max(0.1, 1 - 0.85 * share)
            if kind is Kind.PLATEAU and share > stuck and stalled[n]:
                stalled[n] -= 1
                won = 0
            skills[n] += won
        if all((state.held or 0) >= target for state in states):
            return Pupil(kind, climbs, logs, day, days)
    return None
