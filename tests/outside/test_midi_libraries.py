"""MIDI as other libraries read it: the seconds of every stroke and of every bar line.

pretty_midi 0.2.11 and partitura 1.9.0 from the registry; mido 1.3 reads for pretty_midi and for
us, so partitura's and music21's own readers are the independent ones.
"""

import io
import random
import tempfile
import unittest
import warnings
from fractions import Fraction
from pathlib import Path

import mido
import music21
import partitura
import pretty_midi

from wren_ladder.drumming.notation.midi.file import open_file
from wren_ladder.drumming.notation.midi.reader import open_midi
from wren_ladder.drumming.notation.midi.timing import Clock, bar_lines
from wren_ladder.drumming.notation.reading import ReadingNotes

KEYS = (35, 36, 37, 38, 40, 41, 42, 43, 44, 45, 46, 47, 48, 49, 50, 51, 53, 55, 57)
METERS = ((4, 4), (3, 4), (6, 8), (5, 4), (7, 8), (12, 8), (2, 2))
FILES = 60


def performance(seed: int) -> bytes:
    """A drum track with tempos and metres of a few sections, strokes anywhere."""
    dice = random.Random(seed)
    ticks = dice.choice((96, 120, 192, 220, 384, 480, 960))
    metas, notes, at = mido.MidiTrack(), [], 0
    before = 0
    for _ in range(dice.randint(1, 4)):
        beats, unit = dice.choice(METERS)
        bars = dice.randint(1, 6)
        bpm = dice.uniform(40, 220)
        metas.append(
            mido.MetaMessage(
                "time_signature", numerator=beats, denominator=unit, time=at - before
            )
        )
        metas.append(mido.MetaMessage("set_tempo", tempo=mido.bpm2tempo(bpm)))
        before = at
        length = bars * beats * 4 * ticks // unit
        notes += [(at + dice.randrange(length), dice.choice(KEYS)) for _ in range(12 * bars)]
        at += length
    track = mido.MidiTrack()
    events = [(tick, "note_on", key, dice.randint(1, 127)) for tick, key in set(notes)]
    events += [(tick + 1, "note_off", key, 0) for tick, key in set(notes)]
    now = 0
    for tick, kind, key, strength in sorted(events):
        track.append(
            mido.Message(kind, channel=9, note=key, velocity=strength, time=tick - now)
        )
        now = tick
    file = mido.MidiFile(type=1, ticks_per_beat=ticks)
    file.tracks += [metas, track]
    buffer = io.BytesIO()
    file.save(file=buffer)
    return buffer.getvalue()


def our_seconds(data: bytes) -> list[tuple[float, int]]:
    file = open_file(data)
    ticks = file.ticks_per_crotchet
    clock = Clock([(Fraction(tick, ticks), bpm) for tick, bpm in file.tempos])
    return sorted(
        (round(clock.at(one.tick / ticks) / 1000, 3), one.key) for one in file.strokes
    )


def parsed(data: bytes):
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        return pretty_midi.PrettyMIDI(io.BytesIO(data))


class Seconds(unittest.TestCase):
    def near(self, ours, theirs) -> None:
        self.assertEqual(len(ours), len(theirs))
        for (at, key), (other_at, other) in zip(ours, sorted(theirs), strict=True):
            self.assertAlmostEqual(at, other_at, delta=0.002)
            self.assertEqual(key, other)

    def test_every_stroke_sounds_when_pretty_midi_says(self):
        for seed in range(FILES):
            data = performance(seed)
            notes = [note for part in parsed(data).instruments for note in part.notes]
            with self.subTest(seed):
                self.near(our_seconds(data), [(round(n.start, 3), n.pitch) for n in notes])

    def test_and_when_partitura_says(self):
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "take.mid"
            for seed in range(0, FILES, 3):
                data = performance(seed)
                path.write_bytes(data)
                with warnings.catch_warnings():
                    warnings.simplefilter("ignore")
                    notes = partitura.load_performance_midi(str(path)).note_array()
                theirs = [
                    (round(float(at), 3), int(key))
                    for at, key in zip(notes["onset_sec"], notes["pitch"], strict=True)
                ]
                with self.subTest(seed):
                    self.near(our_seconds(data), theirs)


class Bars(unittest.TestCase):
    def test_bar_lines_stand_where_pretty_midi_has_its_downbeats(self):
        for seed in range(FILES):
            data = performance(seed)
            file = open_file(data)
            ticks = file.ticks_per_crotchet
            clock = Clock([(Fraction(tick, ticks), bpm) for tick, bpm in file.tempos])
            lines = bar_lines(file, file.strokes[-1].tick / ticks, ReadingNotes())
            ours = [clock.at(float(line.start)) / 1000 for line in lines]
            theirs = list(parsed(data).get_downbeats())
            with self.subTest(seed):
                for at, other in zip(ours, theirs, strict=False):
                    self.assertAlmostEqual(at, other, delta=0.005)
                self.assertGreaterEqual(len(theirs), len(ours) - 1)

    def test_metres_are_those_that_music21_reads(self):
        for seed in range(0, FILES, 6):
            data = performance(seed)
            theirs = music21.converter.parseData(data, format="midi")
            metres = {
                float(one.getOffsetInHierarchy(theirs)): one.ratioString
                for one in theirs.recurse().getElementsByClass("TimeSignature")
            }
            lines = open_midi(data).chart.bars
            start, ours = Fraction(0), {}
            for bar in lines:
                ours[float(start)] = str(bar.meter)
                start += bar.length
            with self.subTest(seed):
                for at, metre in metres.items():
                    if at in ours:
                        self.assertEqual(ours[at], metre)
                self.assertEqual(ours[0.0], metres[0.0])
