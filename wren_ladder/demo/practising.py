"""Half a year of plausible practice: steps climbed, plateaus hit, holidays paid for.

Seeded, so that the demo is the same on every machine.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from random import Random

from wren_ladder.demo.people import ClimbHabits as Habits
from wren_ladder.drumming.climb import Attempt
from wren_ladder.drumming.climb.standing import ClimbRule, ClimbState

TRIES = 2  # at each step of a session
STEPS_A_SESSION = 8
WOBBLE = 3.0  # BPM, from one try to the next
SETBACK = 8.0  # BPM lost by a fortnight without sticks
HEADROOM = 1.12  # nobody gets much faster than the target here
WORDS = {
    True: ("even now", "counted aloud", "finally relaxed", "with the click on 2 and 4"),
    False: ("rushed", "left hand late", "lost the count", "hat closed late", "tense"),
}


@dataclass
class Practised:
    """One step in the making: its rule, its log, and how fast the hands really are."""

    climb: ClimbRule
    state: ClimbState
    skill: float
    log: list[tuple[Attempt, str]]


def practise(
    climbs: Sequence[ClimbRule], habits: Habits, today: date, seed: str
) -> list[list[tuple[Attempt, str]]]:
    """The log of every step, in plan order: attempts and a word on some of them."""
    random = Random(seed)
    steps = [
        Practised(climb, ClimbState(climb), climb.rungs[0] + random.uniform(-2, 6), [])
        for climb in climbs
    ]
    begun = today - timedelta(weeks=habits.weeks)
    away = _away(habits, today)
    for day in _days(begun, today, habits.sessions, away, random):
        if away and day == away[1]:
            for step in steps:
                step.skill -= SETBACK
        for step in _at_hand(steps, random):
            _try_step(step, habits, day, random)
    return [step.log for step in steps]


def _away(habits: Habits, today: date) -> tuple[date, date] | None:
    if habits.away is None:
        return None
    gone = today - timedelta(weeks=habits.away)
    return gone, gone + timedelta(days=14)


def _days(begun: date, today: date, sessions: int, away, random: Random):
    """Practice days: some of every week's, none while away, the first one back for sure."""
    day = begun
    while day < today:
        if away and away[0] <= day < away[1]:
            day += timedelta(days=1)
            continue
        if (away and day == away[1]) or random.random() < sessions / 7:
            yield day
        day += timedelta(days=1)


def _at_hand(steps: list[Practised], random: Random) -> list[Practised]:
    """What a session works on: the slowest steps, mostly in plan order."""
    behind = [step for step in steps if (step.state.held or 0) < step.climb.target]
    ranked = sorted(behind or steps, key=lambda step: step.state.held or 0)
    front = ranked[: STEPS_A_SESSION * 2]
    return random.sample(front, min(STEPS_A_SESSION, len(front)))


def _try_step(step: Practised, habits: Habits, day: date, random: Random) -> None:
    for _ in range(TRIES):
        tempo = step.state.working
        clean = tempo <= step.skill + random.gauss(0, WOBBLE)
        passes = step.climb.passes if clean else random.randint(1, 2)
        attempt = Attempt(day, tempo, clean, passes)
        word = random.choice(WORDS[clean]) if random.random() < 0.12 else ""
        step.log.append((attempt, word))
        step.state.take(attempt)
        step.skill += _gain(step, habits, random)


def _gain(step: Practised, habits: Habits, random: Random) -> float:
    """Less the nearer the ceiling; hardly anything on a plateau."""
    low, high = step.climb.rungs[0], step.climb.target * HEADROOM
    share = (step.skill - low) / (high - low)
    gain = habits.gain * random.uniform(0.4, 1.6) * max(0.05, 1 - share)
    stuck = habits.stuck is not None and share > habits.stuck
    return gain * (0.08 if stuck else 1)
