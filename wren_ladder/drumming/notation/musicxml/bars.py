"""From measures to bars: parts put together, the pick-up found, odd lengths told."""

from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass, replace

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, ChartError, Hit, Meter
from wren_ladder.drumming.chart.bar import PICKUP
from wren_ladder.drumming.chart.swing import STRAIGHT
from wren_ladder.drumming.notation.lengths import keep_lengths
from wren_ladder.drumming.notation.musicxml.marks import finish_marks
from wren_ladder.drumming.notation.reading import Choice, Offer, ReadingNotes, Way

PLAIN_FEEL = "feel straight"
# Marks that stand where a bar begins, and those that have a place in it.
OPENING = {"segno", "segno_2", "coda", "coda_2", "repeat_start", "section", "tempo", "swing"}
PLACED = {"marks", "wedges", "dashes", "graduals"}


@dataclass
class Measure:
    """One measure as read, before it becomes a Bar."""

    number: str
    meter: Meter
    hits: tuple[Hit, ...]
    content: Fraction  # how far its notes and rests reach, in crotchets
    implicit: bool
    numbered: bool  # says that it has its number although it is not full
    marks: dict

    def pickup(self, index: int) -> bool:
        """Is the first measure, not being full, the pick-up? Only where the file says so."""
        said = self.implicit or self.number == PICKUP
        return index == 0 and self.short and said and not self.numbered

    @property
    def short(self) -> bool:
        return 0 < self.content < self.meter.length


def cut_at_repeats(
    measure: Measure, numbers: set[str], reading_notes: ReadingNotes
) -> list[Measure]:
    """A measure with repeats inside it as the bars that they part, the later ones lettered."""
    cuts: dict[Fraction, tuple[bool, int]] = {}
    for at, (starts, passes) in measure.marks.pop("cuts", []):
        begins, ends = cuts.get(at, (False, 0))
        cuts[at] = begins or starts, ends or passes
    if not cuts:
        return [measure]
    text = "a repeat inside the bar: read as bars of their own, cut there"
    reading_notes.guess(text, measure.number)
    found: list[Measure] = []
    rest, start = measure, Fraction(0)
    for at, (starts, passes) in sorted(cuts.items()):
        before, rest = _parted(rest, at - start, unused(measure.number, numbers))
        if starts:
            rest.marks["repeat_start"] = True
        if passes:
            before.marks["repeat_passes"] = passes
        found.append(before)
        start = at
    return [*found, rest]


def unused(number: str, numbers: set[str]) -> str:
    """The number of a measure, lettered where another one has it; kept among ``numbers``."""
    while number in numbers:
        number += "b"
    numbers.add(number)
    return number


def _parted(measure: Measure, at: Fraction, number: str) -> tuple[Measure, Measure]:
    first = {k: v for k, v in measure.marks.items() if k in OPENING | PLACED | {"endings"}}
    second = {k: v for k, v in measure.marks.items() if k not in OPENING | PLACED}
    marks = first.pop("marks", {})
    first["marks"] = {key: mark for key, mark in marks.items() if mark.at < at}
    second["marks"] = {
        (mark.at - at, mark.kind): replace(mark, at=mark.at - at)
        for mark in marks.values()
        if mark.at >= at
    }
    hits = tuple(hit for hit in measure.hits if hit.at < at)
    later = tuple(replace(hit, at=hit.at - at) for hit in measure.hits if hit.at >= at)
    return (
        replace(measure, hits=hits, content=at, implicit=True, marks=first),
        replace(
            measure,
            number=number,
            hits=later,
            content=measure.content - at,
            implicit=True,
            marks=second,
        ),
    )


def merge(rows: Iterable[Measure], reading_notes: ReadingNotes) -> Measure:
    """The same measure of several parts as one; a surface is struck once at a time."""
    first, *others = rows = list(rows)
    if len({row.marks.get("again", 0) for row in rows}) > 1:
        for row in rows:  # not every part repeats here, so what they play is written out
            row.marks.pop("again", None)
    if not others:
        return first
    hits = {(hit.at, hit.drum.surface): hit for hit in first.hits}
    marks = dict(first.marks)
    content = first.content
    for other in others:
        content = max(content, other.content)
        for name, value in other.marks.items():
            marks.setdefault(name, value)
        for hit in other.hits:
            if (hit.at, hit.drum.surface) in hits:
                reading_notes.leave(
                    "two parts strike the same drum at once; kept once", first.number
                )
            hits.setdefault((hit.at, hit.drum.surface), hit)
    return replace(first, hits=tuple(hits.values()), content=content, marks=marks)


