"""A performance as a Standard MIDI File: graces and rolls struck out, the count-in clicked.

Source: Standard MIDI Files 1.0; keys by General MIDI level 1, channel 10.
"""

import io
from dataclasses import dataclass
from math import lcm

import mido
from quicktions import Fraction

from wren_ladder.drumming.chart import Meter, Tempo
from wren_ladder.drumming.chart.meter import MOST_COUNTS, UNITS
from wren_ladder.drumming.notation.midi import CHANNEL
from wren_ladder.drumming.performance.onset import Onset, Performance
from wren_ladder.drumming.performance.strokes import LOUDEST

CLICK, CLICK_STRENGTH = 76, 100  # High Wood Block
GATE = Fraction(1, 16)  # crotchets that a key is held
TICKS = 480
MOST_TICKS = 32767


@dataclass(frozen=True, slots=True)
class KeyStroke:
    """One key struck; ``at`` in crotchets from the start of the file."""

    at: Fraction
    key: int
    strength: int


def write_midi(performance: Performance, title: str = "") -> bytes:
    """A type 0 file; it begins with the count-in, or with the first bar."""
    start = performance.before_length
    strokes = [*_clicks(performance, start), *_strokes(performance, start)]
    ticks = _resolution(strokes)
    track = mido.MidiTrack()
    events = [(stroke.at, 1, _on(stroke)) for stroke in strokes]
    events += [(stroke.at + GATE, 0, _off(stroke)) for stroke in strokes]
    for place, (at, tempo) in enumerate(performance.tempos):
        message = _tempo(tempo, performance.share)
        events.append((at + start if place else Fraction(0), -1, message))
    for at, meter in _meters(performance):
        events.append((at + start if at else Fraction(0), -2, _meter(meter)))
    for at, swing in performance.swings:
        events.append((at + start, -2, mido.MetaMessage("text", text=str(swing))))
    now = 0
    track.append(mido.MetaMessage("track_name", name=_latin(title)))
    for at, _, message in sorted(events, key=lambda event: event[:2]):
        tick = round(at * ticks)
        track.append(message.copy(time=tick - now))
        now = tick
    file = mido.MidiFile(type=0, ticks_per_beat=ticks)
    file.tracks.append(track)
    buffer = io.BytesIO()
    file.save(file=buffer)
    return buffer.getvalue()


def _clicks(performance: Performance, start: Fraction) -> list[KeyStroke]:
    """Those of the count-in; the music is played without."""
    return [
        KeyStroke(click.position + start, CLICK, CLICK_STRENGTH)
        for click in performance.clicks
        if click.counted_in
    ]


def _strokes(performance: Performance, start: Fraction) -> list[KeyStroke]:
    """A file cannot begin before its first bar: where the very first stroke has graces and no
    count goes before it, they begin the file and their main stroke follows them at once."""
    late = _early(performance.onsets, start)
    found = []
    for onset in performance.onsets:
        at = onset.position + start
        if onset.position <= 0 and late:
            at = max(Fraction(0), at + late)
        strength = max(1, round(onset.strength * LOUDEST))
        found.append(KeyStroke(at, onset.drum.row.key_written, strength))
    return found


def _early(onsets: tuple[Onset, ...], start: Fraction) -> Fraction:
    """How far the first graces would lie before the file."""
    first = min((onset.position for onset in onsets), default=Fraction(0)) + start
    return max(Fraction(0), -first)


def _latin(title: str) -> str:
    return title.encode("latin-1", "replace").decode("latin-1")


def _resolution(strokes: list[KeyStroke]) -> int:
    """Ticks in a crotchet: exact wherever a Standard MIDI File can be; what has a time of its
    own, as graces have, is rounded."""
    places = {stroke.at.denominator for stroke in strokes if stroke.at.denominator <= TICKS}
    ticks = lcm(TICKS, *places)
    return ticks if ticks <= MOST_TICKS else TICKS


def _on(stroke: KeyStroke) -> mido.Message:
    return mido.Message("note_on", channel=CHANNEL, note=stroke.key, velocity=stroke.strength)


def _off(stroke: KeyStroke) -> mido.Message:
    return mido.Message("note_off", channel=CHANNEL, note=stroke.key)


def _tempo(tempo: Tempo, share: Fraction) -> mido.MetaMessage:
    """MIDI counts microseconds to the crotchet, whatever the beat is."""
    microseconds = round(Fraction(60_000_000) / (tempo.bpm * tempo.beat * share))
    return mido.MetaMessage("set_tempo", tempo=microseconds)


def _meters(performance: Performance) -> list[tuple[Fraction, Meter]]:
    """Where each begins; a pick-up and a bar cut short have a metre that is as long."""
    found: list[tuple[Fraction, Meter]] = []
    own = list(performance.meters)
    meter = own[0][1]
    for place, bar in enumerate(performance.bars):
        while own and own[0][0] <= bar.position:
            meter = own.pop(0)[1]
        counted = performance.before_length if not place else Fraction(0)
        whole = bar.length == meter.length or (counted + bar.length) % meter.length == 0
        now = meter if whole else _as_long(bar.length) or meter
        if not found or found[-1][1] != now:
            found.append((bar.position, now))
    return [*found, *own]


def _as_long(length: Fraction) -> Meter | None:
    for unit in UNITS:
        beats = length * unit / 4
        if beats.denominator == 1 and 1 <= beats <= MOST_COUNTS and unit >= 4:
            return Meter(int(beats), unit)
    return None


def _meter(meter: Meter) -> mido.MetaMessage:
    return mido.MetaMessage("time_signature", numerator=meter.beats, denominator=meter.unit)
