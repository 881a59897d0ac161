"""Changing the order of the page: bars copied, filled, put in, taken out, moved.

Selections are places ``first`` to ``last``, both taken along. Tempo, swing and number are of a
place on the page, not of the music that stands there: bars are renumbered from the page's first
number on, and what was in force is carried. A repeat sign whose music would change because bars
went or came is written out in notes.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, ChartError, Tempo
from wren_ladder.drumming.chart.bar import PICKUP
from wren_ladder.drumming.chart.chart import MOST_BARS, opening_tempo, swings_of, tempos_of
from wren_ladder.drumming.chart.shorthand import fill_in
from wren_ladder.drumming.chart.size import check_size
from wren_ladder.drumming.chart.swing import STRAIGHT, Swing
from wren_ladder.drumming.numbers import is_whole, read_whole

Bars = tuple[Bar, ...]


def insert(bars: Bars, place: int) -> Bars:
    """An empty bar before ``place``, in the metre of the bar before it."""
    like = bars[max(0, place - 1)]
    fresh = Bar("new", like.meter, tempo=None)
    behind = bars[place:]
    if behind and _opens(bars, place):  # what stood over the first bar stands over this one
        fresh = replace(fresh, tempo=behind[0].tempo, swing=behind[0].swing)
        behind = (replace(behind[0], tempo=None, swing=None), *behind[1:])
    return _settled((*bars[:place], fresh, *behind), bars[0])


def _opens(bars: Bars, place: int) -> bool:
    """Is it the first bar, or the first full one behind a pick-up?"""
    return place == (1 if bars[0].pickup else 0)


def put_pickup(bars: Bars) -> Bars:
    """A pick-up of one count before the first bar."""
    if bars[0].pickup:
        raise ChartError("there is a pick-up already", bar=PICKUP)
    first = bars[0]
    length = min(first.meter.count_length, first.meter.length / 2)
    pickup = Bar(PICKUP, first.meter, length=length, tempo=first.tempo, swing=first.swing)
    return _settled((pickup, replace(first, tempo=None, swing=None), *bars[1:]), first)


def delete(bars: Bars, first: int, last: int) -> Bars:
    """Take bars out; ChartError where none would be left. Those that stay are as fast, and as
    swung, as before."""
    kept = (*bars[:first], *bars[last + 1 :])
    if not kept:
        raise ChartError("one bar has to stay; clear it instead")
    tempos, swings = (
        (*held[:first], *held[last + 1 :]) for held in (tempos_of(bars), swings_of(bars))
    )
    return _settled(_in_force(kept, tempos, swings), bars[0])


def _in_force(bars: Bars, tempos: Sequence[Tempo], swings: Sequence[Swing]) -> Bars:
    """With a mark wherever a bar would be in another tempo or swing than these."""
    made: list[Bar] = []
    tempo, swing = opening_tempo(bars), STRAIGHT
    for bar, in_tempo, in_swing in zip(bars, tempos, swings, strict=True):
        marked = bar
        if (bar.tempo or tempo) != in_tempo:
            marked = replace(marked, tempo=in_tempo)
        if (bar.swing or swing) != in_swing:
            marked = replace(marked, swing=in_swing)
        tempo, swing = in_tempo, in_swing
        made.append(marked)
    return tuple(made)


def move(bars: Bars, first: int, last: int, by: int) -> Bars:
    """The selection one place on (``by`` = 1) or back (-1); a pick-up stays first, and marks
    of tempo and swing stay where they stand."""
    lowest = 1 if bars[0].pickup else 0
    if first < lowest:
        raise ChartError("the pick-up stays first", bar=PICKUP)
    chosen, rest = bars[first : last + 1], (*bars[:first], *bars[last + 1 :])
    goal = min(max(first + by, lowest), len(rest))
    moved = (*rest[:goal], *chosen, *rest[goal:])
    marked = tuple(
        replace(bar, tempo=here.tempo, swing=here.swing)
        for bar, here in zip(moved, bars, strict=True)
    )
    return _settled(marked, bars[0])


def copy_music(source: Bar, goal: Bar) -> Bar:
    """``goal`` with the music of ``source``; its own number and road signs stay."""
    shapes = {(bar.meter, bar.length) for bar in (source, goal)}
    if (goal.pickup or source.pickup) and len(shapes) > 1:
        raise ChartError("the pick-up has a length of its own; type it", bar=goal.number)
    return goal.in_notes(
        meter=source.meter,
        length=source.length,
        hits=source.hits,
        marks=source.marks,
    )


def paste(bars: Bars, place: int, copied: Sequence[Bar]) -> Bars:
    """The music of ``copied`` from ``place`` on; past the end, bars are added."""
    made = list(bars)
    for offset, source in enumerate(copied):
        if place + offset < len(made):
            made[place + offset] = copy_music(source, made[place + offset])
        else:
            made.append(copy_music(source, Bar("new", source.meter, length=source.length)))
    return numbered(tuple(made))


def fill_down(bars: Bars, first: int, last: int) -> Bars:
    """The first bar's music in all the others; one bar alone fills the next one."""
    count = max(1, last - first)
    return paste(bars, first + 1, [bars[first]] * count)


