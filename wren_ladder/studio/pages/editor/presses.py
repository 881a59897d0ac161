"""What the editor does with a press of a key: find the hand, change the draft, say so."""

from dataclasses import dataclass, replace

from django.http import QueryDict
from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, ChartError, Drum, Hand
from wren_ladder.drumming.editing import bars as page
from wren_ladder.drumming.editing.grid import GRIDS, grid_for
from wren_ladder.drumming.editing.strokes import STROKES, drop, hit_at
from wren_ladder.drumming.hands import Limb, stick_page
from wren_ladder.drumming.notation.counts import read_bar, write_bar
from wren_ladder.drumming.numbers import read_ratio, read_whole
from wren_ladder.drumming.style import Style
from wren_ladder.drumming.workshop.fills import Fill
from wren_ladder.drumming.workshop.variations import (
    KICKS_BY_CODE,
    VARIATIONS,
    ending_in,
    varied,
)
from wren_ladder.studio.pieces.drafts import name_of

FOOT_DRUMS = {Limb.RIGHT_FOOT: Drum.KICK, Limb.LEFT_FOOT: Drum.HIHAT_FOOT}
HANDS = {Limb.RIGHT_HAND: Hand.RIGHT, Limb.LEFT_HAND: Hand.LEFT}
FIRST_DRUM = Drum.SNARE


@dataclass(frozen=True, slots=True)
class Cursor:
    """Where the teacher's hand is: bars ``first`` to ``last`` are chosen, ``bar`` is
    open, and in it ``at`` on the grid."""

    bar: int
    until: int
    at: Fraction
    drum: Drum
    grid: str
    limb: Limb | None = None

    @property
    def first(self) -> int:
        return min(self.bar, self.until)

    @property
    def last(self) -> int:
        return max(self.bar, self.until)

    def on(self, bar: int) -> "Cursor":
        """The hand on one other bar, at its start."""
        return replace(self, bar=bar, until=bar, at=Fraction(0))

    def within(self, bars: page.Bars) -> "Cursor":
        """The same hand on a page that may have become shorter."""
        most = len(bars) - 1
        bar, until = min(self.bar, most), min(self.until, most)
        at = self.at if self.at < bars[bar].length else Fraction(0)
        return replace(self, bar=bar, until=until, at=at)


def read_cursor(sent: QueryDict, bars: page.Bars) -> Cursor:
    """The hand as the form says; whatever makes no sense is where it is at the start."""
    bar = _place(sent.get("bar"), bars, 0)
    grid = sent.get("grid", "")
    limb = sent.get("limb", "")
    at = read_ratio(sent.get("at")) or Fraction(0)
    drum = sent.get("drum", "")
    return Cursor(
        bar=bar,
        until=_place(sent.get("until"), bars, bar),
        at=at if 0 <= at < bars[bar].length else Fraction(0),
        drum=Drum(drum) if drum in tuple(Drum) else FIRST_DRUM,
        grid=grid if grid in GRIDS else grid_for(bars[bar]),
        limb=Limb(limb) if limb in tuple(Limb) else None,
    )


def _place(text: str | None, bars: page.Bars, otherwise: int) -> int:
    place = read_whole(text, 0, len(bars) - 1)
    return otherwise if place is None else place


@dataclass(frozen=True, slots=True)
class Done:
    """A change: the bars afterwards, where the hand is then, and what to call it."""

    bars: page.Bars
    cursor: Cursor
    label: str


