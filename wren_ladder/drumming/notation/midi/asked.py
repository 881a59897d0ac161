"""What a MIDI file leaves open of its time: tempo, metre, first beat, feel.

A file says its tempo and metre, but a take may be played beside its click, begin anywhere, or
lie in a file whose maker has left all at what the program begins with. Each can be taken in
another way by a person; what the strokes show against the file is taken so, and told.
"""

from bisect import bisect_left
from collections.abc import Collection, Sequence
from dataclasses import replace
from typing import NamedTuple

from quicktions import Fraction

from wren_ladder.drumming.chart import Bar, Drum, Family, Meter, Surface
from wren_ladder.drumming.chart.bar import PICKUP
from wren_ladder.drumming.chart.swing import QUAVER, SEMIQUAVER, STRAIGHT, Swing
from wren_ladder.drumming.notation.midi.file import MidiFile
from wren_ladder.drumming.notation.midi.graces import Stroke
from wren_ladder.drumming.notation.midi.pace import Line, against_click, played_lines
from wren_ladder.drumming.notation.midi.swung import (
    STRAIGHT_GRIDS,
    TRIPLET_GRIDS,
    grids_by,
)
from wren_ladder.drumming.notation.midi.timing import NEAR, Clock, clock_of, meters_of
from wren_ladder.drumming.notation.reading import Choice, Offer, ReadingNotes, Way, ways_of
from wren_ladder.drumming.notation.said_feel import said_swing
from wren_ladder.drumming.wording import Coded

SURFACES = tuple(Surface)
METERS = ("4/4", "3/4", "2/4", "5/4", "6/8", "12/8", "9/8", "7/8")
NEAR_THE_LINE = 12.0  # ms; so little beside the click is left where it is
MOST_LATER = 7  # beats that the first one may be later
MOST_ALIKE, ALIKE_BY = 24, 0.2  # bars looked at; how much more alike bars of three have to be


class Pace(Coded):
    CLICK = "tempo click", "as the file says"
    PLAYED = "tempo played", "as it is played"
    SECOND = "tempo played 2", "as it is played, counted otherwise"
    THIRD = "tempo played 3", "as it is played, counted otherwise again"
    HALF = "tempo half", "half as fast, in shorter notes"
    DOUBLE = "tempo double", "twice as fast, in longer notes"


class Feel(Coded):
    FOUND = "feel found", "as it is played, beat by beat"
    STRAIGHT = "feel straight", "straight"
    SWUNG = "feel swung", "swung quavers"
    SWUNG_16THS = "feel swung 16ths", "swung semiquavers"
    TRIPLETS = "feel triplets", "triplets"


PLAYED = (Pace.PLAYED, Pace.SECOND, Pace.THIRD)
# What is clicked before the music, and how evenly.
COUNTED_IN = (
    Drum.STICK_CLICK, Drum.WOODBLOCK, Drum.CROSS_STICK, Drum.COWBELL, Drum.HIHAT,
    Drum.HIHAT_FOOT,
)  # fmt: skip
CLICKS, EVEN = 4, 0.15
COUNT_IN = "count-in"
SWUNG = {Feel.SWUNG: Swing(QUAVER), Feel.SWUNG_16THS: Swing(SEMIQUAVER)}
# What a surface is worth on each beat of a bar, common practice, no source.
WEIGHTS = {
    Surface.KICK: (1, 0, 1, 0), Surface.SNARE: (0, 1, 0, 1), Surface.CRASH: (2, 0, 0, 0),
}  # fmt: skip
ENOUGH, CLEARLY, ON_A_BEAT, EXACT, A_FEW_BARS = 24, 1.5, 0.1, 0.01, 4
FROM_FILE, FROM_STROKE = "first file", "first stroke"


class Taken(NamedTuple):
    """A file's strokes on the line taken, its metres and tempos moved along; ``feel`` of all of
    it, ``swings`` (crotchets from which on, how) where the file says so itself."""

    file: MidiFile
    strokes: list[Stroke]
    clock: Clock
    feel: Feel
    swings: tuple[tuple[float, Swing], ...]
    choices: tuple[Choice, ...]

    def swing_at(self, crotchets: float) -> Swing:
        before = [swing for at, swing in self.swings if at <= crotchets + NEAR]
        return before[-1] if before else STRAIGHT

    def grids_at(self, crotchets: float) -> frozenset[int] | None:
        """What a beat there may be divided by; None for everything."""
        if self.feel is Feel.STRAIGHT:
            return STRAIGHT_GRIDS
        if self.feel is Feel.TRIPLETS:
            return TRIPLET_GRIDS
        return grids_by(self.swing_at(crotchets))


