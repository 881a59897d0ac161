"""Repeat signs, slashes, long rests, ties over the bar line, and groups of one's own."""

import unittest
from fractions import Fraction

from tests.builders import make_chart
from wren_ladder.drumming.chart import ChartError, Drum, Meter
from wren_ladder.drumming.chart.serial import bar_from_json, bar_to_json
from wren_ladder.drumming.chart.shorthand import rest_runs
from wren_ladder.drumming.notation.counts import read_chart, write_chart
from wren_ladder.drumming.notation.mei import Layout, Scored, write_mei
from wren_ladder.drumming.study import study

CRASHED = "bar 1\ncrash 1\nhat 8ths 2-4\nsnare 2 4\nkick 1 3\n"


class RepeatSigns(unittest.TestCase):
    def test_a_sign_holds_the_music_it_stands_for(self):
        chart = make_chart("bar 1\nhat 8ths\nbars 2-3 repeat\nbar 4\nhat quarters")
        self.assertEqual(chart.bars[2].hits, chart.bars[0].hits)
        self.assertEqual(study(chart).bars[2].twin_of, 0)

    def test_the_crash_is_not_repeated_and_the_hat_takes_its_place(self):
        # Common practice, no source.
        chart = make_chart(CRASHED + "bar 2 repeat")
        struck = {(hit.at, hit.drum) for hit in chart.bars[1].hits}
        self.assertIn((0, Drum.HIHAT), struck)
        self.assertNotIn((0, Drum.CRASH), struck)

    def test_the_crash_is_repeated_where_the_bar_says_so(self):
        chart = make_chart(CRASHED + "bar 2\nrepeat bar with crash")
        self.assertEqual(chart.bars[1].hits, chart.bars[0].hits)

    def test_a_sign_for_two_bars(self):
        text = "bar 1\nsnare 2\nbar 2\nkick 1\nbar 3\nrepeat 2 bars\nbar 4\nrepeat 2 bars"
        bars = make_chart(text).bars
        self.assertEqual([bars[2].hits, bars[3].hits], [bars[0].hits, bars[1].hits])

    def test_what_has_nothing_to_repeat_is_named(self):
        for text, said in (
            ("bar 1\nrepeat bar", "bar 1: there is no bar before it to repeat"),
            ("bar 1\nsnare 2\nbar 2\nrepeat 2 bars", "bar 2: there are no two bars before"),
            ("bar 0\nbeats 1\nsnare 4\nbar 1\nrepeat bar", "can't repeat the pick-up"),
            (
                "bar 1\nsnare 2\nbar 2\nmeter 3/4\nrepeat bar",
                "in 3/4, the bar it repeats in 4/4",
            ),
            ("bar 1\nsnare 2\nbar 2\nrepeat bar\nkick 1", "take the sign away, or the notes"),
            ("bar 1\nsnare 2\nbar 2\nrepeat 4 bars", "write: repeat bar, or repeat 2 bars"),
        ):
            with self.subTest(text), self.assertRaises(ChartError) as raised:
                read_chart(text)
            self.assertIn(said, str(raised.exception))


class SlashesAndRests(unittest.TestCase):
    def test_slashes_go_on_with_the_groove_before_them(self):
        bars = make_chart("bar 1\nhat 8ths\nsnare 2 4\nbar 2\nsnare 1\nslashes 3").bars
        self.assertEqual(
            [(hit.at, hit.drum) for hit in bars[1].hits if hit.drum is Drum.SNARE],
            [(0, Drum.SNARE), (3, Drum.SNARE)],
        )

    def test_slashes_of_ones_own_groove_stay(self):
        bars = make_chart("bar 1\nhat 8ths\nbar 2\nride 8ths\nbar 3 as 1\nslashes 1").bars
        self.assertEqual(bars[2].hits, bars[0].hits)

    def test_rests_in_a_row_are_one_until_something_stands_at_them(self):
        chart = make_chart("bar 1\nsnare 1\nbars 2-4 rest\nbar 5\nsection B\nbar 6 rest")
        self.assertEqual(rest_runs(chart.bars), ((0, 0), (1, 3), (4, 5)))

    def test_the_page_shows_shorthand_and_the_lesson_the_notes(self):
        text = "bar 1\nhat 8ths\nbar 2 repeat\nbar 3\nrepeat 2 bars\nbar 4\nrepeat 2 bars\n"
        text += "bars 5-8 rest\nbar 9 slashes\nbar 10 as 1\nslashes 1"
        scored = [Scored(bar) for bar in make_chart(text).bars]
        page = write_mei(scored, Layout(counts=False, shorthand=True))
        for sign, times in (("<mRpt ", 1), ("<mRpt2", 1), ('<multiRest num="4"', 1)):
            self.assertEqual(page.count(sign), times, sign)
        self.assertEqual(page.count('head.shape="slash"'), 2 * 4)
        out = write_mei(scored, Layout(counts=False))
        self.assertNotIn("mRpt", out)
        self.assertIn("in style", out)


class TiesAndGroups(unittest.TestCase):
    def test_a_roll_goes_on_over_the_bar_line(self):
        chart = make_chart("bar 1\nsnare buzz 3-tied\nbar 2\nsnare buzz 1-3, 3")
        self.assertTrue(chart.bars[0].hits[0].roll.tied)
        page = write_mei([Scored(bar) for bar in chart.bars], Layout(counts=False))
        self.assertIn('<tie startid="#note_b0h0" endid="#note_b1h0"', page)

    def test_a_tie_without_a_roll_to_go_on_with_is_named(self):
        with self.assertRaisesRegex(ChartError, "bar 1: the tied roll must go on"):
            read_chart("bar 1\nsnare buzz 3-tied\nbar 2\nsnare 1")

    def test_groups_of_ones_own_make_the_beats(self):
        meter = Meter.parse("3+2+2/8")
        self.assertEqual(meter.groups, (Fraction(3, 2), 1, 1))
        self.assertEqual(str(meter), "3+2+2/8")
        self.assertEqual(Meter.parse("2+2+3/8"), Meter(7, 8))  # the usual way has no name

    def test_groups_that_cannot_be_are_named(self):
        for text, said in (
            ("3+2/4", "only metres over 8 or 16 are grouped"),
            ("9+2/8", "groups of 1 to 6 counts"),
            ("3++2/8", "write it like 4/4, 6/8 or 3+2+2/8"),
        ):
            with self.subTest(text), self.assertRaises(ChartError) as raised:
                Meter.parse(text)
            self.assertIn(said, str(raised.exception))


class Kept(unittest.TestCase):
    TEXT = "bar 1\nnote palm down on the hat\nhat 8ths\nsnare buzz 4-tied\nbar 2\n"
    TEXT += "snare buzz 1-end\nbar 3 repeat\nbar 4\nmeter 3+2+2/8\nhat 8ths\nslashes 4"

    def test_typed_again_it_is_the_same(self):
        chart = make_chart(self.TEXT)
        self.assertEqual(read_chart(write_chart(chart)), chart)

    def test_stored_again_it_is_the_same(self):
        for bar in make_chart(self.TEXT).bars:
            self.assertEqual(bar_from_json(bar_to_json(bar)), bar)

    def test_bars_stored_before_there_were_signs_are_read(self):
        data = bar_to_json(make_chart("bar 1\nsnare buzz 1-end").bars[0])
        for name in ("again", "crash_again", "note"):
            del data[name]
        del data["hits"][0]["roll"]["tied"]
        self.assertEqual(bar_from_json(data).again, 0)
