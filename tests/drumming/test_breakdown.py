"""The bar school. Common practice, no source."""

import unittest

from hypothesis import given, settings

from tests.builders import make_chart
from tests.strategies import charts
from wren_ladder.drumming.breakdown import Step, StepKind, break_down, describe
from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.phrases import phrases
from wren_ladder.drumming.study import study

PIECE = """bar 1
section A Verse
hat 8ths
bars 2-3 as 1
bar 4
snare 8ths
bars 5-8 as 1-4
bar 9
section B End
crash 1
"""


def steps_of(text: str) -> list[tuple[str, int, int]]:
    return [
        (step.kind.value, step.first, step.last) for step in break_down(study(make_chart(text)))
    ]


class Phrases(unittest.TestCase):
    def test_four_bars_each_and_a_new_one_at_every_section(self):
        chart = make_chart(PIECE.replace("bars 5-8", "bars 5-7").replace("1-4", "1-3"))
        found = [(p.first, p.last, p.section) for p in phrases(chart.bars)]
        self.assertEqual(found, [(0, 3, "A Verse"), (4, 6, ""), (7, 7, "B End")])

    def test_a_pick_up_goes_with_the_first_phrase_and_its_section(self):
        chart = make_chart(
            "bar 0\nbeats 1\nsnare 4\nbar 1\nsection A Verse\nhat 8ths\nbars 2-5 as 1"
        )
        found = [(phrase.first, phrase.last, phrase.section) for phrase in phrases(chart.bars)]
        self.assertEqual(found, [(0, 4, "A Verse"), (5, 5, "")])

    @given(charts(most=12))
    def test_every_bar_is_in_exactly_one_phrase(self, chart):
        covered = [i for p in phrases(chart.bars) for i in range(p.first, p.last + 1)]
        self.assertEqual(covered, list(range(len(chart.bars))))


class BarSchool(unittest.TestCase):
    def test_new_bars_then_new_joins_then_new_phrases_then_the_whole(self):
        expected = [
            ("bar", 0, 0),
            ("bar", 3, 3),
            ("bar", 8, 8),
            ("pair", 2, 3),
            ("pair", 3, 4),
            ("pair", 7, 8),
            ("phrase", 0, 3),
            ("whole", 0, 8),
        ]
        self.assertEqual(steps_of(PIECE), expected)

    def test_a_step_says_why(self):
        first, fill, _, join, *_ = break_down(study(make_chart(PIECE)))
        self.assertEqual(first.why, "learned once for 2, 3, 5, 6 and 7 too")
        self.assertEqual(fill.why, "learned once for 8 too")
        crash = break_down(study(make_chart(PIECE)))[2]
        self.assertEqual(crash.why, "a bar of its own")
        self.assertIn("the join bar to bar", join.why)

    def test_a_one_bar_groove_is_one_step(self):
        self.assertEqual(steps_of("hat 8ths"), [("bar", 0, 0)])

    def test_a_bar_of_rests_needs_no_step(self):
        self.assertEqual(
            steps_of("bar 1\nbar 2\nhat 8ths"), [("bar", 1, 1), ("pair", 0, 1), ("whole", 0, 1)]
        )

    @settings(max_examples=60)
    @given(charts(most=12))
    def test_every_bar_with_music_is_built_once(self, chart):
        studied = study(chart)
        built = [step.first for step in break_down(studied) if step.kind is StepKind.BAR]
        new = [i for i, bar in enumerate(studied.bars) if bar.twin_of is None and bar.bar.hits]
        self.assertEqual(built, new)


class Steps(unittest.TestCase):
    def test_names_are_spoken(self):
        chart = make_chart("bar 0\nbeats 1\nsnare 4\nbar 1\nhat 8ths\nbar 2\nkick 1")
        pickup, first, second = chart.bars
        for kind, start, end, section, name in (
            (StepKind.BAR, pickup, pickup, "", "Pick-up"),
            (StepKind.BAR, first, first, "A", "Bar 1"),
            (StepKind.PAIR, first, second, "", "Bars 1 to 2"),
            (StepKind.PHRASE, first, second, "A Verse", "Bars 1–2, A Verse"),
            (StepKind.WHOLE, first, second, "", "Whole piece"),
        ):
            with self.subTest(name):
                self.assertEqual(describe(kind, start, end, section), name)

    def test_a_step_runs_forward_and_is_repeated_sensibly(self):
        with self.assertRaisesRegex(ChartError, "from a bar to the same or a later one"):
            Step(StepKind.OWN, 3, 2, 4, "")
        with self.assertRaisesRegex(ChartError, "repeated 1 to 64 times"):
            Step(StepKind.OWN, 0, 0, 0, "")
