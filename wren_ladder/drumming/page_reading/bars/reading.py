"""Printed bars read: their ink in, strokes out."""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from quicktions import Fraction

from wren_ladder.drumming.chart import Meter
from wren_ladder.drumming.page_reading.bar_ink import BarInk
from wren_ladder.drumming.page_reading.bars.heads import y_of
from wren_ladder.drumming.page_reading.bars.level import level
from wren_ladder.drumming.page_reading.bars.notes import Note, find_notes
from wren_ladder.drumming.page_reading.bars.read_bar import ReadBar, Stroke
from wren_ladder.drumming.page_reading.bars.rolls import find_roll_strokes
from wren_ladder.drumming.page_reading.bars.shapes import Sign
from wren_ladder.drumming.page_reading.bars.signs import (
    LEFT_OVER,
    Found,
    Signs,
    find_rests,
    find_signs,
)
from wren_ladder.drumming.page_reading.bars.stems import find_stems
from wren_ladder.drumming.page_reading.bars.voices import (
    Event,
    Timed,
    Tuplet,
    in_threes,
    spoken,
    timed,
)
from wren_ladder.drumming.page_reading.found import SPACE

RESTS = {
    Sign.REST_1: Fraction(4), Sign.REST_2: Fraction(2), Sign.REST_4: Fraction(1),
    Sign.REST_8: Fraction(1, 2), Sign.REST_16: Fraction(1, 4),
}  # fmt: skip
LEAST_SURE = 0.6  # likeness of a head
MIDDLE = 4  # the middle line, as a row
OVER = 0.9 * SPACE  # aside of its note, of an accent or a circle
FILLED = (Sign.BLACK, Sign.DIAMOND)
CHANGED = 0.25  # of the bars, at least, are in another metre if any is
LEAST_CHANGED = 3  # and so many
LEAN = 0.05  # of a row's diamonds, on the mean: small and faint ovals lean a little as well
ROLLED = 3  # beams and strokes through a stem together, at least


@dataclass(frozen=True, slots=True)
class Marks:
    """All that was found in a bar, ``wide`` pixels of it, before anything is said of time."""

    notes: tuple[Note, ...]
    signs: Signs
    wide: int
    lost: int  # heads and stems of no note


def read_bars(
    inks: Sequence[BarInk], meters: Sequence[Meter | None] | None = None
) -> list[ReadBar]:
    """The bars of one piece, in their order. Each is as long as its metre; where no time
    signature was read, as most are that fill themselves. One that is not so long is doubtful, a
    short first one apart."""
    marks = [find_marks(ink) for ink in inks]
    alone = [timed_marks(one, None) for one in marks]
    lengths = Counter(one.length for one in alone if one.strokes and not one.doubts)
    usual = lengths.most_common(1)[0][0] if lengths else None
    meters = _borne_out(meters or [None] * len(inks), alone)
    found = []
    for place, (one, first, meter) in enumerate(zip(marks, alone, meters, strict=True)):
        doubts = _of_ink(one)
        if meter:
            best = _in_meter(one, first, meter, place == 0)
            found.append(replace(best, doubts=(*best.doubts, *doubts)))
            continue
        again = first if usual in (None, first.length) else timed_marks(one, usual)
        if usual is None or not again.doubts or first.doubts or first.length > usual:
            best = again
        elif place == 0 and first.length.denominator == 1:
            best = first  # a pick-up
        elif lengths[first.length] >= max(LEAST_CHANGED, CHANGED * lengths.total()):
            best = first
        else:
            said = f"it lasts {spoken(first.length)}, most bars {spoken(usual)}"
            best = replace(first, doubts=(said,))
        found.append(replace(best, doubts=(*best.doubts, *doubts)))
    return agreed(found)


def _borne_out(meters: Sequence[Meter | None], alone: Sequence[ReadBar]) -> list[Meter | None]:
    """The metres that were read, those apart that most of their bars speak against: a figure
    may have been misread."""
    for_it: Counter[Meter] = Counter()
    for meter, bar in zip(meters, alone, strict=True):
        if meter and bar.strokes and not bar.doubts:
            for_it[meter] += 1 if bar.length == meter.length else -1
    return [meter if meter and for_it[meter] >= 0 else None for meter in meters]


