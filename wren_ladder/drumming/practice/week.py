"""A week of practice: the plan and the climb turned into minutes, day by day.

Common practice, no source: warm up, the slowest step first while the head is fresh, then one
trouble bar, a join, something old, and a run to end with; three or four things in a quarter of
an hour. The minutes of a day are the student's, shared by their pieces. Nothing is practised
before what it is made of goes slowly.
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
LEAST_ITEM = 3  # minutes; shorter is not begun
A_THING = 4  # minutes that one thing is worth, as a rule
A_PIECE = 7  # minutes of a day for which a piece is taken up
LINES = 2  # that go slowly before they are run through


class DayPart(StrEnum):
    WARM_UP = "warm-up"
    SLOWEST = "slowest step"
    TROUBLE = "trouble bar"
    JOIN = "join"
    REVISIT = "slow revisit"
    RUN = "run-through"
    SET = "set"  # by the teacher: nothing of it is the house's choice


# What gets the minutes that are left over, and goes last where they are short.
WEIGHTIEST = (
    DayPart.SLOWEST,
    DayPart.RUN,
    DayPart.TROUBLE,
    DayPart.JOIN,
    DayPart.WARM_UP,
    DayPart.REVISIT,
)


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
    is_line: bool = False
    waits: bool = False  # for something that it is made of, which does not go slowly yet
    carried: bool = False  # a longer step is held as fast and climbs for it: not set by itself
    reached: bool = True  # by the plan: its week has come

    @property
    def is_left(self) -> bool:
        """Is there something to do at it by itself now?"""
        return self.reached and not (self.is_there or self.waits or self.carried)


@dataclass(frozen=True, slots=True)
class PieceWork:
    """A piece in the week: its title, its needed steps, and its speed to run through at.
    ``raised`` where the minutes have just been raised: then tempos stay where they are held."""

    title: str
    steps: tuple[OpenStep, ...]
    speed: int
    raised: bool = False
    on_pad: bool = False  # drills: they need no kit

    @property
    def can_run(self) -> bool:
        """Are there two lines to run through, or is all of a shorter piece there?"""
        lines = [step for step in self.steps if step.is_line]
        if len(self.steps) < LEAST_RUN:
            return False
        if len(lines) < LINES:
            return all(step.held is not None for step in self.steps)
        return sum(step.held is not None for step in lines) >= LINES


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

    @property
    def said(self) -> str:
        """What to play: a step by its name, else the part of the day."""
        own = self.part in (DayPart.WARM_UP, DayPart.RUN)
        return self.part.value if own else self.what


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
    works: Sequence[PieceWork], days: int, minutes: int, first: date, ears_minutes: int
) -> tuple[Day, ...]:
    """Seven days from ``first``, on so many of which the student practises, so many minutes
    each; the pieces take turns in them. At least one is for rest, and no more than
    ``ears_minutes`` a day are loud."""
    plans = [_PieceWeek(work) for work in works]
    many = min(len(plans), max(1, minutes // A_PIECE))
    turn = 0
    found = []
    for number in range(7):
        items: list[Item] = []
        if number in spread(days) and plans:
            today = [plans[(turn + place) % len(plans)] for place in range(many)]
            for plan, share in zip(today, _shares(today, minutes), strict=True):
                items += plan.day(share, warm_up=not items)
            turn += many
        found.append(Day(first + timedelta(days=number), quieten(items, ears_minutes)))
    return tuple(found)


def spread(days: int) -> tuple[int, ...]:
    """Which days of the week are practised, evenly apart and never all: 3 -> 0, 2, 4."""
    days = min(days, MOST_DAYS)
    return tuple(number * 7 // days for number in range(days)) if days else ()


def _shares(today: Sequence["_PieceWeek"], minutes: int) -> list[int]:
    """The minutes of a day for each of its pieces; drills beside a piece are one thing of the
    day, not half of it."""
    drills = [plan.work.on_pad for plan in today]
    if not any(drills) or all(drills):
        return [minutes // len(today) + (n < minutes % len(today)) for n in range(len(today))]
    light = min(A_THING, minutes // len(today))
    left, pieces = minutes - light * sum(drills), drills.count(False)
    shares = iter([left // pieces + (n < left % pieces) for n in range(pieces)])
    return [light if drill else next(shares) for drill in drills]


class _PieceWeek:
    """The days of one piece, one after another: joins, trouble bars and revisits take turns."""

    def __init__(self, work: PieceWork) -> None:
        self.work = work
        left = [step for step in work.steps if step.is_left]
        slow = sorted(left, key=lambda step: step.held or 0)[:TURNS]
        others = [step for step in left if step not in slow]
        bars = sorted((one for one in others if one.is_bar), key=lambda step: -step.rank)
        joins = [step for step in others if step.is_join]
        busy = [*slow, *bars[:TURNS], *joins]
        stale = [
            step
            for step in work.steps
            if _is_stale(step) and step not in busy and not step.carried
        ]
        self.slowest, self.trouble = _turns(slow), _turns(bars[:TURNS])
        self.joins = _turns(joins)
        self.left = left
        self.old = _turns(sorted(stale, key=lambda step: -(step.idle or 0)))
        beside = {
            DayPart.TROUBLE: self.trouble,
            DayPart.JOIN: self.joins,
            DayPart.REVISIT: self.old,
        }
        self.beside = {part: turns for part, turns in beside.items() if turns}
        self.whose_turn = cycle(self.beside)

    def day(self, minutes: int, warm_up: bool) -> list[Item]:
        """The next day's items; hands are warmed up once a day. Where the minutes are short,
        what stands beside the slowest step takes turns."""
        work = self.work
        always = [DayPart.WARM_UP] if warm_up else []
        always += [DayPart.SLOWEST] if self.slowest else []
        always += [DayPart.RUN] if work.can_run else []
        things = round(minutes / A_THING)
        room = max(0, things - len(always))
        beside = [next(self.whose_turn) for _ in range(min(room, len(self.beside)))]
        chosen = [part for part in DayPart if part in always or part in beside]
        items = []
        for part in chosen:
            turns = self.slowest if part is DayPart.SLOWEST else self.beside.get(part)
            items.append(self._item(part, next(turns) if turns else None))
        items[-1:-1] = self._more(things - len(items), items)
        items = [replace(item, on_pad=work.on_pad) for item in items]
        return share_out(items, minutes)

    def _more(self, room: int, items: Sequence[Item]) -> list[Item]:
        """In many minutes there are more things, not longer ones."""
        today = {item.key for item in items}
        others = [step for step in self.left if step.key not in today]
        return [self._item(DayPart.SLOWEST, step) for step in others[: max(0, room)]]

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
    """As many whole minutes for each, never more than there are: nobody practises eleven
    minutes of one bar and two of another. Where they are too short to begin all, the least
    important is left out."""
    kept = list(items)
    for part in reversed(WEIGHTIEST):
        while len(kept) * LEAST_ITEM > minutes and len(kept) > 1:
            there = [place for place, item in enumerate(kept) if item.part is part]
            if not there:
                break
            del kept[there[-1]]
    if not kept or minutes < 1:
        return []
    each, over = divmod(minutes, len(kept))
    order = sorted(range(len(kept)), key=lambda place: WEIGHTIEST.index(kept[place].part))
    longer = set(order[:over])
    return [replace(item, minutes=each + (place in longer)) for place, item in enumerate(kept)]


def quieten(items: Sequence[Item], budget: int) -> tuple[Item, ...]:
    """On the kit as long as the ears allow: the run and the slowest step first, the warm-up
    is on the pad anyway where it is not enough for all."""
    loud = [place for place, item in enumerate(items) if not item.on_pad]
    if sum(items[place].minutes for place in loud) <= budget:
        return tuple(items)
    louder = (
        DayPart.RUN,
        DayPart.SLOWEST,
        DayPart.SET,
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
