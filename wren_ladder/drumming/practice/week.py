"""A week of practice: the plan and the climb turned into minutes, day by day.

Common practice, no source: warm up, the slowest step first while the head is fresh, then one
trouble bar, a join, something old, and a run to end with.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from enum import StrEnum
from itertools import cycle

from wren_ladder.drumming.forecast import MOST_DAYS

STALE = 10  # days without playing a step that is held call for a slow revisit
TURNS = 2  # slowest steps and trouble bars that take turns in a week
LEAST_RUN = 3  # needed steps that make a piece to run through
LEAST_ITEM = 2  # minutes; shorter is not begun


class DayPart(StrEnum):
    WARM_UP = "warm-up"
    SLOWEST = "slowest step"
    TROUBLE = "trouble bar"
    JOIN = "join"
    REVISIT = "slow revisit"
    RUN = "run-through"


# What each is of a day's minutes; what has nothing to play leaves its share to the slowest.
SHARES = {
    DayPart.WARM_UP: 0.15,
    DayPart.SLOWEST: 0.35,
    DayPart.TROUBLE: 0.15,
    DayPart.JOIN: 0.10,
    DayPart.REVISIT: 0.10,
    DayPart.RUN: 0.15,
}


@dataclass(frozen=True, slots=True)
class OpenStep:
    """A needed step as the week sees it: tempos in BPM, ``next`` to be tried, ``easy`` to
    revisit it at; ``rank`` how hard it is; ``idle`` days since it was played, None never."""

    key: int
    name: str
    held: int | None
    next: int
    target: int
    easy: int
    rank: float = 0.0
    idle: int | None = None
    is_there: bool = False  # its target is held
    is_join: bool = False
    is_bar: bool = False


@dataclass(frozen=True, slots=True)
class PieceWork:
    """A piece in the week: its title, the minutes a day and days a week agreed for it, its
    needed steps, and its speed to run through at. ``raised`` where the minutes have just been
    raised: then tempos stay where they are held."""

    title: str
    days: int
    minutes: int
    steps: tuple[OpenStep, ...]
    speed: int
    raised: bool = False
    on_pad: bool = False  # drills: they need no kit


@dataclass(frozen=True, slots=True)
class Item:
    part: DayPart
    title: str
    what: str
    minutes: int
    tempo: int | None = None
    key: int | None = None  # of the step
    why: str = ""
    on_pad: bool = False  # the ears have had their share of the kit


@dataclass(frozen=True, slots=True)
class Day:
    day: date
    items: tuple[Item, ...] = ()

    @property
    def minutes(self) -> int:
        return sum(item.minutes for item in self.items)

    @property
    def is_rest(self) -> bool:
        return not self.items

    @property
    def on_kit(self) -> int:
        return sum(item.minutes for item in self.items if not item.on_pad)


def practice_week(
    works: Sequence[PieceWork], first: date, ears_minutes: int
) -> tuple[Day, ...]:
    """Seven days from ``first``: no day holds more minutes than agreed, at least one is for
    rest, and no more than ``ears_minutes`` a day are loud."""
    plans = [_PieceWeek(work) for work in works]
    found = []
    for number in range(7):
        items: list[Item] = []
        for plan in plans:
            if number in spread(plan.work.days):
                items += plan.day(warm_up=not items)
        found.append(Day(first + timedelta(days=number), _quieten(items, ears_minutes)))
    return tuple(found)


def spread(days: int) -> tuple[int, ...]:
    """Which days of the week are practised, evenly apart and never all: 3 -> 0, 2, 4."""
    days = min(days, MOST_DAYS)
    return tuple(number * 7 // days for number in range(days)) if days else ()


class _PieceWeek:
    """The days of one piece, one after another: joins, trouble bars and revisits take turns."""

    def __init__(self, work: PieceWork) -> None:
        self.work = work
        left = [step for step in work.steps if not step.is_there]
        slow = sorted(left, key=lambda step: step.held or 0)[:TURNS]
        others = [step for step in left if step not in slow]
        bars = sorted((one for one in others if one.is_bar), key=lambda step: -step.rank)
        joins = [step for step in others if step.is_join]
        busy = [*slow, *bars[:TURNS], *joins]
        stale = [step for step in work.steps if _is_stale(step) and step not in busy]
        self.slowest, self.trouble = _turns(slow), _turns(bars[:TURNS])
        self.joins = _turns(joins)
        self.old = _turns(sorted(stale, key=lambda step: -(step.idle or 0)))

    def day(self, warm_up: bool) -> list[Item]:
        """The next day's items; hands are warmed up once a day, and a piece of a step or two
        has no run."""
        work = self.work
        chosen: dict[DayPart, Item | None] = {}
        if warm_up:
            chosen[DayPart.WARM_UP] = self._item(DayPart.WARM_UP, None)
        for part, turns in (
            (DayPart.SLOWEST, self.slowest),
            (DayPart.TROUBLE, self.trouble),
            (DayPart.JOIN, self.joins),
            (DayPart.REVISIT, self.old),
        ):
            chosen[part] = self._item(part, next(turns)) if turns else None
        if len(work.steps) >= LEAST_RUN:
            chosen[DayPart.RUN] = self._item(DayPart.RUN, None)
        items = [replace(item, on_pad=work.on_pad) for item in chosen.values() if item]
        return share_out(items, work.minutes)

    def _item(self, part: DayPart, step: OpenStep | None) -> Item:
        work = self.work
        if part is DayPart.WARM_UP:
            why = "slow first; loose hands play faster"
            return Item(part, work.title, "warm-up sheet, singles and doubles", 0, why=why)
        if step is None:
            why = "so that it stays one piece"
            return Item(part, work.title, "what you have, in one go", 0, work.speed, why=why)
        if part is DayPart.REVISIT:
            why = f"not played for {step.idle} days"
            return Item(part, work.title, step.name, 0, step.easy, step.key, why)
        tempo, why = step.next, _why(part, step)
        if work.raised and step.held is not None:
            tempo, why = step.held, "more minutes this week, so the tempo stays"
        return Item(part, work.title, step.name, 0, tempo, step.key, why)


def _turns(steps: Sequence[OpenStep]):
    return cycle(steps) if steps else None


def _is_stale(step: OpenStep) -> bool:
    return step.held is not None and step.idle is not None and step.idle > STALE


def _why(part: DayPart, step: OpenStep) -> str:
    if part is DayPart.SLOWEST:
        return f"holds {step.held} of {step.target}" if step.held else "not begun"
    return "the hardest bar left" if part is DayPart.TROUBLE else "so that the bars meet"


def share_out(items: Sequence[Item], minutes: int) -> list[Item]:
    """Whole minutes by the shares of the parts, never more than there are; what is too short
    to begin is left out, the least important first."""
    kept = list(items)
    order = (DayPart.REVISIT, DayPart.JOIN, DayPart.TROUBLE, DayPart.RUN, DayPart.WARM_UP)
    for part in order:
        if len(kept) * LEAST_ITEM <= minutes:
            break
        kept = [item for item in kept if item.part is not part]
    if not kept or minutes < LEAST_ITEM:
        return []
    given = [max(LEAST_ITEM, int(SHARES[item.part] * minutes)) for item in kept]
    most = max(range(len(kept)), key=lambda place: SHARES[kept[place].part])
    while sum(given) > minutes:
        given[max(range(len(given)), key=lambda place: given[place])] -= 1
    given[most] += minutes - sum(given)
    return [replace(item, minutes=spent) for item, spent in zip(kept, given, strict=True)]


def _quieten(items: Sequence[Item], budget: int) -> tuple[Item, ...]:
    """On the kit as long as the ears allow: the run and the slowest step first, the warm-up
    is on the pad anyway where it is not enough for all."""
    loud = [place for place, item in enumerate(items) if not item.on_pad]
    if sum(items[place].minutes for place in loud) <= budget:
        return tuple(items)
    louder = (
        DayPart.RUN,
        DayPart.SLOWEST,
        DayPart.JOIN,
        DayPart.TROUBLE,
        DayPart.REVISIT,
        DayPart.WARM_UP,
    )
    left, quiet = budget, set()
    for place in sorted(loud, key=lambda place: louder.index(items[place].part)):
        if items[place].minutes <= left:
            left -= items[place].minutes
        else:
            quiet.add(place)
    return tuple(
        replace(item, on_pad=True) if place in quiet else item
        for place, item in enumerate(items)
    )
