"""Twins, figures, trouble, and the study that holds them."""

import unittest
from fractions import Fraction

from hypothesis import given, settings

from tests.builders import make_chart, study_bar
from tests.strategies import charts
from wren_ladder.drumming.chart import Tempo
from wren_ladder.drumming.description.figures import name_figure, names_for
from wren_ladder.drumming.description.twins import twins
from wren_ladder.drumming.findings import watch_for
from wren_ladder.drumming.findings.playing import playing_findings
from wren_ladder.drumming.grades import FIGURES
from wren_ladder.drumming.study import study, study_to_json
from wren_ladder.drumming.style import HOUSE, Style

QUARTER, THIRD = Fraction(1, 4), Fraction(1, 3)


def watched(studied, tempo, style=HOUSE) -> tuple[str, ...]:
    return watch_for(playing_findings(studied.bar, studied.sticks, tempo, style))


class Twins(unittest.TestCase):
    def test_equal_bars_are_the_first_of_them_again(self):
        chart = make_chart("bar 1\nhat 8ths\nbar 2\nsnare 2\nbar 3 as 1\nbar 4 as 2")
        self.assertEqual(twins(chart.bars), (0, 1, 0, 1))

    def test_marks_do_not_make_a_bar_new_but_music_does(self):
        chart = make_chart(
            "bar 1\nhat 8ths\nbar 2 as 1\nsection B\nrepeat end 2\nbar 3 as 1\nhat 8ths, open 4"
        )
        self.assertEqual(twins(chart.bars), (0, 0, 2))


class Figures(unittest.TestCase):
    """Names of note values: common practice, no source."""

    def test_what_fills_a_beat_has_its_name(self):
        for places, unit, name in (
            ([0], QUARTER, "crotchet"),
            ([0, 3], QUARTER, "dotted quaver + semiquaver"),
            ([0, 1, 3], QUARTER, "semiquaver–quaver–semiquaver"),
            ([1, 2, 3], QUARTER, "semiquaver rest + three"),
            ([0, 1, 2], THIRD, "triplet"),
            ([], QUARTER, "rest"),
            ([0, 1], Fraction(1, 5), "two uneven notes"),
            ([0, 1, 2, 3, 4], Fraction(1, 5), "five in a beat"),
        ):
            with self.subTest(name):
                onsets = {place * unit for place in places}
                self.assertEqual(name_figure(onsets, Fraction(1)), name)

    def test_a_figure_is_told_by_its_length_and_not_by_its_share_of_the_beat(self):
        half, minim, compound = Fraction(1, 2), Fraction(2), Fraction(3, 2)
        for onsets, length, name in (
            ((0, Fraction(1, 4)), half, "two semiquavers"),
            ((0,), half, "quaver"),
            ((0, 1), minim, "two crotchets"),
            ((0, half, 1, compound), minim, "four quavers"),
            ((0, compound), minim, "dotted crotchet + quaver"),
            ((0, half, Fraction(3, 4), 1), compound, "quaver + two semiquavers + quaver"),
            ((0, Fraction(1, 4), half, 1), compound, "two semiquavers + two quavers"),
            (tuple(Fraction(n, 6) for n in range(6)), Fraction(1), "sextuplet"),
        ):
            with self.subTest(name):
                self.assertEqual(name_figure(set(onsets), length), name)

    def test_a_dotted_crotchet_is_one_and_no_off_beat_quaver(self):
        self.assertEqual(
            study_bar("snare 1 2& 3 4").figures, ("dotted crotchet + quaver", "crotchet")
        )
        self.assertIn("off-beat quaver", study_bar("snare 1& 2 3 4").figures)

    def test_every_figure_of_the_tables_has_a_grade(self):
        lengths = (Fraction(1, 2), Fraction(1), Fraction(3, 2), Fraction(2))
        names = {name for length in lengths for name in names_for(length)}
        alone = {"triplet, middle alone", "triplet, last alone"}
        self.assertEqual(names - alone - set(FIGURES), set())

    def test_hands_and_feet_are_taken_together_each_figure_once(self):
        studied = study_bar("hat 8ths\nsnare 2 4\nkick 1 3a")
        expected = ("two quavers", "quaver + two semiquavers")
        self.assertEqual(studied.figures, expected)


