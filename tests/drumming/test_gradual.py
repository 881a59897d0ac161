"""Rit. and accel.: typed, on the road map's clock, in what sounds, and out and in of files."""

import re
import unittest
from fractions import Fraction
from itertools import pairwise
from math import log

from tests.builders import make_bar, make_chart
from wren_ladder.drumming.chart import ChartError, MarkKind
from wren_ladder.drumming.chart.gradual import Gradual, lasting
from wren_ladder.drumming.notation.counts import read_chart, write_bar
from wren_ladder.drumming.notation.mei import Layout, Scored, write_mei
from wren_ladder.drumming.notation.musicxml import read_musicxml, write_musicxml
from wren_ladder.drumming.performance import perform
from wren_ladder.drumming.study import study

F = Fraction


def seconds(text: str) -> float:
    return study(make_chart(text)).seconds


class Typed(unittest.TestCase):
    def test_it_comes_back_as_it_was_typed(self):
        for typed in ("rit 3-end", "rit 1 for 8", "accel 2-4 to 120", "rit 1 for 6 to 60"):
            bar = make_bar(typed)
            with self.subTest(typed):
                self.assertEqual(write_bar(bar).splitlines()[-1], typed)
                self.assertEqual(read_chart(f"bar 1\n{write_bar(bar)}").bars[0], bar)

    def test_faults_say_what_is_right(self):
        for typed, said in (
            ("rit", "say where: rit 1-4"),
            ("rit 3", "say how far: 3-4, 3-end, or 3 for 6"),
            ("rit 3-end to", "say which tempo"),
            ("rit 3-end to 5", "a rit leads to 20 to 400 a minute: to 60"),
            ("cresc 1-4 to 60", "say which tempo a rit or an accel leads to"),
        ):
            with self.subTest(typed), self.assertRaisesRegex(ChartError, said):
                make_bar(typed)


class OnTheClock(unittest.TestCase):
    def test_the_time_is_the_sum_of_many_small_steps(self):
        """By arithmetic: an even change from 1 to 1/2 over four beats takes 8 ln 2 beats."""
        half = Gradual(F(0), F(4), F(1, 2))
        self.assertAlmostEqual(lasting(F(4), (half,)), 8 * log(2))
        steps = 10_000
        summed = sum(
            F(4, steps) / F(half.share_at(F(4) * (2 * n + 1) / (2 * steps)))
            for n in range(steps)
        )
        self.assertAlmostEqual(lasting(F(4), (half,)), float(summed), places=5)

    def test_before_and_behind_it_the_tempo_is_the_pages(self):
        middle = Gradual(F(1), F(2), F(1, 2))
        self.assertEqual(lasting(F(1), (middle,)), 1)
        self.assertAlmostEqual(lasting(F(4), (middle,)), 3 + 2 * log(2))

    def test_the_length_of_the_piece_follows(self):
        plain = "tempo crotchet = 60\nbar 1\nkick 1\nbar 2\nkick 1\nbar 3\nkick 1"
        slower = plain.replace("bar 2", "rit 1 for 8 to 30\nbar 2")
        self.assertAlmostEqual(seconds(plain), 12)
        self.assertAlmostEqual(seconds(slower), 16 * log(2) + 4)
        faster = plain.replace("bar 2", "accel 1-end to 120\nbar 2")
        self.assertAlmostEqual(seconds(faster), 4 * log(2) + 8)

    def test_without_a_tempo_said_it_leads_to_the_mark_behind_it_else_a_quarter_slower(self):
        text = "tempo crotchet = 120\nbar 1\nrit 1-end\nkick 1\nbar 2\n{}kick 1"
        chart = make_chart(text.format("tempo crotchet = 60\n"))
        self.assertEqual(chart.graduals[0], (Gradual(F(0), F(4), F(1, 2)),))
        for other in ("", "tempo crotchet = 160\n"):  # a rit. leads to no faster mark
            chart = make_chart(text.format(other))
            self.assertEqual(chart.graduals[0], (Gradual(F(0), F(4), F(3, 4)),))

    def test_what_sounds_comes_later_and_later(self):
        text = (
            "tempo crotchet = 60\nbar 1\nrit 1-end to 30\nkick quarters\nbar 2\nkick quarters"
        )
        played = perform(study(make_chart(text)).road)
        times = [onset.at for onset in played.onsets]
        gaps = [later - at for at, later in pairwise(times)]
        self.assertEqual(gaps[:4], sorted(gaps[:4]))
        self.assertAlmostEqual(times[4], 8 * log(2))
        for gap in gaps[4:]:
            self.assertAlmostEqual(gap, 1)
        self.assertEqual(
            [round(click.at, 9) for click in played.clicks], [round(at, 9) for at in times]
        )

    def test_a_midi_file_takes_it_in_small_steps(self):
        text = "tempo crotchet = 60\nbar 1\nrit 1-end to 30\nkick quarters\nbar 2\nkick 1"
        played = perform(study(make_chart(text)).road)
        marks = [*played.tempos, (F(8), None)]
        written = sum(
            float(later - at) * 60 / tempo.bpm for (at, tempo), (later, _) in pairwise(marks)
        )
        self.assertAlmostEqual(written, played.seconds, delta=0.1)


class OutAndIn(unittest.TestCase):
    def test_over_the_bar_line_it_has_one_line_of_dashes(self):
        chart = make_chart("bar 1\nrit 3 for 4\nkick 1\nbar 2\nkick 1")
        mei = write_mei([Scored(bar) for bar in chart.bars], Layout())
        self.assertIn('tstamp2="1m+3"', mei)
        self.assertEqual(mei.count(">rit.<"), 1)
        again, problems = read_musicxml(write_musicxml(chart).encode())
        self.assertEqual(again.bars, chart.bars)
        self.assertEqual(problems, ())

    def test_a_file_that_does_not_say_how_far_is_told(self):
        text = write_musicxml(make_chart("rit 3-end\nkick 1"))
        cut = re.sub(r"<direction-type><dashes[^>]*></direction-type>", "", text)
        self.assertNotIn("dashes", cut)
        chart, problems = read_musicxml(cut.encode())
        (mark,) = chart.bars[0].marks
        self.assertEqual((mark.kind, mark.at, mark.length), (MarkKind.RIT, 2, 2))
        self.assertIn("read to the end of the bar", str(problems[0]))