def offer_count_in(
    strokes: Sequence[Stroke], taken: Collection[str]
) -> tuple[list[Stroke], tuple[Offer, ...]]:
    """Four even clicks before everything else may be a count-in: asked, never assumed."""
    first, others = list(strokes[:CLICKS]), list(strokes[CLICKS:])
    drum = strokes[0].drum
    alone = drum in COUNTED_IN and all(one.drum is drum for one in first)
    if not alone or len(first) < CLICKS or not others:
        return [*first, *others], ()
    beat = (others[0].ms - first[0].ms) / CLICKS
    even = all(
        abs(one.ms - first[0].ms - n * beat) < EVEN * beat for n, one in enumerate(first)
    )
    begins = {one.drum for one in others if one.ms - others[0].ms < EVEN * beat}
    if not even or not begins - {drum}:
        return [*first, *others], ()
    said = f"it begins with {CLICKS} clicks ({drum.spoken}): a count-in, to be left out"
    offer = Offer(COUNT_IN, said, COUNT_IN in taken)
    return others if offer.taken else [*first, *others], (offer,)


def take_time(
    file: MidiFile,
    strokes: Sequence[Stroke],
    taken: Collection[str],
    reading_notes: ReadingNotes,
) -> Taken:
    """``strokes`` in order, on the file's own line."""
    file, moved, tempo = _take_tempo(file, strokes, taken, reading_notes)
    file, metre = _take_metre(file, moved, taken, reading_notes)
    drums = [one.drum for one in strokes]
    file, moved, first = _take_first_beat(file, moved, drums, taken, reading_notes)
    feel, swings = _take_feel(file, taken)
    at = [one._replace(at=place) for one, place in zip(strokes, moved, strict=True)]
    choices = (tempo, metre, first, feel)
    return Taken(file, at, clock_of(file), Feel(feel.chosen), swings, choices)


def _take_tempo(
    file: MidiFile,
    strokes: Sequence[Stroke],
    taken: Collection[str],
    reading_notes: ReadingNotes,
) -> tuple[MidiFile, list[float], Choice]:
    places = [one.at for one in strokes]
    ms = [one.ms for one in strokes]
    struck = [SURFACES.index(one.drum.surface) for one in strokes]
    strong = {
        SURFACES.index(one.drum.surface)
        for one in strokes
        if one.drum.by_foot or one.drum.row.family is Family.DRUM
    }
    said = f"{Pace.CLICK.label}: {_said(file)}"
    if not file.tempos:
        said = f"{_said(file)}; the file says none"
    click = against_click(places, ms, [one in strong for one in struck])
    lines: list[Line] = []
    if not click.is_followed or any(one in taken for one in PLAYED):
        lines = played_lines(ms, struck, strong)
    ways = [Way(Pace.CLICK, said)]
    ways += [
        Way(one, f"{one.label}: about {line.bpm:.0f}")
        for one, line in zip(PLAYED, lines, strict=False)
    ] or [Way(Pace.PLAYED, Pace.PLAYED.label)]
    ways += ways_of((Pace.HALF, Pace.DOUBLE))
    mapped = len(file.tempos) > 1 or len(file.meters) > 1  # somebody has laid out its time
    usual = Pace.CLICK if click.is_followed or mapped or not lines else Pace.PLAYED
    choice = Choice.of("tempo", ways, usual, taken)
    chosen = Pace(choice.chosen)
    share = {Pace.HALF: 0.5, Pace.DOUBLE: 2.0}.get(chosen, 1.0)
    of_line = usual if share != 1 else chosen
    line = dict(zip(PLAYED, lines, strict=False)).get(of_line)
    if line is not None:
        file = _on_the_line(file, line, click.is_followed, reading_notes)
        return _scaled(file, share), [at * share for at in line.beats], choice
    if not click.is_followed and not lines:
        text = f"the strokes follow no click of {_said(file)}, and no other even pace is found"
        reading_notes.guess(text, "")
    elif chosen in PLAYED:
        text = "no even pace of their own is found in the strokes; the file's tempo is kept"
        reading_notes.guess(text, "")
    late = click.late if abs(click.late * 60_000 / _bpm(file)) > NEAR_THE_LINE else 0.0
    if late:
        side = "behind" if late > 0 else "before"
        far = abs(late) * 60_000 / _bpm(file)
        reading_notes.guess(f"the strokes lie {far:.0f} ms {side} the click; put on it", "")
    return _scaled(file, share), [(at - late) * share for at in places], choice