def perform(
    op: str, bars: page.Bars, cursor: Cursor, copied: tuple[Bar, ...], style: Style
) -> Done:
    """One press; ChartError says why it can't be done."""
    if op in STROKES:
        return _stroke(op, bars, cursor, style)
    first, last = cursor.first, cursor.last
    named = _named(bars, first, last)
    match op:
        case "insert":
            return Done(page.insert(bars, last + 1), cursor.on(last + 1), "a new bar")
        case "insert-before":
            return Done(page.insert(bars, first), cursor.on(first), "a new bar")
        case "pickup":
            return Done(page.put_pickup(bars), cursor.on(0), "a pick-up")
        case "delete":
            left = page.delete(bars, first, last)
            return Done(left, cursor.on(min(first, len(left) - 1)), f"{named} taken out")
        case "move-back" | "move-on":
            by = 1 if op == "move-on" else -1
            moved = page.move(bars, first, last, by)
            shift = by if moved != bars else 0
            there = replace(cursor, bar=cursor.bar + shift, until=cursor.until + shift)
            return Done(moved, there.within(moved), f"{named} moved")
        case "paste":
            if not copied:
                raise ChartError("nothing has been copied yet; copy a bar first")
            after = page.paste(bars, first, copied)
            last = first + len(copied) - 1
            return Done(after, replace(cursor.on(first), until=last), "bars pasted")
        case "fill":
            after = page.fill_down(bars, first, last)
            goal = max(last, first + 1)
            label = f"{_named(bars, first, first)} filled down"
            return Done(after, cursor.on(goal), label)
        case "repeat" | "repeat-2":
            again = 2 if op == "repeat-2" else 1
            label = f"repeat sign at {named}"
            return Done(page.repeat_signs(bars, first, last, again), cursor, label)
        case "clear":
            return Done(page.clear(bars, first, last), cursor, f"{named} cleared")
    raise ChartError("that is nothing the editor can do")


def vary(code: str, fill: Fill | None, bars: page.Bars, cursor: Cursor) -> Done:
    """The chosen bars with one variation of the workshop; a fill goes into the last of them."""
    first, last = cursor.first, cursor.last
    if fill is not None:
        after = page.put(bars, last, ending_in(bars[last], fill))
        return Done(after, cursor, f"a fill in {name_of(bars[last])}")
    after = bars
    for place in range(first, last + 1):
        after = page.put(after, place, varied(bars[place], code))
    said = VARIATIONS[code][0] if code in VARIATIONS else f"kick {KICKS_BY_CODE[code].name}"
    return Done(after, cursor, f"{said} in {_named(bars, first, last)}")


def _named(bars: page.Bars, first: int, last: int) -> str:
    if first == last:
        return name_of(bars[first])
    return f"bars {bars[first].number} to {bars[last].number}"


def _stroke(op: str, bars: page.Bars, cursor: Cursor, style: Style) -> Done:
    bar, drum = bars[cursor.bar], cursor.drum
    if op == "drop" and cursor.limb in FOOT_DRUMS:
        drum = FOOT_DRUMS[cursor.limb]
    elif op == "drop" and cursor.limb and drum.by_foot:
        drum = FIRST_DRUM
    changed = STROKES[op](bar, cursor.at, drum)
    if op == "drop" and cursor.limb in HANDS:
        dropped = (cursor.at, drum, HANDS[cursor.limb])
        changed = _by_hand(bars, cursor.bar, changed, *dropped, style)
    label = f"a stroke in {name_of(bar)}"
    return Done(page.put(bars, cursor.bar, changed), replace(cursor, drum=drum), label)


def _by_hand(
    bars: page.Bars, place: int, bar: Bar, at: Fraction, drum: Drum, hand: Hand, style: Style
) -> Bar:
    """A stroke dropped in a hand's lane is that hand's, written where it would not be."""
    before = bars[place]
    there = hit_at(bar, at, drum.surface)
    if there is None or hit_at(before, at, drum.surface):
        return bar
    sticks = stick_page([*bars[:place], bar], style)[-1]
    worked_out = next(stick.hand for stick in sticks if stick.hit == there)
    return bar if worked_out is hand else drop(before, at, drum, hand)


def lines_of(bars: page.Bars, place: int) -> str:
    """A bar's typed lines, as the editor shows them."""
    return write_bar(bars[place], bars[place - 1].meter if place else None)


def read_lines(bars: page.Bars, place: int, text: str) -> page.Bars:
    """The page with one bar typed anew; ChartError points at the wrong word."""
    bar = bars[place]
    meter = bars[place - 1].meter if place else bar.meter
    typed = read_bar(text, bar.number, meter)
    if typed.again:
        source = bars[place - typed.again] if place >= typed.again else typed
        typed = replace(typed, meter=source.meter, length=source.length)
    return page.set_meter(bars, place, typed)
