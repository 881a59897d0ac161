"""The bar lines and tempos of a MIDI file, and how many milliseconds stand between."""

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from quicktions import Fraction

from wren_ladder.drumming.chart import ChartError, Meter, Tempo
from wren_ladder.drumming.chart.chart import MOST_BARS
from wren_ladder.drumming.chart.tempo import FASTEST, SLOWEST
from wren_ladder.drumming.notation.midi.file import MidiFile
from wren_ladder.drumming.notation.reading import ReadingNotes

USUAL_BPM = 120.0  # where a file gives no tempo; Standard MIDI Files 1.0
NEAR = Fraction(1, 8)  # crotchets; a change so near to a bar line stands at it
CUTS = 8  # parts of a crotchet that a bar may be cut short to


class Clock:
    """Milliseconds and tempos by crotchets from the start of the file."""

    def __init__(self, tempos: Sequence[tuple[Fraction, float]]) -> None:
        last = dict(tempos)  # of several at one place the last holds
        changes = sorted(last.items())
        if not changes or changes[0][0] > 0:
            changes.insert(0, (Fraction(0), USUAL_BPM))
        self.starts = [float(at) for at, _ in changes]
        self.bpms = [bpm for _, bpm in changes]
        self.ms = [0.0]
        for (at, bpm), (end, _) in pairwise(changes):
            self.ms.append(self.ms[-1] + float(end - at) * 60_000 / bpm)

    def at(self, crotchets: float) -> float:
        """Milliseconds from the start of the file."""
        place = bisect_right(self.starts, crotchets) - 1
        return self.ms[place] + (crotchets - self.starts[place]) * 60_000 / self.bpms[place]

    def bpm(self, crotchets: float) -> float:
        return self.bpms[bisect_right(self.starts, crotchets) - 1]


@dataclass(frozen=True, slots=True)
class BarLine:
    """A bar of the file: where it starts, in crotchets, and how long it is."""

    number: str
    start: Fraction
    meter: Meter
    length: Fraction


def clock_of(file: MidiFile) -> Clock:
    return Clock([(Fraction(tick, file.ticks_per_crotchet), bpm) for tick, bpm in file.tempos])


def meters_of(file: MidiFile) -> list[tuple[Fraction, Meter]]:
    """(crotchets, the metre from there on) of those that can be written."""
    return _meters(file, ReadingNotes())


def bar_lines(file: MidiFile, until: float, reading_notes: ReadingNotes) -> list[BarLine]:
    """The bars as far as ``until`` crotchets, by the file's metres. A metre that changes inside
    a bar cuts it short there, where that can be written, and is told."""
    changes = _meters(file, reading_notes)
    meter, start = Meter(4, 4), Fraction(0)
    lines: list[BarLine] = []
    while start <= until or not lines:
        if len(lines) >= MOST_BARS:
            raise ChartError(f"the file is longer than {MOST_BARS} bars")
        number = str(len(lines) + 1)
        while changes and changes[0][0] <= start + NEAR:
            meter = changes.pop(0)[1]
        length = meter.length
        if changes and changes[0][0] < start + length - NEAR and changes[0][1] != meter:
            length = _cut(changes[0][0] - start, length, changes[0][1], number, reading_notes)
        lines.append(BarLine(number, start, meter, length))
        start += length
    return lines


def _cut(
    until: Fraction, length: Fraction, new: Meter, number: str, reading_notes: ReadingNotes
) -> Fraction:
    if (until * CUTS).denominator == 1:
        text = f"the metre changes to {new} inside the bar, which is cut short there"
        reading_notes.guess(text, number)
        return until
    reading_notes.guess(f"the metre changes to {new} inside the bar; from the next on", number)
    return length


def _meters(file: MidiFile, reading_notes: ReadingNotes) -> list[tuple[Fraction, Meter]]:
    found = []
    for tick, beats, unit in file.meters:
        try:
            found.append((Fraction(tick, file.ticks_per_crotchet), Meter(beats, unit)))
        except ChartError as error:
            reading_notes.leave(f"a metre that is not read: {error.text}", "")
    return found


def tempo_marks(
    lines: Sequence[BarLine], file: MidiFile, clock: Clock, reading_notes: ReadingNotes
) -> list[Tempo | None]:
    """The tempo mark of each bar, None where it goes on; a change inside a bar is told."""
    changes = sorted({Fraction(tick, file.ticks_per_crotchet) for tick, _ in file.tempos})
    marks: list[Tempo | None] = []
    before: Tempo | None = None
    place = 0
    for line in lines:
        tempo = _tempo(clock.bpm(float(line.start + NEAR)), line, reading_notes)
        marks.append(tempo if tempo != before else None)
        before = tempo
        end = line.start + line.length
        while place < len(changes) and changes[place] < end - NEAR:
            at = changes[place]
            place += 1
            bpm = clock.bpm(float(at))
            if at > line.start + NEAR and round(bpm) != round(clock.bpm(float(line.start))):
                reading_notes.guess(
                    "the tempo changes inside the bar; from the next on", line.number
                )
    return marks


def _tempo(bpm: float, line: BarLine, reading_notes: ReadingNotes) -> Tempo:
    """In the beat of the metre, or in a smaller or larger one where that has no such mark."""
    beat = Fraction(3, 2) if line.meter.compound and line.meter.unit == 8 else Fraction(1)
    for unit in (beat, Fraction(1, 2), Fraction(2)):
        said = round(bpm / float(unit))
        if SLOWEST <= said <= FASTEST:
            return Tempo(unit, said)
    nearest = SLOWEST if bpm < SLOWEST else FASTEST
    reading_notes.guess(
        f"a tempo of {bpm:.0f} crotchets a minute is read as {nearest}", line.number
    )
    return Tempo(Fraction(1), nearest)
