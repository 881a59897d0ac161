"""Writes a chart as it sounds: the play order, graces and rolls struck out, a count-in.

Source: Standard MIDI Files 1.0; keys by General MIDI level 1, channel 10. The strengths
are common practice, no source.
"""

import io
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from fractions import Fraction
from math import lcm

import mido

from wren_ladder.drumming.chart import Bar, Chart, Hit, RollKind, Tempo, Touch

CHANNEL = 9  # the tenth, counted from 0
CLICK = 76  # High Wood Block
STRENGTH = {Touch.GHOST: 35, Touch.NORMAL: 80, Touch.ACCENT: 108, Touch.STRONG: 124}
GRACE_STRENGTH = 45
GRACE = Fraction(1, 24)  # crotchets from one grace note to the next
UNCOUNTED = Fraction(1, 8)  # crotchets between strokes of a roll without a count
GATE = Fraction(1, 16)  # how long a key is held
TICKS = 480
MOST_TICKS = 32767


@dataclass(frozen=True, slots=True)
class Stroke:
    """One key struck; ``at`` in crotchets from where the music starts."""

    at: Fraction
    key: int
    strength: int


def write_midi(
    chart: Chart,
    order: Sequence[int],
    clicks: Sequence[Fraction] = (),
    before: Fraction = Fraction(0),
) -> bytes:
    """A type 0 file of the bars in ``order`` (indices).

    With ``clicks``, crotchets from the first of them, the music starts ``before`` crotchets
    after it.
    """
    strokes, tempos, meters = _sounding(chart, order, clicks, before)
    ticks = _resolution(strokes)
    track = mido.MidiTrack()
    events = [(stroke.at, 1, _on(stroke)) for stroke in strokes]
    events += [(stroke.at + GATE, 0, _off(stroke)) for stroke in strokes]
    events += [(at, -1, _tempo(tempo)) for at, tempo in tempos]
    events += [
        (at, -2, mido.MetaMessage("time_signature", numerator=beats, denominator=unit))
        for at, beats, unit in meters
    ]
    now = 0
    track.append(mido.MetaMessage("track_name", name=_latin(chart.title)))
    for at, _, message in sorted(events, key=lambda event: event[:2]):
        tick = round(at * ticks)
        track.append(message.copy(time=tick - now))
        now = tick
    file = mido.MidiFile(type=0, ticks_per_beat=ticks)
    file.tracks.append(track)
    buffer = io.BytesIO()
    file.save(file=buffer)
    return buffer.getvalue()


def _latin(title: str) -> str:
    return title.encode("latin-1", "replace").decode("latin-1")


def _resolution(strokes: Sequence[Stroke]) -> int:
    """Ticks in a crotchet: exact wherever a Standard MIDI File can be."""
    ticks = lcm(TICKS, *(stroke.at.denominator for stroke in strokes))
    return ticks if ticks <= MOST_TICKS else TICKS


def _on(stroke: Stroke) -> mido.Message:
    return mido.Message("note_on", channel=CHANNEL, note=stroke.key, velocity=stroke.strength)


def _off(stroke: Stroke) -> mido.Message:
    return mido.Message("note_off", channel=CHANNEL, note=stroke.key)


def _tempo(tempo: Tempo) -> mido.MetaMessage:
    """MIDI counts microseconds to the crotchet, whatever the beat is."""
    microseconds = round(Fraction(60_000_000) / (tempo.bpm * tempo.beat))
    return mido.MetaMessage("set_tempo", tempo=microseconds)


def _sounding(
    chart: Chart, order: Sequence[int], clicks: Sequence[Fraction], before: Fraction
) -> tuple:
    strokes: list[Stroke] = []
    tempos: list[tuple] = [(Fraction(0), chart.tempo)]
    meters: list[tuple] = []
    held = chart.tempos
    now = Fraction(0)
    first = chart.bars[order[0]]
    if clicks:
        meters.append((now, first.meter.beats, first.meter.unit))
        strokes += [Stroke(at, CLICK, 100) for at in clicks]
        now += before
    else:
        # Graces of the very first note need room before it.
        lead = max((_lead(hit) for hit in first.hits if hit.at == 0), default=Fraction(0))
        now += lead
    for index in order:
        bar = chart.bars[index]
        if (bar.meter.beats, bar.meter.unit) != (meters[-1][1:] if meters else None):
            meters.append((now, bar.meter.beats, bar.meter.unit))
        if held[index] != tempos[-1][1]:
            tempos.append((now, held[index]))
        strokes += (
            Stroke(max(now + stroke.at, Fraction(0)), stroke.key, stroke.strength)
            for stroke in strike(bar)
        )
        now += bar.length
    return sorted(strokes, key=lambda stroke: stroke.at), tempos, meters


def _lead(hit: Hit) -> Fraction:
    return hit.grace.notes * GRACE


def strike(bar: Bar) -> Iterable[Stroke]:
    """Every stroke of a bar; graces lie before their note, even before the bar line."""
    for hit in bar.hits:
        key = hit.drum.row.key_written
        for ahead in range(hit.grace.notes, 0, -1):
            yield Stroke(hit.at - ahead * GRACE, key, GRACE_STRENGTH)
        yield Stroke(hit.at, key, STRENGTH[hit.touch])
        for at in _roll_times(hit):
            yield Stroke(at, key, STRENGTH[Touch.GHOST])


def _roll_times(hit: Hit) -> list[Fraction]:
    """The strokes of a roll behind its first; a counted roll's last is the next note."""
    roll = hit.roll
    if roll is None:
        return []
    step = UNCOUNTED / 2 if roll.kind is RollKind.BUZZ else UNCOUNTED
    strokes = roll.strokes - 1 if roll.strokes else max(1, int(roll.length / step))
    return [hit.at + roll.length * place / strokes for place in range(1, strokes)]