def repeat_signs(bars: Bars, first: int, last: int, again: int) -> Bars:
    """Write the selection as repeat signs; where it is that already, in notes."""
    if all(bar.again == again for bar in bars[first : last + 1]):
        again = 0
    made = list(bars)
    for place in range(first, last + 1):
        bar = made[place]
        if again:
            source = made[place - again] if place >= again else bar
            bar = replace(bar, meter=source.meter, length=source.length, hits=())
        made[place] = replace(bar, again=again, crash_again=False)
        made[place] = fill_in(made[place], made[:place])
    return tuple(made)


def clear(bars: Bars, first: int, last: int) -> Bars:
    """Take the notes out; the bars and their road signs stay."""
    return tuple(
        bar.in_notes(hits=(), marks=()) if first <= place <= last else bar
        for place, bar in enumerate(bars)
    )


def put(bars: Bars, place: int, bar: Bar) -> Bars:
    """One bar changed; repeat signs after it follow."""
    check_size([bar])
    return (*bars[:place], bar, *bars[place + 1 :])


def numbered(bars: Bars, first: Bar | None = None) -> Bars:
    """Bars numbered on from the number of the ``first``, which is that of the page where none
    is given; numbers that are no numbers stay as they are."""
    if len(bars) > MOST_BARS:
        raise ChartError(f"{len(bars)} bars; a chart has at most {MOST_BARS}")
    check_size(bars)
    first = first or bars[0]
    number = (read_whole(first.number) or 1) if not first.pickup else 1
    taken = {bar.number for bar in bars if _named(bar)}
    made: list[Bar] = []
    for place, bar in enumerate(bars):
        if _named(bar) or (bar.pickup and not place):
            made.append(bar)
            continue
        while str(number) in taken or not number:
            number += 1
        made.append(bar if bar.number == str(number) else replace(bar, number=str(number)))
        number += 1
    return tuple(made)


def _named(bar: Bar) -> bool:
    return not is_whole(bar.number) and bar.number != "new"


def _settled(bars: Bars, first: Bar) -> Bars:
    """``first`` was the page's first bar before."""
    made: list[Bar] = []
    for bar in bars:
        made.append(_written_out(bar, made) if bar.again else bar)
    return numbered(tuple(made), first)


def _written_out(bar: Bar, before: Sequence[Bar]) -> Bar:
    """The bar as a sign if that still stands for its music, else in notes."""
    try:
        as_sign = fill_in(bar, before)
    except ChartError:
        as_sign = None
    return bar if as_sign == bar else bar.in_notes()


@dataclass(frozen=True, slots=True)
class Splice:
    """What one edit changed: from ``first`` on, ``removed`` bars became ``added``."""

    first: int
    removed: Bars
    added: Bars

    @property
    def undone(self) -> "Splice":
        return Splice(self.first, self.added, self.removed)

    def apply(self, bars: Bars) -> Bars:
        return (*bars[: self.first], *self.added, *bars[self.first + len(self.removed) :])


def difference(before: Bars, after: Bars) -> Splice:
    """The smallest splice that leads from one page to the other."""
    start = 0
    while start < min(len(before), len(after)) and before[start] == after[start]:
        start += 1
    end = 0
    while (
        end < min(len(before), len(after)) - start
        and before[len(before) - 1 - end] == after[len(after) - 1 - end]
    ):
        end += 1
    return Splice(start, before[start : len(before) - end], after[start : len(after) - end])


def set_meter(bars: Bars, place: int, bar: Bar) -> Bars:
    """Put a bar whose metre changed; empty bars after it, up to the next metre, follow."""
    old = bars[place].meter
    made = list(put(bars, place, bar))
    for later in range(place + 1, len(made)):
        if made[later].meter != old or made[later].hits or bar.meter == old:
            break
        made[later] = replace(made[later], meter=bar.meter, length=Fraction(bar.meter.length))
    return tuple(made)
