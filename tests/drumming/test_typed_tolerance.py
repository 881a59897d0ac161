"""One wrong word hides nothing else."""

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.notation.counts.tolerant import read_what_can_be


class Tolerance(unittest.TestCase):
    def check(self, text: str, like: str, *said: str) -> None:
        typed = read_what_can_be(text)
        self.assertEqual(typed.chart, read_chart(like))
        self.assertEqual([str(error) for error in typed.errors], list(said))

    def test_a_wrong_word_takes_its_line_and_nothing_else(self):
        self.check(
            "bar 1\nhat 8ths\nsnarre 2 4\nkick 1 3\nbar 2 as 1\nkick 1 2q\nbar 3\nsnare 1",
            "bar 1\nhat 8ths\nkick 1 3\nbar 2 as 1\nbar 3\nsnare 1",
            "line 3: 'snarre' is not known; did you mean snare?",
            "line 6, bar 2: '2q' is no position; write 2, 2&, 2e, 2a or 2e&a",
        )

    def test_a_wrong_heading_takes_its_bar_and_not_the_one_before(self):
        self.check(
            "bar 1\nkick 1\nbar 1\nsnare 2\nbar 2\nkick 3",
            "bar 1\nkick 1\nbar 2\nkick 3",
            "line 3, bar 1: bar 1 is there already",
        )
        self.check(
            "bar 1\nkick 1\nbar 2 as 7\nsnare 2\nbar 3 as 1",
            "bar 1\nkick 1\nbar 3 as 1",
            "line 3: bar 7 has not been typed yet",
        )

    def test_what_is_wrong_with_a_bar_as_a_whole_leaves_its_place(self):
        text = "bar 1\nhat 8ths\nsnare 1, roll 1-3\nhands R L\nbar 2\nkick 1"
        typed = read_what_can_be(text)
        self.assertEqual([bar.number for bar in typed.chart.bars], ["1", "2"])
        self.assertEqual(len(typed.errors), 1)

    def test_nothing_that_can_be_read_is_told_once(self):
        typed = read_what_can_be("")
        self.assertIsNone(typed.chart)
        self.assertEqual(len(typed.errors), 1)

    @settings(max_examples=200)
    @given(st.text("bar snkhto 1234&ea,-()>;:#\nas8", max_size=80))
    def test_any_text_gives_a_chart_or_says_why_not(self, text):
        typed = read_what_can_be(text)
        self.assertTrue(typed.chart or typed.errors)
        if not typed.errors:
            self.assertEqual(typed.chart, read_chart(text))