def _in_meter(marks: Marks, alone: ReadBar, meter: Meter, is_first: bool) -> ReadBar:
    """A bar in the metre that is printed before it, or before one before it."""
    threes = meter.unit >= 8
    in_counts = (alone.length * meter.unit / 4).denominator == 1
    is_short = alone.length < meter.length and in_counts
    if is_first and not alone.doubts and alone.strokes and is_short:
        return replace(alone, in_threes=threes)  # a pick-up
    return replace(timed_marks(marks, meter.length), in_threes=threes)


def find_marks(ink: BarInk) -> Marks:
    lined, bare = level(ink.lined, ink.bare)
    rests, alone = find_rests(bare)
    strokes, alone = find_roll_strokes(alone)
    found = find_notes(lined & ~(bare & ~alone), alone, find_stems(alone), strokes)
    signs = find_signs(alone, [*found.notes, *found.small], rests)
    return Marks(found.notes, signs, lined.shape[1], found.lost)


def timed_marks(marks: Marks, expected: Fraction | None) -> ReadBar:
    """A bar that is ``expected`` crotchets long, or as long as its longest voice; in doubt
    where its voices do not fill it."""
    notes, signs = marks.notes, marks.signs
    events = _events(notes, signs.rests)
    if not events:
        return ReadBar((), expected or Fraction(0), ("nothing in it could be read",))
    tuplets = [_tuplet(one) for one in signs.figures]
    ways = timed(events, tuplets, expected, marks.wide)
    best = ways[0]
    strokes = _strokes(notes, signs, best)
    second = _strokes(notes, signs, ways[1]) if len(ways) > 1 else ()
    threes = not tuplets and in_threes(events)
    second = second if second != strokes else ()
    return ReadBar(strokes, best.length, best.doubts, second, threes)


def _events(notes: Sequence[Note], rests: Sequence[Found]) -> list[Event]:
    found = []
    for key, note in enumerate(notes):
        found.append(Event(note.x, _length(note), note.up, True, note.beamed_right, False, key))
    for rest in rests:
        row = (y_of(0) - rest.y) * 2 / SPACE
        up = True if row > MIDDLE + 1.6 else False if row < MIDDLE - 1.6 else None
        whole = rest.kind is Sign.REST_1
        found.append(Event(rest.x, RESTS[Sign(rest.kind)], up, False, False, whole))
    return sorted(found, key=lambda event: event.x)


def _length(note: Note) -> Fraction:
    if note.stem is None:
        length = Fraction(4)
    elif note.hollow and not note.bars:
        length = Fraction(2)
    else:
        length = Fraction(1, 2**note.bars)
    return length * (2 - Fraction(1, 2**note.dots))


def _tuplet(figure: Found) -> Tuplet:
    above = figure.y < y_of(MIDDLE)
    bracket = figure.right - figure.left > 2 * SPACE
    return Tuplet(str(figure.kind), figure.x, figure.left, figure.right, above, bracket)


def _of_ink(marks: Marks) -> list[str]:
    """What is doubtful of what was seen."""
    doubts = []
    if marks.lost:
        doubts.append("a head or a stem that belongs to no note")
    if marks.signs.unread > LEFT_OVER:
        doubts.append("something in it could not be read")
    if any(head.like < LEAST_SURE for note in marks.notes for head in note.heads):
        doubts.append("a head is not clear")
    return doubts


def _strokes(notes: Sequence[Note], signs: Signs, timed: Timed) -> tuple[Stroke, ...]:
    accents = {_nearest(one, notes): str(one.kind) for one in signs.accents}
    marks = {_nearest(one, notes): str(one.kind) for one in signs.marks}
    found = []
    for key, at in timed.times.items():
        note = notes[key]
        accented = _accented(note)
        crossed = note.bars + note.strokes if note.strokes else 0
        for n, head in enumerate(note.heads):
            found.append(
                Stroke(
                    at, head.row, _plain(head.sign), timed.lengths[key], round(head.x, 1),
                    note.ghosts[n],
                    accents.get(key, "") if n == accented else "",
                    marks.get(key, "") if n == len(note.heads) - 1 else "",
                    note.graces if n == _graced(note) else 0,
                    crossed >= ROLLED and n == accented,
                    note.up,
                    head.lean,
                    _times(timed.lengths[key], crossed) if n == accented else 1,
                )
            )  # fmt: skip
    return tuple(sorted(found, key=lambda one: (one.at, -one.row)))


