"""A piece that is copied from its page bar by bar: what was typed beside each printed bar, put
together into typed bars.

A printed bar that looks like one before it says "as" that one; a long rest is one printed bar
and several of the piece.
"""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum

from wren_ladder.drumming.chart import Meter
from wren_ladder.drumming.page_reading.found import BarLine, FoundBar

HEADS = re.compile(r"(as|like)\b.*|rest|slashes|repeat", re.IGNORECASE)
LONG_REST = re.compile(
    r"(\d{1,2}) bars?( of)? rests?|rests?( for)? (\d{1,2}) bars?", re.IGNORECASE
)
PICKUP = re.compile(r"beats? \d", re.IGNORECASE)


class State(StrEnum):
    """Whether a person has looked at a printed bar."""

    OPEN = ""
    RIGHT = "right"
    LATER = "later"


@dataclass(frozen=True, slots=True)
class CopiedBar:
    """One printed bar: the lines typed for it, the first bar that looks the same (its own
    place where none does), and the signs of the road at its own ends, as they are typed."""

    kind: int
    text: str = ""
    state: State = State.OPEN
    signs: tuple[str, ...] = ()


def typed_signs(bars: Sequence[FoundBar]) -> list[tuple[str, ...]]:
    """What the ends of each printed bar and the brackets over them say, as it is typed. An
    ending behind one that goes back is the next; how often a repeat is played stands in words,
    which nobody has read: twice."""
    found, ending, goes_back = [], 0, False
    for bar in bars:
        signs = []
        if bar.before is BarLine.REPEAT_START:
            signs.append("repeat start")
        if bar.ending:
            ending = ending + 1 if goes_back and ending else 1
            signs.append(f"ending {ending}")
        elif bar.before is BarLine.REPEAT_START:
            ending = 0
        goes_back = bar.after is BarLine.REPEAT_END
        if goes_back:
            signs.append("repeat end 2")
        found.append(tuple(signs))
    return found


def numbers(bars: Sequence[CopiedBar]) -> list[int]:
    """The number of each printed bar in the piece; a pick-up is 0."""
    found, number = [], 1
    if bars and any(PICKUP.match(line.strip()) for line in bars[0].text.splitlines()):
        number = 0
    for bar in bars:
        found.append(number)
        number += _length(bar)
    return found


def starts(bars: Sequence[CopiedBar]) -> list[int]:
    """Where in the piece each printed bar begins, its first bar being 0."""
    named = numbers(bars)
    return [number - named[0] for number in named]


def _length(bar: CopiedBar) -> int:
    """How many bars of the piece a printed bar is."""
    head = _first_line(bar.text)
    match = LONG_REST.fullmatch(head)
    return max(1, int(match[1] or match[4])) if match else 1


def _first_line(text: str) -> str:
    return next((line.strip() for line in text.splitlines() if line.strip()), "")


def text_of(bars: Sequence[CopiedBar], place: int) -> str:
    """What a printed bar says: what was typed for it, else that it is as its like."""
    return _said(bars, place, numbers(bars))


def _said(bars: Sequence[CopiedBar], place: int, named: Sequence[int]) -> str:
    bar = bars[place]
    if bar.text.strip() or bar.kind == place or not bars[bar.kind].text.strip():
        return bar.text
    return "\n".join((f"as {named[bar.kind]}", *bar.signs))


def with_metre(text: str, meter: Meter) -> str:
    """What is typed for a bar with its metre said: first, or behind "as 3" or "slashes"."""
    head, _, rest = text.partition("\n")
    line = f"meter {meter}"
    if line in text.splitlines():
        return text
    return f"{head}\n{line}\n{rest}" if HEADS.fullmatch(head.strip()) else f"{line}\n{text}"


def whole_text(bars: Sequence[CopiedBar]) -> str:
    """All of it as typed bars."""
    found, named = [], numbers(bars)
    for place, number in enumerate(named):
        text = _said(bars, place, named)
        lines = [line for line in text.splitlines() if line.strip()]
        head = f"bar {number}"
        length = _length(CopiedBar(place, text))
        if length > 1:
            head, lines = f"bars {number}-{number + length - 1} rest", lines[1:]
        elif lines and HEADS.fullmatch(lines[0].strip()):
            head, lines = f"{head} {lines[0].strip()}", lines[1:]
        found += [head, *lines]
    return "\n".join(found) + "\n"


def to_type(bars: Sequence[CopiedBar]) -> list[int]:
    """The bars that nothing is known of yet: neither typed nor like one that is."""
    return [place for place in range(len(bars)) if is_to_type(bars, place)]


def is_to_type(bars: Sequence[CopiedBar], place: int) -> bool:
    bar = bars[place]
    known = bar.kind != place and bars[bar.kind].state is State.RIGHT
    return bar.state is not State.RIGHT and not known


def unseen(bars: Sequence[CopiedBar]) -> list[int]:
    """The bars that no person has called right yet."""
    return [place for place, bar in enumerate(bars) if bar.state is not State.RIGHT]


def following(bars: Sequence[CopiedBar], place: int) -> int | None:
    """The next bar to type behind a place, those put off last; None where all are known."""
    left = to_type(bars)
    order = [*(n for n in left if n > place), *(n for n in left if n < place)]
    fresh = [n for n in order if bars[n].state is State.OPEN]
    return next(iter([*fresh, *order]), None)
