"""Takes over weeks: what a limb does day after day.

One bad evening is no habit: it is told only when it holds on three days, one after the other.
"""

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date

from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.wording import Coded

DAYS = 3
LEANING = 0.015  # seconds, the house's: half of what a beginner may be off
UNEVEN = 1.5  # times the middle of the other limbs
FEW = 4  # strokes of a limb on a day
MIDDLE = 2  # limbs at least that another is compared with


@dataclass(frozen=True, slots=True)
class LimbMeasured:
    """Seconds: how late against the others, and how uneven, from so many strokes."""

    lean: float
    spread: float
    strokes: int


@dataclass(frozen=True, slots=True)
class TakeMeasured:
    day: date
    tempo: int  # BPM that it was asked at
    limbs: dict[Limb, LimbMeasured]


class HabitKind(Coded):
    LATE = "late", "late"
    EARLY = "early", "early"
    UNEVEN = "uneven", "uneven"


@dataclass(frozen=True, slots=True)
class Habit:
    """``seconds``: how late, early or uneven, the mean of its ``days`` since it began."""

    kind: HabitKind
    limb: Limb
    seconds: float
    since: date
    days: int


def habits(takes: Iterable[TakeMeasured]) -> tuple[Habit, ...]:
    """What holds up to the last day that the limb was heard on, the largest first."""
    by_limb: dict[Limb, dict[date, LimbMeasured]] = defaultdict(dict)
    uneven: dict[Limb, dict[date, float]] = defaultdict(dict)
    for day, limbs in _days(takes):
        for limb, mine in limbs.items():
            by_limb[limb][day] = mine
            others = sorted(one.spread for other, one in limbs.items() if other is not limb)
            if len(others) >= MIDDLE:
                uneven[limb][day] = mine.spread / max(others[len(others) // 2], 1e-6)
    found = []
    for limb, days in by_limb.items():
        order = sorted(days)
        leans = [days[day].lean for day in order]
        for kind, holds in (
            (HabitKind.LATE, [lean > LEANING for lean in leans]),
            (HabitKind.EARLY, [lean < -LEANING for lean in leans]),
        ):
            found += _habit(kind, limb, order, holds, [abs(lean) for lean in leans])
        spreads = [days[day].spread for day in order]
        holds = [
            uneven[limb].get(day, 0) > UNEVEN and days[day].spread > LEANING for day in order
        ]
        found += _habit(HabitKind.UNEVEN, limb, order, holds, spreads)
    return tuple(sorted(found, key=lambda one: -one.seconds))


def _habit(
    kind: HabitKind, limb: Limb, order: Sequence[date], holds: Sequence[bool], values
) -> list[Habit]:
    days = 0
    while days < len(order) and holds[-1 - days]:
        days += 1
    if days < DAYS:
        return []
    mean = sum(values[-days:]) / days
    return [Habit(kind, limb, mean, order[-days], days)]


def _days(takes: Iterable[TakeMeasured]):
    """(day, limbs) in order: of several takes of a day the mean, by strokes."""
    by_day: dict[date, list[TakeMeasured]] = defaultdict(list)
    for take in takes:
        by_day[take.day].append(take)
    for day in sorted(by_day):
        limbs: dict[Limb, list[LimbMeasured]] = defaultdict(list)
        for take in by_day[day]:
            for limb, mine in take.limbs.items():
                if mine.strokes >= FEW:
                    limbs[limb].append(mine)
        yield day, {limb: _mean(mine) for limb, mine in limbs.items()}


def _mean(of: Sequence[LimbMeasured]) -> LimbMeasured:
    strokes = sum(one.strokes for one in of)
    return LimbMeasured(
        sum(one.lean * one.strokes for one in of) / strokes,
        sum(one.spread * one.strokes for one in of) / strokes,
        strokes,
    )