def _on_the_line(
    file: MidiFile, line: Line, followed: bool, reading_notes: ReadingNotes
) -> MidiFile:
    far = f"between {line.slowest:.0f} and {line.fastest:.0f}"
    if not followed:
        text = f"the strokes follow no click of {_said(file)}: read as they are played, "
        reading_notes.guess(f"{text}at about {line.bpm:.0f}, {far}", "")
    if len(file.meters) > 1:
        reading_notes.leave("metres after the first, which stand at the file's own beats", "")
    return replace(file, tempos=((0, line.bpm),), meters=file.meters[:1])


def _scaled(file: MidiFile, share: float) -> MidiFile:
    """So many times as fast, in notes as many times as long."""
    if share == 1:
        return file
    tempos = tuple((round(tick * share), bpm * share) for tick, bpm in file.tempos)
    meters = tuple((round(tick * share), beats, unit) for tick, beats, unit in file.meters)
    return replace(file, tempos=tempos or ((0, _bpm(file) * share),), meters=meters)


def _bpm(file: MidiFile) -> float:
    return clock_of(file).bpm(0.0)


def _said(file: MidiFile) -> str:
    said = f"{_bpm(file):.0f}"
    changes = len({round(bpm) for _, bpm in file.tempos}) > 1
    return f"{said} at first" if changes else said


def _take_metre(
    file: MidiFile,
    places: Sequence[float],
    taken: Collection[str],
    reading_notes: ReadingNotes,
) -> tuple[MidiFile, Choice]:
    own = list(dict.fromkeys(f"{beats}/{unit}" for _, beats, unit in file.meters))
    said = f"as the file says: {', '.join(own[:4])}" if own else "4/4; the file says none"
    ways = [Way("metre file", said)]
    ways += [Way(f"metre {one}", one) for one in METERS if own != [one]]
    choice = Choice.of("metre", ways, "metre file", taken)
    if choice.chosen == "metre file":
        if not own and _in_threes(places):
            text = "the file says no metre: read in 4/4, but every three beats are alike"
            reading_notes.guess(f"{text}; it may be in 3/4", "")
        return file, choice
    beats, unit = map(int, choice.chosen.removeprefix("metre ").split("/"))
    return replace(file, meters=((0, beats, unit),)), choice


def _in_threes(places: Sequence[float]) -> bool:
    """Do strokes come again after three beats clearly more than after four?"""
    there = {round(at * 4) for at in places if at < 4 * MOST_ALIKE}
    last = max(there, default=0)

    def again(beats: int) -> float:
        asked = {at + 4 * beats for at in there if at + 4 * beats <= last}
        silent = {at for at in range(last - 4 * beats) if at not in there}
        both = len(asked & there) + sum(at + 4 * beats not in there for at in silent)
        return both / max(1, len(asked) + len(silent))

    return again(3) > again(4) + ALIKE_BY


def _take_first_beat(
    file: MidiFile,
    places: list[float],
    drums: Sequence[Drum],
    taken: Collection[str],
    reading_notes: ReadingNotes,
) -> tuple[MidiFile, list[float], Choice]:
    """Where the first bar line stands; what lies before it goes into a bar that begins
    silent."""
    metres = meters_of(file)
    meter = metres[0][1] if metres else Meter(4, 4)
    beat = float(meter.groups[0]) if meter.compound else float(meter.count_length)
    beats = round(float(meter.length) / beat)
    later = _by_next_metre(metres, beat) if not set(taken) & {COUNT_IN} else 0
    ways = [Way(FROM_FILE, "as the file counts"), Way(FROM_STROKE, "the first stroke is on 1")]
    ways += [
        Way(f"first +{n}", f"{n} beat{'s' if n > 1 else ''} later")
        for n in range(1, min(beats, MOST_LATER + 1))
    ]
    ways.append(Way("first +half", "half a beat later"))
    usual = FROM_STROKE if COUNT_IN in taken else f"first +{later}" if later else FROM_FILE
    choice = Choice.of("first beat", ways, usual, taken)
    if later and choice.chosen == usual:
        text = "its metre changes inside a bar: read as if that bar began with a pick-up of "
        reading_notes.guess(f"{text}{later} beat{'s' if later > 1 else ''}", "")
    elif choice.chosen == FROM_FILE and str(meter) == "4/4":
        _tell_backbeat(places, drums, reading_notes)
    if choice.chosen == FROM_FILE and min(places, default=0.0) > -beat / 2:
        return file, places, choice
    if choice.chosen == FROM_FILE:
        start = 0.0
    elif choice.chosen == FROM_STROKE:
        start = round(min(places) / beat) * beat
    elif choice.chosen == "first +half":
        start = beat / 2
    else:
        start = int(choice.chosen.removeprefix("first +")) * beat
    length = float(meter.length)
    while min(places) < start - beat / 8:  # a bar before it, for what lies there
        start -= length
    ticks = round(start * file.ticks_per_crotchet)
    tempos = tuple((max(0, tick - ticks), bpm) for tick, bpm in file.tempos)
    meters = tuple((max(0, tick - ticks), beats, unit) for tick, beats, unit in file.meters)
    words = tuple((max(0, tick - ticks), said) for tick, said in file.words)
    moved = replace(file, tempos=tempos, meters=meters, words=words)
    return moved, [at - start for at in places], choice