def _times(length: Fraction, crossed: int) -> int:
    """How many strokes a note stands for whose stem is crossed: its beams and the strokes
    through its stem say how long each is."""
    many = length * 2**crossed
    return int(many) if 0 < crossed < ROLLED and many.denominator == 1 else 1


def _plain(sign: Sign) -> str:
    """Of a head, what it is struck on: how long it lasts is said by its note."""
    if sign in (Sign.HALF, Sign.WHOLE):
        return Sign.BLACK.value
    return Sign.DIAMOND.value if sign is Sign.OPEN_DIAMOND else sign.value


def _accented(note: Note) -> int:
    """Which head of several an accent is for: a drum's before a cymbal's."""
    ovals = [n for n, head in enumerate(note.heads) if _plain(head.sign) == Sign.BLACK]
    return ovals[-1] if ovals else len(note.heads) - 1


def _graced(note: Note) -> int:
    """Which head small notes lead to: the one on their row, else a drum's."""
    same = [n for n, head in enumerate(note.heads) if head.row == note.grace_row]
    return same[0] if same else _accented(note)


def _nearest(sign: Found, notes: Sequence[Note]) -> int | None:
    """The note that a sign stands over or under, None where there is none."""
    over = sign.y < y_of(MIDDLE)
    near = [
        (abs(note.x - sign.x), note.up != over, key)
        for key, note in enumerate(notes)
        if abs(note.x - sign.x) < OVER
    ]
    near.sort(key=lambda one: (one[1], one[0]))
    return near[0][2] if near else None


def agreed(bars: Sequence[ReadBar]) -> list[ReadBar]:
    """Bars of one piece: on one row a filled head is an oval everywhere, or a diamond, or a
    triangle, which a print of few pixels makes of some of its triangles and not of all."""
    leans: dict[int, list[float]] = {}
    heads: dict[int, Counter[str]] = {}
    for stroke in (stroke for bar in bars for stroke in bar.strokes):
        heads.setdefault(stroke.row, Counter())[stroke.head] += 1
        if stroke.head in FILLED:
            leans.setdefault(stroke.row, []).append(stroke.lean)
    shapes = {
        row: Sign.DIAMOND if sum(found) / len(found) > LEAN else Sign.BLACK
        for row, found in leans.items()
    }
    shapes |= {
        row: Sign.TRIANGLE
        for row, counts in heads.items()
        if counts[Sign.TRIANGLE] > 0.5 * counts[Sign.DIAMOND]
        and counts[Sign.BLACK] < counts[Sign.TRIANGLE]
    }
    return [
        replace(
            bar,
            strokes=_with_accents([_agreed(one, shapes) for one in bar.strokes]),
            second=_with_accents([_agreed(one, shapes) for one in bar.second]),
        )
        for bar in bars
    ]


def _with_accents(strokes: Sequence[Stroke]) -> tuple[Stroke, ...]:
    """An accent on a cymbal that is struck with a drum is the drum's."""
    found = list(strokes)
    for n, stroke in enumerate(found):
        together = [
            m
            for m, other in enumerate(found)
            if other.at == stroke.at and other.up == stroke.up and other.head == Sign.BLACK
        ]
        if stroke.accent and stroke.head != Sign.BLACK and together:
            found[together[0]] = replace(found[together[0]], accent=stroke.accent)
            found[n] = replace(stroke, accent="")
    return tuple(found)


def _agreed(stroke: Stroke, shapes: Mapping[int, Sign]) -> Stroke:
    """As the row's filled heads are; those that are none stay."""
    if stroke.head in FILLED and stroke.row in shapes:
        return replace(stroke, head=shapes[stroke.row].value)
    return stroke
