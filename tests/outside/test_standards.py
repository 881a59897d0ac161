"""Our tables against published standards and reference libraries."""

import os
import tempfile
import unittest
from contextlib import contextmanager

import verovio
from hypothesis import given, settings

from tests.builders import make_chart
from tests.strategies import charts
from wren_ladder.demo import CHARTS
from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.climb import LadderRule, LadderSchool, ladder_by, metronome_marks
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.notation.mei import Layout, write_mei
from wren_ladder.drumming.study import study
from wren_ladder.studio.drawing.engraving import scored

# Source: General MIDI System Level 1, percussion key map (MIDI Manufacturers Association,
# 1991), for the sounds that the map names. A half-open hat and a rim shot have no key.
GENERAL_MIDI = {
    31: ("Sticks", Drum.STICK_CLICK),  # General MIDI 2
    36: ("Bass Drum 1", Drum.KICK),
    37: ("Side Stick", Drum.CROSS_STICK),
    38: ("Acoustic Snare", Drum.SNARE),
    41: ("Low Floor Tom", Drum.TOM_FLOOR_2),
    42: ("Closed Hi Hat", Drum.HIHAT),
    43: ("High Floor Tom", Drum.TOM_FLOOR),
    44: ("Pedal Hi-Hat", Drum.HIHAT_FOOT),
    46: ("Open Hi-Hat", Drum.HIHAT_OPEN),
    47: ("Low-Mid Tom", Drum.TOM_MID),
    49: ("Crash Cymbal 1", Drum.CRASH),
    50: ("High Tom", Drum.TOM_HIGH),
    51: ("Ride Cymbal 1", Drum.RIDE),
    52: ("Chinese Cymbal", Drum.CHINA),
    53: ("Ride Bell", Drum.RIDE_BELL),
    54: ("Tambourine", Drum.TAMBOURINE),
    55: ("Splash Cymbal", Drum.SPLASH),
    56: ("Cowbell", Drum.COWBELL),
    57: ("Crash Cymbal 2", Drum.CRASH_2),
    77: ("Low Wood Block", Drum.WOODBLOCK),
}


class MetronomeMarks(unittest.TestCase):
    """The scale of mechanical metronomes, written out mark by mark (from memory; common
    practice, no source at hand)."""

    MARKS = (
        40, 42, 44, 46, 48, 50, 52, 54, 56, 58, 60, 63, 66, 69, 72, 76, 80, 84, 88, 92, 96, 100,
        104, 108, 112, 116, 120, 126, 132, 138, 144, 152, 160, 168, 176, 184, 192, 200, 208,
    )  # fmt: skip

    def test_the_ladder_of_marks_is_the_standard_list(self):
        self.assertEqual(metronome_marks(), self.MARKS)
        self.assertEqual(ladder_by(40, 208, LadderRule(LadderSchool.MARKS)), self.MARKS)


class GeneralMidi(unittest.TestCase):
    def test_every_drum_that_has_a_key_has_the_standards(self):
        ours = {drum.row.key: drum for drum in Drum if drum.row.key}
        self.assertEqual(ours, {key: drum for key, (_, drum) in GENERAL_MIDI.items()})
        without = {drum for drum in Drum if drum.row.key is None}
        self.assertEqual(
            without, {Drum.HIHAT_HALF, Drum.RIM_SHOT, Drum.RIDE_CRASH, Drum.HIHAT_SPLASH}
        )


@contextmanager
def engraver_log():
    """What Verovio prints, which it writes to the process's own standard error."""
    kept = os.dup(2)
    with tempfile.TemporaryFile() as log:
        os.dup2(log.fileno(), 2)
        said: list[str] = []
        try:
            yield said
        finally:
            os.dup2(kept, 2)
            os.close(kept)
            log.seek(0)
            said.append(log.read().decode())


PAGE = Layout(counts=False, hands=False, numbers=True, shorthand=True)


class EveryMei(unittest.TestCase):
    """Reference: Verovio, which loads MEI 5 and complains of what it cannot use."""

    def load(self, chart, layout=Layout(numbers=True)) -> str:
        mei = write_mei([scored(bar) for bar in study(chart).bars], layout)
        toolkit = verovio.toolkit()
        toolkit.setOptions({"pageWidth": 8000})  # room for any bar, or it complains of that
        with engraver_log() as said:
            loaded = toolkit.loadData(mei)
            toolkit.renderToSVG(1)
        self.assertTrue(loaded)
        return said[0]

    def test_the_log_would_show_a_fault(self):
        with engraver_log() as said:
            verovio.toolkit().loadData("<mei/>")
        self.assertIn("[Warning]", said[0])

    def test_the_demo_charts_are_engraved_with_an_empty_log(self):
        for path in sorted(CHARTS.glob("*.wren")):
            with self.subTest(path.stem):
                self.assertEqual(self.load(read_chart(path.read_text())), "")

    def test_every_word_of_the_vocabulary_is_engraved_with_an_empty_log(self):
        chart = make_chart(
            "bar 1\nhat 8ths, open 4&, half 2\nsnare ghost 2a, flam 3, drag 4, ruff 1\nkick 1\n"
            "bar 2\nride 8ths, bell 1\nsnare cross 2, rim 4, roll 7 3-4\nfoot 2 4\nhigh 4e\n"
            "bar 3\nsnare strong 1, accent 2, buzz 3-end\nmid 1t\nfloor 1l\ncrash 1\n"
            "crash-2 2\nchina 3\nsplash 4\ncowbell quarters\nbar 4\nmeter 7/8\nkick 1 3&"
        )
        self.assertEqual(self.load(chart), "")

    def test_the_page_and_its_shorthand_are_engraved_with_an_empty_log(self):
        chart = make_chart(
            "bar 1\nhat 8ths\nbar 2 repeat\nbar 3\nsnare 2\nbar 4\nrepeat 2 bars\n"
            "bar 5\nrepeat 2 bars\nbars 6-9 rest\nbar 10\nhat 8ths 1-2\nslashes 3\n"
            "bar 11\nsnare buzz 3-tied\nbar 12\nsnare buzz 1-2\nbar 13\nmeter 3+2+2/8\n"
            "hat 8ths\nbar 14 slashes"
        )
        self.assertEqual(self.load(chart, PAGE), "")

    @settings(max_examples=40)
    @given(charts(most=5))
    def test_any_page_is_engraved_with_an_empty_log(self, chart):
        self.assertEqual(self.load(chart, PAGE), "")

    @settings(max_examples=60)
    @given(charts(most=3))
    def test_any_chart_is_engraved_with_an_empty_log(self, chart):
        self.assertEqual(self.load(chart), "")
