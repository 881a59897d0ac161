"""What was read in a printed bar, as a person would type it."""

from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

from quicktions import Fraction

from wren_ladder.drumming.chart import (
    Bar,
    ChartError,
    Grace,
    Hit,
    Meter,
    Roll,
    RollKind,
    Touch,
)
from wren_ladder.drumming.chart.bar import PICKUP
from wren_ladder.drumming.notation.counts import write_bar
from wren_ladder.drumming.page_reading.bars.read_bar import ReadBar, Stroke
from wren_ladder.drumming.page_reading.key import drum_of

GRACES = {grace.notes: grace for grace in Grace}
TOUCHES = {"accent": Touch.ACCENT, "strong accent": Touch.STRONG}
ROLLED = "a roll: open strokes, or a buzz?"
SLASH = "slash"  # a head that says when to play and not what
SLASHED = "slashes in a rhythm of their own"
CROSSED = "strokes through a stem: so many strokes, or a roll?"


@dataclass(frozen=True, slots=True)
class Proposal:
    """The lines that were read, ``second`` another reading of them; ``doubts`` say why somebody
    should look twice, none where it is sure; ``meter`` is said in the lines only where it
    changes."""

    text: str
    doubts: tuple[str, ...] = ()
    second: str = ""
    meter: Meter | None = None  # that it is in, where that is known


def meter_of(length: Fraction, in_threes: bool) -> Meter:
    """The metre of bars of so many crotchets."""
    if not in_threes and length.denominator == 1:
        return Meter(int(length), 4)
    eighths = length * 2
    return Meter(int(eighths), 8) if eighths.denominator == 1 else Meter(int(length * 4), 16)


def usual_meter(bars: Iterable[ReadBar]) -> Meter | None:
    """The metre that most bars of a piece have which are sure."""
    counts = Counter(
        (bar.length, bar.in_threes) for bar in bars if bar.strokes and not bar.doubts
    )
    if not counts:
        return None
    length = Counter({one: 0 for one, _ in counts})
    for (one, _), often in counts.items():
        length[one] += often
    usual = length.most_common(1)[0][0]
    return meter_of(usual, counts[usual, True] > counts[usual, False])


def proposal(
    read: ReadBar, key: Mapping[str, str], usual: Meter, before: Meter, is_first: bool
) -> Proposal | None:
    """A bar as typed lines. ``usual`` is the piece's metre, ``before`` the one that holds
    before this bar; None where nothing that was read makes a bar."""
    heads = {one.head for one in read.strokes}
    if heads == {SLASH} and not any(drum_of(one, key) for one in read.strokes):
        return Proposal("slashes", (*read.doubts, SLASHED))
    text = _typed(read, read.strokes, key, usual, before, is_first, RollKind.OPEN)
    if text is None or (read.doubts and not read.strokes):
        return None
    doubts, second = read.doubts, ""
    rolled, crossed = (
        any(one.roll for one in read.strokes),
        any(one.times > 1 for one in read.strokes),
    )
    if rolled or crossed:
        doubts = (*doubts, ROLLED if rolled else CROSSED)
        second = _typed(read, read.strokes, key, usual, before, is_first, RollKind.BUZZ) or ""
    elif read.second:
        second = _typed(read, read.second, key, usual, before, is_first, RollKind.OPEN) or ""
    return Proposal(text, doubts, second if second != text else "")


def _typed(
    read: ReadBar,
    strokes: Iterable[Stroke],
    key: Mapping[str, str],
    usual: Meter,
    before: Meter,
    is_first: bool,
    roll: RollKind,
) -> str | None:
    try:
        meter, number = usual, "1"
        if is_first and read.length < usual.length:
            number = PICKUP
        elif read.length != usual.length and (read.length * 4).denominator == 1:
            meter = meter_of(read.length, read.in_threes)
        hits = hits_of(strokes, key, read.length, roll)
        bar = Bar(number, meter, hits, min(read.length, meter.length))
        return write_bar(bar, before) if hits else f"{_meter_line(meter, before)}rest"
    except ChartError:
        return None


def hits_of(
    strokes: Iterable[Stroke],
    key: Mapping[str, str],
    length: Fraction,
    roll: RollKind = RollKind.OPEN,
) -> tuple[Hit, ...]:
    """The strokes of a bar so long, as the key of the staff has them."""
    hits = [
        hit
        for one in strokes
        for each in _each(one, roll)
        if (hit := _hit(each, key, length, roll))
    ]
    return tuple(sorted(hits, key=lambda hit: hit.at))


def _each(stroke: Stroke, roll: RollKind) -> list[Stroke]:
    """The strokes that a note stands for whose stem is crossed; as a buzz it is one roll."""
    if stroke.times == 1:
        return [stroke]
    if roll is RollKind.BUZZ:
        return [replace(stroke, times=1, roll=True)]
    length = stroke.length / stroke.times
    first = replace(stroke, length=length, times=1)
    plain = replace(first, graces=0, accent="")
    later = [replace(plain, at=stroke.at + n * length) for n in range(1, stroke.times)]
    return [first, *later]


def _meter_line(meter: Meter, before: Meter) -> str:
    return f"meter {meter}\n" if meter != before else ""


def _hit(
    stroke: Stroke, key: Mapping[str, str], length: Fraction, roll: RollKind
) -> Hit | None:
    drum = drum_of(stroke, key)
    if drum is None or stroke.at >= length:
        return None
    touch = Touch.GHOST if stroke.ghost else TOUCHES.get(stroke.accent, Touch.NORMAL)
    if drum.by_foot:
        return Hit(stroke.at, drum, touch)
    if stroke.roll:
        return Hit(
            stroke.at, drum, touch, roll=Roll(roll, min(stroke.length, length - stroke.at))
        )
    return Hit(stroke.at, drum, touch, GRACES[min(stroke.graces, 3)])
