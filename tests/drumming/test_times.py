"""Second time only, first time tacet, and vamps. Common practice, no source."""

import unittest

from tests.builders import make_bar, make_chart
from wren_ladder.drumming.breakdown.played import played_bars
from wren_ladder.drumming.breakdown.step import Step, StepKind
from wren_ladder.drumming.chart import ChartError, Times
from wren_ladder.drumming.notation.counts import read_chart, write_bar
from wren_ladder.drumming.notation.mei import Layout, Scored, write_mei
from wren_ladder.drumming.performance import perform
from wren_ladder.drumming.study import study

CHART = """bar 1
repeat start
kick 1
bar 2
time 2 only
snare 1
bar 3
time 1 tacet
repeat end 3
hat 1
bar 4
crash 1"""


class Words(unittest.TestCase):
    def test_what_pages_say(self):
        for said, times in (
            ("2nd time only", Times((2,))),
            ("Second time only", Times((2,))),
            ("(1st time tacet)", Times((1,), True)),
            ("1st x tacet", Times((1,), True)),
            ("play 2nd time", Times((2,))),
            ("tacet first time", Times((1,), True)),
            ("2nd and 3rd times only", Times((2, 3))),
            ("play 3x", None),
            ("play 8 times", None),
            ("2 times only", None),
            ("first time", None),
            ("second time louder", None),
        ):
            with self.subTest(said):
                self.assertEqual(Times.read_words(said), times)

    def test_they_are_typed_and_said(self):
        bar = make_bar("time 1 3 tacet\nsnare 1")
        self.assertEqual(bar.times.words, "1st and 3rd time tacet")
        self.assertEqual(read_chart(f"bar 1\n{write_bar(bar)}").bars[0], bar)

    def test_faults_say_what_is_right(self):
        for typed in (
            "time",
            "time 2",
            "time only",
            "time 0 only",
            "time 17 only",
            "time x only",
        ):
            with self.subTest(typed), self.assertRaisesRegex(ChartError, "say which time"):
                make_bar(f"time {typed}")


class Played(unittest.TestCase):
    def test_the_whole_piece_is_silent_where_the_page_says_so(self):
        road = study(make_chart(CHART)).road
        heard = [(one.index + 1, one.time) for one in road if one.sticks]
        self.assertEqual(heard, [(1, 1), (1, 2), (2, 2), (3, 2), (1, 3), (3, 3), (4, 1)])

    def test_a_silent_bar_lasts_as_long(self):
        studied = study(make_chart(CHART))
        self.assertAlmostEqual(perform(studied.road).seconds, 10 * 4)
        self.assertAlmostEqual(studied.seconds, 10 * 4)

    def test_who_practises_the_bar_hears_it(self):
        """A bar that is played the second time only is learned like any other."""
        studied = study(make_chart(CHART))
        (one,) = played_bars(Step(StepKind.BAR, 1, 1, 4, ""), studied)
        self.assertEqual(len(one.sticks), 1)


class Vamps(unittest.TestCase):
    def test_a_vamp_is_a_repeat(self):
        bar = make_bar("repeat end 4 vamp")
        self.assertTrue(bar.vamp)
        self.assertEqual(read_chart(f"bar 1\n{write_bar(bar)}").bars[0], bar)
        with self.assertRaisesRegex(ChartError, "repeat end 4 vamp"):
            make_bar("repeat end vamp 4 times")

    def test_the_page_says_how_often_it_is_counted(self):
        for typed, said in (
            ("repeat end 4 vamp", "vamp, counted ×4"),
            ("repeat end 4", ">×4<"),
        ):
            mei = write_mei([Scored(make_bar(typed))], Layout(numbers=True))
            self.assertIn(said, mei)

    def test_the_words_stand_over_their_bars_with_a_line(self):
        chart = make_chart(
            "bar 1\ntime 2 only\nkick 1\nbar 2\ntime 2 only\nkick 1\nbar 3\nkick 1"
        )
        mei = write_mei([Scored(bar) for bar in chart.bars], Layout(numbers=True))
        self.assertEqual(mei.count("2nd time only"), 1)
        self.assertIn('tstamp2="1m+5"', mei)