class Trouble(unittest.TestCase):
    """Each fault of a bar is a sentence; common practice, no source."""

    def test_a_plain_groove_holds_no_surprise(self):
        self.assertEqual(study_bar("hat 8ths\nsnare 2 4\nkick 1 3").trouble, ())

    def test_what_is_hard_is_named(self):
        for lines, said in (
            ("snare flam 1, drag 3", "flams and drags"),
            ("snare roll 7 3-4, 4", "a 7-stroke roll on 3, 6 strokes a second"),
            (
                "snare accent 2, ghost 2e\nhands L L",
                "accent 2 beside ghost 2e in the left hand",
            ),
            ("hat 8ths, open 1&", "the hat closes as it is struck, on 2"),
            ("hat 8ths\nkick 1 2e", "kick between the hands on 2e"),
            ("hat 8ths\nkick 3 3+1/8", "two quick kicks, 3 and 3+1/8, 8.0 a second (limit 5)"),
        ):
            with self.subTest(said):
                self.assertIn(said, study_bar(lines).trouble)

    def test_a_fast_hand_is_measured_against_the_limit(self):
        # One hand in semiquavers: at crotchet = 60 four a second, at 120 eight.
        bar = study_bar("snare 16ths\nhands " + "R" * 16)
        slow, fast = (Tempo(Fraction(1), bpm) for bpm in (60, 120))
        self.assertEqual(watched(bar, slow), ())
        self.assertEqual(
            watched(bar, fast),
            ("right hand at 8.0 strokes a second (limit 6)",),
        )
        strong = Style(hand_limit=9)
        self.assertEqual(watched(bar, fast, strong), ())

    def test_a_double_bounces_and_is_not_counted_as_two_singles(self):
        bar = study_bar("snare 16ths\nhands RLRRLRLLRLRRLRLL")
        self.assertEqual(watched(bar, Tempo(Fraction(1), 120)), ())


class Studies(unittest.TestCase):
    def test_the_json_has_the_promised_shape(self):
        chart = make_chart(
            "title Quay\ntempo crotchet = 120\nbar 1\nhat 8ths\nsnare flam 2\nkick 1\n"
            "bar 2 as 1\nrepeat end 2"
        )
        found = study_to_json(study(chart))
        self.assertEqual(found["title"], "Quay")
        self.assertEqual(found["play_order"], ["1", "2", "1", "2"])
        self.assertEqual(found["seconds"], 8)
        self.assertEqual(found["warnings"], [])
        first, second = found["bars"]
        self.assertEqual((first["twin_of"], second["twin_of"]), (None, "1"))
        self.assertEqual(first["meter"], "4/4")
        snare = next(hit for hit in first["hits"] if hit["drum"] == "snare")
        expected = {"at": "1", "touch": "normal", "grace": "flam", "roll": None, "hand": "L"}
        self.assertEqual(snare, {"drum": "snare", **expected})
        kick = next(hit for hit in first["hits"] if hit["drum"] == "kick")
        self.assertIsNone(kick["hand"])
        self.assertEqual(first["counts"][1], {"at": "1/2", "say": "&", "silent": False})

    def test_an_equal_bar_at_another_number_keeps_its_own_marks(self):
        chart = make_chart("bar 1\nhat 8ths\nbar 2 as 1\nsection B Ride")
        studied = study(chart)
        self.assertEqual(studied.bars[1].bar.section, "B Ride")
        self.assertEqual(studied.bars[1].counts, studied.bars[0].counts)

    @settings(max_examples=60)
    @given(charts())
    def test_any_chart_can_be_studied(self, chart):
        studied = study(chart)
        self.assertEqual([bar.bar for bar in studied.bars], list(chart.bars))
        self.assertGreater(studied.seconds, 0)