def make_bars(measures: list[Measure], reading_notes: ReadingNotes) -> list[Bar]:
    """Bars from measures; a first one that is not full is the pick-up."""
    shapes = [_shape(measures, index, reading_notes) for index in range(len(measures))]
    numbers = [number for number, _, _ in shapes]
    marks = [measure.marks for measure in measures]
    finish_marks(
        marks, numbers, [(meter, length) for _, meter, length in shapes], reading_notes
    )
    following = [*measures[1:], None]
    bars = []
    for measure, after, (number, meter, length) in zip(
        measures, following, shapes, strict=True
    ):
        bar = Bar(number, meter, (), length, **measure.marks)
        hits = _untied(measure.hits, length, after)
        bars.append(replace(bar, hits=keep_lengths(hits, bar)))
    return bars


def offer_full_pickup(
    bars: Sequence[Bar], first: Measure, taken: Collection[str]
) -> tuple[tuple[Bar, ...], tuple[Offer, ...]]:
    """A first measure that is not full, and does not say why, lacks its last rests or is a
    pick-up: asked, never assumed. The others keep their printed numbers."""
    opening = bars[0]
    if len(bars) < 2 or not first.short or opening.length != opening.meter.length:
        return tuple(bars), ()
    said = f"bar {first.number} holds {first.content} of its {first.meter.length} crotchets: "
    offer = Offer(PICKUP, said + "read it as a pick-up", PICKUP in taken)
    if not offer.taken:
        return tuple(bars), (offer,)
    return (replace(opening, number=PICKUP, length=first.content), *bars[1:]), (offer,)


def take_feel(
    bars: Sequence[Bar], taken: Collection[str]
) -> tuple[tuple[Bar, ...], tuple[Choice, ...]]:
    """How the page says that it swings, unless a person takes it straight."""
    said = list(dict.fromkeys(str(bar.swing) for bar in bars if bar.swing))
    if not said or said == [str(STRAIGHT)]:
        return tuple(bars), ()
    ways = (
        Way("feel page", f"as the page says: {', '.join(said)}"),
        Way(PLAIN_FEEL, "straight"),
    )
    choice = Choice.of("feel", ways, "feel page", taken)
    if choice.chosen == PLAIN_FEEL:
        bars = [replace(bar, swing=None) for bar in bars]
    return tuple(bars), (choice,)


def _untied(hits: tuple[Hit, ...], length: Fraction, after: Measure | None) -> tuple[Hit, ...]:
    """A tie that does not lead over the bar line, or leads to the stroke on which the roll
    ends there, says nothing more."""
    ends = {hit.drum for hit in after.hits if not (hit.at or hit.roll)} if after else set()
    return tuple(
        replace(hit, roll=replace(hit.roll, tied=False))
        if hit.roll and hit.roll.tied and (hit.end != length or hit.drum in ends)
        else hit
        for hit in hits
    )


def _shape(
    measures: list[Measure], index: int, reading_notes: ReadingNotes
) -> tuple[str, Meter, Fraction]:
    """The number, metre and length of the bar that a measure becomes."""
    measure = measures[index]
    full = measure.meter.length
    number, meter, length = measure.number, measure.meter, full
    if measure.pickup(index) and len(measures) > 1:
        number, length = PICKUP, measure.content
    elif measure.short and (measure.implicit or _completes_pickup(measures, index)):
        length = measure.content
    elif measure.content > full:
        meter, length = _longer(measure, reading_notes)
    if index and number == PICKUP:
        number = f"X{index}"
    return number, meter, length


def _completes_pickup(measures: list[Measure], index: int) -> bool:
    """A section's last bar may lack what its pick-up has: together they are a whole bar."""
    measure, first = measures[index], measures[0]
    closes = index == len(measures) - 1 or bool(measure.marks.get("repeat_passes"))
    whole = measure.content + first.content == measure.meter.length
    return bool(index) and closes and whole and first.pickup(0)


def _longer(measure: Measure, reading_notes: ReadingNotes) -> tuple[Meter, Fraction]:
    """A measure holding more than its metre: the metre grows, and the teacher is told."""
    units = (unit for unit in (4, 8, 16) if (measure.content * unit / 4).denominator == 1)
    unit = next(units, None)
    if unit is None:
        raise ChartError(
            f"the bar holds {measure.content} crotchets, but {measure.meter} "
            f"holds {measure.meter.length}"
        ).in_bar(measure.number)
    grown = Meter(int(measure.content * unit / 4), unit)
    reading_notes.guess(f"holds more than {measure.meter}; read as {grown}", measure.number)
    return grown, grown.length
