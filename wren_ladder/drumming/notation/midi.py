"""Reads the drums of a Standard MIDI File: each beat onto the grid that fits it best.

Source: Standard MIDI Files 1.0. What is soft, loud or a grace note is common practice, no
source; how far the notes lay off the grid is reading_notes.
"""

import io
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from statistics import mean

import mido

from wren_ladder.drumming.chart import (
    Bar,
    Chart,
    ChartError,
    Drum,
    Grace,
    Hit,
    Meter,
    Problem,
    Tempo,
    Touch,
)
from wren_ladder.drumming.chart.chart import MOST_BARS
from wren_ladder.drumming.notation.reading import Reading, ReadingNotes, Sources, report_bars
from wren_ladder.drumming.notation.staff import MIDI_DRUMS

# Parts of a beat, and what a grid costs for being finer: a note must lie that much better.
GRIDS = ((1, 0.0), (2, 0.01), (4, 0.02), (3, 0.03), (6, 0.05), (8, 0.06))
GRACE_WITHIN = 45  # ms from one grace to the next, of the same drum and softer
GHOST_BELOW, ACCENT_FROM, STRONG_FROM = 50, 100, 118
GRACES = {1: Grace.FLAM, 2: Grace.DRAG, 3: Grace.RUFF}
FAR_OFF = 30  # ms; what is moved further is a guess
MOST_NOTES = 50_000
CHANNEL = 9  # the tenth, counted from 0


@dataclass(frozen=True, slots=True)
class MidiNote:
    """A key struck; ``at`` in crotchets from the start of the file."""

    at: float
    drum: Drum
    strength: int
    graces: int = 0


def read_midi(data: bytes) -> tuple[Chart, tuple[Problem, ...]]:
    """A chart and what was guessed or left out, as ``open_midi`` reads them."""
    reading = open_midi(data)
    return reading.chart, reading.problems


def open_midi(data: bytes, drums: Mapping[str, str] | None = None) -> Reading:
    """The file's drum channel, and how each key was understood.

    ``drums`` are a teacher's corrections, by the key of a Source. ChartError if the data
    are no MIDI file or hold no drums. Repeats are not recovered: every bar stands as it is
    played.
    """
    file = _open(data)
    if file.type == 2:
        raise ChartError("a MIDI file of type 2 holds several songs; save one as type 0 or 1")
    sources = Sources(drums or {})
    notes, meters, tempos = _collect(file, sources)
    if not notes:
        raise ChartError("the MIDI file has no drum notes on channel 10")
    played = _gather_graces(sorted(notes, key=lambda note: note.at), tempos)
    bars, offs = _bars(played, meters, tempos)
    problems = [Problem("midi-grid", _say_off(offs, tempos))]
    unknown = [source.said for source in sources.all() if source.drum is None]
    if unknown:
        text = f"without a drum here, left out: {', '.join(sorted(unknown))}"
        problems.append(Problem("midi-key", text))
    chart = Chart(_title(file), tuple(bars))
    return Reading(chart, tuple(problems), sources.all(), (), _report(chart, offs, tempos))


def _report(chart: Chart, offs: Sequence[Sequence[float]], tempos: dict) -> tuple:
    """A bar whose notes lay far off the grid is a guess."""
    reading_notes = ReadingNotes()
    for bar, off in zip(chart.bars, offs, strict=True):
        most = max(off, default=0.0) * _millisecond(tempos)
        if most >= FAR_OFF:
            reading_notes.guess(f"notes moved to the grid by up to {most:.0f} ms", bar.number)
    return report_bars(chart, reading_notes)


def _open(data: bytes) -> mido.MidiFile:
    try:
        file = mido.MidiFile(file=io.BytesIO(data))
    except (OSError, EOFError, ValueError, KeyError, IndexError, TypeError) as error:
        raise ChartError("this is no MIDI file, or it is damaged") from error
    if file.type not in (0, 1, 2) or file.ticks_per_beat <= 0:
        raise ChartError("the MIDI file counts time in a way that is not read; use ticks")
    return file


def _title(file: mido.MidiFile) -> str:
    names = (m.name for track in file.tracks for m in track if m.type == "track_name")
    return " ".join(next(names, "").split())[:120]


def _collect(file: mido.MidiFile, sources: Sources) -> tuple:
    drums = _drums_by_key(file)
    notes: list[MidiNote] = []
    meters: dict[Fraction, Meter] = {}
    tempos: dict[Fraction, Tempo] = {}
    for track in file.tracks:
        ticks = 0
        for message in track:
            ticks += message.time
            at = Fraction(ticks, file.ticks_per_beat)
            if message.type == "note_on" and message.velocity and message.channel == CHANNEL:
                key, guess = f"key {message.note}", drums.get(message.note)
                drum = sources.meet(key, key, guess, "by the General MIDI map")
                if drum:
                    notes.append(MidiNote(float(at), drum, message.velocity))
                if len(notes) > MOST_NOTES:
                    raise ChartError(f"the file has more than {MOST_NOTES} drum notes")
            elif message.type == "time_signature":
                meters[at] = Meter(message.numerator, message.denominator)
            elif message.type == "set_tempo":
                bpm = round(mido.tempo2bpm(message.tempo))
                tempos[at] = Tempo(Fraction(1), min(400, max(20, bpm)))
    return notes, meters, tempos


