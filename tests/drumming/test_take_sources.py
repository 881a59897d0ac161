"""Where strokes come from: set-ups that are late, kits with notes of their own, a microphone
that hears the click."""

import io
import random
import unittest

import mido

from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.take_sources.calibration import (
    FEWEST,
    TAPS,
    CalibrationError,
    calibrated,
    clicks_at,
)
from wren_ladder.drumming.take_sources.heard import Heard
from wren_ladder.drumming.take_sources.microphone import without_clicks
from wren_ladder.drumming.take_sources.midi_file import TakeError, strokes_in, strokes_of
from wren_ladder.drumming.take_sources.note_maps import Curve, Kit, Layout, own_notes


def taps(late: float, spread: float = 0.008, seed: int = 1) -> list[float]:
    dice = random.Random(seed)
    return [click + late + dice.gauss(0, spread) for click in clicks_at()]


class Calibration(unittest.TestCase):
    def test_the_delay_is_the_middle_of_the_taps_whoever_slips_once(self):
        heard = taps(0.085)
        heard[3] += 0.2
        del heard[7]
        found = calibrated(heard, clicks_at())
        self.assertAlmostEqual(found.latency, 0.085, delta=0.006)
        self.assertLess(found.spread, 0.02)
        self.assertEqual(found.taps, TAPS - 1)

    def test_early_taps_are_a_delay_below_none(self):
        self.assertLess(calibrated(taps(-0.03), clicks_at()).latency, -0.02)

    def test_too_few_and_too_uneven_are_told_with_what_to_do(self):
        with self.assertRaisesRegex(CalibrationError, f"9 of 16 .* {FEWEST} are needed"):
            calibrated(taps(0)[:9], clicks_at())
        with self.assertRaisesRegex(CalibrationError, "too uneven to measure by"):
            calibrated(taps(0, spread=0.09), clicks_at())
        with self.assertRaises(CalibrationError):
            calibrated([], clicks_at())


class Kits(unittest.TestCase):
    def test_own_notes_go_before_the_layout(self):
        kit = Kit(Layout.ZONES, {38: Drum.TOM_HIGH})
        self.assertEqual(kit.drum(38), Drum.TOM_HIGH)
        self.assertEqual(kit.drum(22), Drum.HIHAT)
        self.assertEqual(kit.drum(36), Drum.KICK)
        self.assertIsNone(Kit().drum(3))
        self.assertEqual(Kit(Layout.ONE_PAD).drum(3), Drum.SNARE)

    def test_the_pedal_says_whether_the_hat_is_open(self):
        kit = Kit()
        self.assertEqual(kit.drum(42, openness=0.9), Drum.HIHAT_OPEN)
        self.assertEqual(kit.drum(46, openness=0.1), Drum.HIHAT)
        self.assertEqual(kit.drum(38, openness=0.9), Drum.SNARE)
        self.assertEqual(kit.drum(44, openness=0.9), Drum.HIHAT_FOOT)

    def test_a_curve_keeps_silence_and_full_strength(self):
        for curve in Curve:
            kit = Kit(curve=curve)
            self.assertAlmostEqual(kit.strength(127), 1)
            self.assertLess(kit.strength(1), 0.06)
        light, heavy = (Kit(curve=one).strength(64) for one in (Curve.LIGHT, Curve.HEAVY))
        self.assertLess(heavy, Kit().strength(64))
        self.assertLess(Kit().strength(64), light)

    def test_what_is_no_map_is_refused(self):
        for rows in ([], {"x": "snare"}, {"38": "gong"}, {"200": "snare"}):
            with self.subTest(rows), self.assertRaises(ValueError):
                own_notes(rows)

    def test_a_files_pedal_and_aftertouch(self):
        track = mido.MidiTrack(
            [
                mido.Message("control_change", channel=9, control=4, value=0, time=0),
                mido.Message("note_on", channel=9, note=42, velocity=80, time=10),
                mido.Message("polytouch", channel=9, note=42, value=90, time=10),
                mido.Message("control_change", channel=9, control=4, value=127, time=10),
                mido.Message("note_on", channel=9, note=42, velocity=80, time=10),
            ]
        )
        file = _bytes(mido.MidiFile(tracks=[track]))
        drums = [one.drum for one in strokes_of(file)]
        self.assertEqual(drums, [Drum.HIHAT_OPEN, Drum.HIHAT])


class Rows(unittest.TestCase):
    def test_notes_drums_and_onsets_without_a_name(self):
        found = strokes_in([[0, 38, 127], [10.5, "kick", None], [20, "", 64], [30, 42, 9, 120]])
        self.assertEqual(
            [(one.at, one.drum) for one in found],
            [(0, Drum.SNARE), (0.0105, Drum.KICK), (0.02, None), (0.03, Drum.HIHAT_OPEN)],
        )

    def test_what_is_no_stroke_is_refused_and_said(self):
        for row in (
            [0], "x", [1, "gong", 3], [0, 38, 400], ["a", 38, 3], [float("nan"), 38, 3],
            [1e12, 38, 3], [0, 38, 3, "open"], {}, None, [float("inf"), 38, 3],
        ):  # fmt: skip
            with self.subTest(row), self.assertRaises(TakeError):
                strokes_in([row])
        with self.assertRaises(TakeError):
            strokes_in([[0, 38, 3]] * 30_000)


class Bleed(unittest.TestCase):
    COUNTED = (-2.4, -1.8, -1.2, -0.6)
    CLICKS = tuple(0.6 * place for place in range(8))

    def heard(self, late: float = 0.06, loud: float = 0.1):
        clicks = [Heard(at + late, None, loud) for at in (*self.COUNTED, *self.CLICKS)]
        strokes = [Heard(0.3 + at + 0.05, None, 0.5) for at in self.CLICKS]
        return sorted([*clicks, *strokes], key=lambda one: one.at), strokes

    def test_the_clicks_own_onsets_go(self):
        heard, strokes = self.heard()
        found = without_clicks(heard, self.COUNTED, self.CLICKS)
        self.assertEqual(list(found), strokes)

    def test_a_stroke_on_the_click_stays_for_it_is_louder(self):
        heard, strokes = self.heard()
        both = Heard(0.062, None, 0.6)
        found = without_clicks([*heard[:4], both, *heard[5:]], self.COUNTED, self.CLICKS)
        self.assertEqual(list(found), [both, *strokes])

    def test_with_headphones_nothing_goes_but_what_was_tapped_along(self):
        strokes = [Heard(at + 0.01, None, 0.1) for at in self.CLICKS]
        self.assertEqual(list(without_clicks(strokes, self.COUNTED, self.CLICKS)), strokes)
        along = [Heard(-0.61, None, 0.1), *strokes]
        self.assertEqual(list(without_clicks(along, self.COUNTED, self.CLICKS)), strokes)


def _bytes(file: mido.MidiFile) -> bytes:
    whole = io.BytesIO()
    file.save(file=whole)
    return whole.getvalue()
