"""The week as it was set in the lesson: the teacher's lines, shared out over the days.

Common practice, no source: warm up; the first line every day, for the teacher put it first;
the others take turns where a day does not hold them all.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from wren_ladder.drumming.practice.week import (
    LEAST_ITEM,
    Day,
    DayPart,
    Item,
    quieten,
    spread,
)

LEAST_WARM = 8  # minutes of a day that begins with a warm-up of its own
LEAST_WARMING = 2  # minutes
WARMING = 0.15  # of the minutes of such a day
WARM_UP = -1  # the place of the warm-up among the lines


@dataclass(frozen=True, slots=True)
class SetLine:
    """One line of what was set: a step of a piece with its tempo in BPM, or free words without
    one. ``minutes`` a day; 0 for what takes none of the practice time, such as listening."""

    name: str
    title: str = ""
    key: int | None = None  # of the step
    tempo: int | None = None
    minutes: int = 0
    on_pad: bool = False


@dataclass(frozen=True, slots=True)
class Turn:
    """A line on one day: its place among the lines, or WARM_UP; the minutes it has there."""

    line: int
    minutes: int
    on_pad: bool = False


def share_out_lines(
    lines: Sequence[SetLine], days: int, minutes: int, ears_minutes: int
) -> tuple[tuple[Turn, ...], ...]:
    """The seven days of a week: no more minutes in any than agreed, no more than
    ``ears_minutes`` of them loud. What takes no time stands on every day of practice."""
    timed = [place for place, line in enumerate(lines) if line.minutes]
    every = [Turn(place, 0) for place, line in enumerate(lines) if not line.minutes]
    others = timed[1:]
    found: list[tuple[Turn, ...]] = []
    for number in range(7):
        if number not in spread(days) or not lines:
            found.append(())
            continue
        warm = max(LEAST_WARMING, int(WARMING * minutes)) if minutes >= LEAST_WARM else 0
        room, turns = minutes - warm, [Turn(WARM_UP, warm)] if warm and timed else []
        taken: list[Turn] = []
        for place in [*timed[:1], *others]:
            spent = min(lines[place].minutes, room)
            if spent < min(LEAST_ITEM, lines[place].minutes):
                break
            taken.append(Turn(place, spent))
            room -= spent
        had = {turn.line for turn in taken}
        others = [one for one in others if one not in had] + [
            one for one in others if one in had
        ]
        turns += sorted([*taken, *every], key=lambda turn: turn.line)
        found.append(_within_ears(turns, lines, ears_minutes))
    return tuple(found)


def _within_ears(
    turns: Sequence[Turn], lines: Sequence[SetLine], budget: int
) -> tuple[Turn, ...]:
    """What the ears don't allow on the kit is for the pad, as in a week of the house."""
    quiet = quieten([_item(turn, lines) for turn in turns], budget)
    return tuple(
        Turn(turn.line, turn.minutes, item.on_pad)
        for turn, item in zip(turns, quiet, strict=True)
    )


def days_of(
    week: Sequence[Sequence[Turn]], lines: Sequence[SetLine], first: date
) -> tuple[Day, ...]:
    """The week as days from ``first``."""
    return tuple(
        Day(first + timedelta(days=number), tuple(_item(turn, lines) for turn in turns))
        for number, turns in enumerate(week)
    )


def without_a_day(
    week: Sequence[Sequence[Turn]], lines: Sequence[SetLine]
) -> tuple[SetLine, ...]:
    """The lines for which the week has no room."""
    there = {turn.line for turns in week for turn in turns}
    return tuple(line for place, line in enumerate(lines) if place not in there)


def _item(turn: Turn, lines: Sequence[SetLine]) -> Item:
    if turn.line == WARM_UP:
        return Item(
            DayPart.WARM_UP, "", "singles and doubles", turn.minutes, on_pad=turn.on_pad
        )
    line = lines[turn.line]
    pad = turn.on_pad or line.on_pad
    return Item(
        DayPart.SET, line.title, line.name, turn.minutes, line.tempo, line.key, on_pad=pad
    )