def _drums_by_key(file: mido.MidiFile) -> dict[int, Drum]:
    """The General MIDI map; where a file has one floor tom, that is the floor tom, whichever
    of the two keys it has."""
    keys = {m.note for track in file.tracks for m in track if m.type == "note_on"}
    first, second = (drum.row.key for drum in (Drum.TOM_FLOOR, Drum.TOM_FLOOR_2))
    return MIDI_DRUMS if first in keys else {**MIDI_DRUMS, second: Drum.TOM_FLOOR}


def _gather_graces(notes: Sequence[MidiNote], tempos: dict) -> list[MidiNote]:
    """Soft notes just before a louder one of the same drum are its grace notes.

    Feet play no graces: two quick kicks stay two kicks.
    """
    kept: list[MidiNote] = []
    for note in notes:
        graces, within = 0, GRACE_WITHIN / _millisecond(tempos, note.at)
        while kept and graces < 3 and not note.drum.by_foot:
            before = next(
                (k for k in reversed(kept) if k.drum.surface is note.drum.surface), None
            )
            near = before is not None and note.at - before.at <= within * (graces + 1)
            if not near or before.graces or before.strength >= note.strength:
                break
            kept.remove(before)
            graces += 1
        kept.append(replace(note, graces=graces))
    return kept


def _bars(
    notes: list[MidiNote], meters: dict, tempos: dict
) -> tuple[list[Bar], list[list[float]]]:
    last = max(note.at for note in notes)
    bars: list[Bar] = []
    offs: list[list[float]] = []  # of each bar, in crotchets
    start, meter, place = Fraction(0), Meter(4, 4), 0
    tempo: Tempo | None = None
    changes = sorted(tempos.items())
    while start <= last + 0.05 and place < len(notes):
        if len(bars) >= MOST_BARS:
            raise ChartError(f"the file is longer than {MOST_BARS} bars")
        meter = meters.get(start, meter)
        end = start + meter.length
        inside = []
        while place < len(notes) and notes[place].at < float(end) - _before_line(meter):
            inside.append(notes[place])
            place += 1
        mark = next((t for at, t in reversed(changes) if at <= start), None)
        new = mark if mark != tempo else None
        tempo = mark
        hits, off = _quantise(inside, start, meter)
        offs.append(off)
        bars.append(Bar(str(len(bars) + 1), meter, hits, tempo=new))
        start = end
    return bars, offs


def _before_line(meter: Meter) -> float:
    """A note this little before the bar line belongs to the next bar."""
    return 0.06 * float(meter.count_length)


def _quantise(notes: list[MidiNote], start: Fraction, meter: Meter) -> tuple:
    """(hits, how far each note lay off in crotchets), beat by beat."""
    found: dict[tuple, Hit] = {}
    offs = []
    beats = list(zip(meter.beat_starts, meter.groups, strict=True))
    for index, (beat, length) in enumerate(beats):
        floor = float(start + beat) - (_before_line(meter) if index else 9)
        ceiling = float(start + beat + length) - _before_line(meter)
        mine = [note for note in notes if floor <= note.at < ceiling]
        parts = _grid([(n.at - float(start + beat)) / float(length) for n in mine], length)
        for note in mine:
            share = max(0.0, (note.at - float(start + beat)) / float(length))
            at = beat + length * min(parts - 1, round(share * parts)) / parts
            offs.append(abs(note.at - float(start + at)))
            found.setdefault((at, note.drum.surface), _hit(note, at))
    return tuple(found.values()), offs


def _grid(shares: list[float], length: Fraction) -> int:
    """How many parts the beat is best divided into."""
    ternary = 3 if length.numerator % 3 == 0 else 1

    def cost(parts: int, price: float) -> float:
        if not shares:
            return price
        return price + mean(
            abs(share * parts - round(share * parts)) / parts for share in shares
        )

    parts, _ = min(((parts * ternary, price) for parts, price in GRIDS), key=lambda g: cost(*g))
    return parts


def _hit(note: MidiNote, at: Fraction) -> Hit:
    touch = Touch.NORMAL
    if note.strength < GHOST_BELOW:
        touch = Touch.GHOST
    elif note.strength >= STRONG_FROM:
        touch = Touch.STRONG
    elif note.strength >= ACCENT_FROM:
        touch = Touch.ACCENT
    return Hit(at, note.drum, touch, GRACES.get(note.graces, Grace.NONE))


def _millisecond(tempos: dict, at: float = 0.0) -> float:
    """Milliseconds in a crotchet at a place of the file, 120 where it gives no tempo."""
    held = [tempo for place, tempo in sorted(tempos.items()) if place <= at]
    tempo = held[-1] if held else Tempo(Fraction(1), 120)
    return 60_000 / tempo.bpm


def _say_off(offs: list[list[float]], tempos: dict) -> str:
    every = [off for bar in offs for off in bar]
    average, most = mean(every) * _millisecond(tempos), max(every) * _millisecond(tempos)
    if most < 1:
        return "every note lay on the grid"
    return f"notes were moved to the grid by {average:.0f} ms on average, {most:.0f} at most"
