"""Open fills and bars that go on in style: a method, not answers to copy.

For each beat of the space a figure that the student's grade owns is chosen, then its drums;
what is written is checked for its start, its landing, and crowding. Common practice, no
source.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, ChartError, Drum, Hit, MarkKind, Tempo, Touch
from wren_ladder.drumming.chart.drum import SECTION_CRASHES
from wren_ladder.drumming.chart.positions import Positions
from wren_ladder.drumming.description.differences import changes
from wren_ladder.drumming.description.figures import names_for, onsets_of
from wren_ladder.drumming.findings.conflicts import conflicts
from wren_ladder.drumming.findings.playing import QUAVER, quick_kicks
from wren_ladder.drumming.grades import Syllabus
from wren_ladder.drumming.hands import stick_bar
from wren_ladder.drumming.style import HOUSE, Style

FILL_DRUMS = tuple(drum for drum in Drum if drum.row.in_fills)
# Notes a beat from which a fill is crowded, by the last grade it holds for; the house's.
CROWDED = ((2, 3), (4, 4), (8, 6))
SMALL = 2  # changes that a bar in style may be away from the groove


@dataclass(frozen=True, slots=True)
class Space:
    """The open beats of a bar: (start, length) of each, in crotchets from the bar line."""

    beats: tuple[tuple[Fraction, Fraction], ...]

    @property
    def start(self) -> Fraction:
        return self.beats[0][0]


@dataclass(frozen=True, slots=True)
class Choice:
    """What fills one beat: a figure, and a drum for each of its notes."""

    figure: str
    drums: tuple[Drum, ...] = ()


def fill_space(bar: Bar) -> Space | None:
    """Where the page leaves a fill open; None where it does not. A space that begins inside
    a beat has what is left of it as its first beat."""
    mark = next((mark for mark in bar.marks if mark.kind is MarkKind.FILL), None)
    if mark is None:
        return None
    beats = [
        (max(start, mark.at), start + length - max(start, mark.at))
        for start, length in bar.beats
        if start + length > mark.at
    ]
    return Space(tuple(beats))


def figures_owned(length: Fraction, grade: int, syllabus: Syllabus) -> tuple[str, ...]:
    """The figures for a beat of this length that a grade has had, simplest first."""
    names = [name for name in names_for(length) if syllabus.get(name, grade + 1) <= grade]
    return tuple(sorted(names, key=lambda name: syllabus[name]))


def write_fill(bar: Bar, space: Space, choices: Sequence[Choice]) -> Bar:
    """The bar with its space written out; what stood before the space stays.

    ChartError where a figure fits no such beat or lacks a drum.
    """
    hits = [hit for hit in bar.hits if hit.at < space.start]
    for (start, length), choice in zip(space.beats, choices, strict=True):
        try:
            onsets = onsets_of(choice.figure, length)
        except KeyError:
            raise ChartError(
                f"'{choice.figure}' fills no beat of {length} crotchets",
                bar=bar.number,
                beat=bar.beat_of(start),
            ) from None
        if len(choice.drums) < len(onsets):
            raise ChartError(
                f"{choice.figure} has {len(onsets)} notes; choose a drum for each",
                bar=bar.number,
                beat=bar.beat_of(start),
            )
        hits += (Hit(start + at, drum) for at, drum in zip(onsets, choice.drums, strict=False))
    marks = tuple(mark for mark in bar.marks if mark.kind is not MarkKind.FILL)
    return bar.in_notes(hits=tuple(hits), marks=marks)


def check_fill(
    bar: Bar, space: Space, after: Bar | None, tempo: Tempo, grade: int, style: Style = HOUSE
) -> tuple[str, ...]:
    """What a listener would say of a written fill; nothing where it is sound.

    ``after`` is the bar it lands in.
    """
    frame = Positions.of(bar)
    filled = [hit for hit in bar.hits if hit.at >= space.start]
    if not filled:
        return ("silence is a fill too: count it aloud, and come in on time",)
    found = []
    first = filled[0].at
    if first != space.start:
        found.append(
            f"it starts late: the space opens on {frame.say(space.start)}, the first "
            f"note is on {frame.say(first)}"
        )
    found += _landing(bar, filled, after, frame)
    quick = [pair for pair in quick_kicks(bar, tempo, style) if pair[0].at >= space.start]
    found += (
        f"two kicks in a row, {frame.say(before.at)} and {frame.say(after.at)}"
        for before, after in quick
    )
    most = next((most for last, most in CROWDED if grade <= last), CROWDED[-1][1])
    if len(filled) > most * len(space.beats):
        found.append(
            f"crowded: {len(filled)} notes in {len(space.beats)} beats; at grade {grade} "
            f"{most} a beat are plenty"
        )
    found += (str(one) for one in conflicts(stick_bar(bar, style), bar, tempo, style))
    return tuple(found)


def _landing(bar: Bar, filled: Sequence[Hit], after: Bar | None, frame: Positions) -> list[str]:
    if after is None:
        return ["nothing follows it: end on a note that can ring"]
    lands = [hit for hit in after.hits if hit.at == 0]
    if not lands:
        return [f"nothing is played on 1 of bar {after.number} to land on"]
    kicks = [hit.at for hit in filled if hit.drum is Drum.KICK]
    on_kick = any(hit.drum is Drum.KICK for hit in lands)
    if on_kick and kicks and bar.length - kicks[-1] <= QUAVER:
        where = frame.say(kicks[-1])
        return [f"two kicks in a row at the landing: {where}, and 1 of bar {after.number}"]
    crash = filled[-1].drum.surface in SECTION_CRASHES
    if crash and any(hit.drum.surface in SECTION_CRASHES for hit in lands):
        return [f"a crash right before the crash of bar {after.number}: one of them is enough"]
    return []


@dataclass(frozen=True, slots=True)
class Variation:
    """A bar in style: the groove with a kick pattern that the student owns."""

    bar: Bar
    text: str  # "with the kick on 3&"


def variations(groove: Bar, owned: Sequence[Bar]) -> tuple[Variation, ...]:
    """Small changes of a groove for bars that go on in style, smallest first: the hands stay,
    the feet play a pattern from ``owned``."""
    hands = tuple(hit for hit in groove.hits if hit.drum is not Drum.KICK)
    found: dict[tuple[Hit, ...], tuple[int, Variation]] = {}
    for bar in owned:
        if (bar.meter, bar.length) != (groove.meter, groove.length):
            continue
        kicks = tuple(
            replace(hit, touch=Touch.NORMAL) for hit in bar.hits if hit.drum is Drum.KICK
        )
        if not kicks:
            continue
        made = groove.in_notes(hits=(*hands, *kicks), marks=())
        steps = changes(groove, made) or ()
        if not 1 <= len(steps) <= SMALL or made.hits in found:
            continue
        text = ", ".join(step.spoken for step in steps)
        found[made.hits] = (len(steps), Variation(made, text))
    return tuple(one for _, one in sorted(found.values(), key=lambda pair: pair[0]))