def _by_next_metre(metres: Sequence[tuple[Fraction, Meter]], beat: float) -> int:
    """Beats of a pick-up, which some programs leave out of their bars: a later metre then does
    not begin at a bar line. 0 where it does, or where no whole beat explains it."""
    found = [one for one in metres if one[0] > 0 and one[1] != metres[0][1]]
    if not found or metres[0][0] > 0 or found[0][0] < A_FEW_BARS * metres[0][1].length:
        return 0
    over = found[0][0] % metres[0][1].length
    beats = float(over) / beat
    return round(beats) if abs(beats - round(beats)) < EXACT else 0


def _tell_backbeat(
    places: Sequence[float], drums: Sequence[Drum], reading_notes: ReadingNotes
) -> None:
    """Kick on 1 and 3, snare on 2 and 4, a crash on 1: where that is so from another beat on,
    the bar lines may stand wrong."""
    struck = [
        (round(at) % 4, WEIGHTS[drum.surface])
        for at, drum in zip(places, drums, strict=True)
        if drum.surface in WEIGHTS and abs(at - round(at)) < ON_A_BEAT
    ]

    def fits(later: int) -> int:
        return sum(weights[(beat - later) % 4] for beat, weights in struck)

    best = max(range(4), key=fits)
    if len(struck) >= ENOUGH and fits(best) > CLEARLY * max(1, fits(0)):
        text = f"kick and snare lie as if beat {best + 1} were 1: look at First beat"
        reading_notes.guess(text, "")


def _take_feel(
    file: MidiFile, taken: Collection[str]
) -> tuple[Choice, tuple[tuple[float, Swing], ...]]:
    found = [(tick / file.ticks_per_crotchet, said_swing(text)) for tick, text in file.words]
    swings = tuple((at, swing) for at, swing in found if swing)
    said = Feel.FOUND.label
    if swings:
        said = f"as the file says: {', '.join(dict.fromkeys(str(one) for _, one in swings))}"
    ways = [Way(one, said if one is Feel.FOUND else one.label) for one in Feel]
    choice = Choice.of("feel", ways, Feel.FOUND, taken)
    chosen = Feel(choice.chosen)
    if chosen is Feel.FOUND:
        return choice, swings
    return choice, ((0.0, SWUNG.get(chosen, STRAIGHT)),)


def take_short_opening(
    bars: Sequence[Bar], taken: Collection[str]
) -> tuple[tuple[Bar, ...], tuple[Choice, ...]]:
    """A first bar with a shorter metre of its own is how files write a pick-up."""
    if len(bars) < 2 or bars[0].meter.length >= bars[1].meter.length:
        return tuple(bars), ()
    own, then = bars[0].meter, bars[1].meter
    ways = (Way("short pickup", f"a pick-up to {then}"), Way("short bar", f"a bar in {own}"))
    half = 2 * own.length <= then.length
    usual = "short pickup" if half else "short bar"
    choice = Choice.of("short first bar", ways, usual, taken)
    if choice.chosen == "short bar":
        return tuple(bars), (choice,)
    first = replace(bars[0], number=PICKUP, meter=then, length=own.length)
    others = (replace(bar, number=str(n)) for n, bar in enumerate(bars[1:], 1))
    return (first, *others), (choice,)


def moved_along(places: Sequence[float], before: Sequence[Stroke], after: Sequence[Stroke]):
    """Where other events go to, which stand beside strokes that were moved."""
    froms = [one.at for one in before]
    for at in places:
        near = min(bisect_left(froms, at), len(froms) - 1)
        yield after[near].at + at - froms[near]
