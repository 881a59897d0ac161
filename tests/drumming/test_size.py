"""Bars that nobody plays are refused where they come in, with the bar."""

import unittest

from tests.builders import QUAY
from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.chart.size import MOST_IN_A_BAR, MOST_IN_ALL, check_size
from wren_ladder.drumming.editing.bars import numbered, put
from wren_ladder.drumming.files import read_file
from wren_ladder.drumming.notation.counts import read_chart

HEAVY = "meter 32/2\nbar 1\n" + "\n".join(
    f"{drum} 32nds" for drum in ("hat", "snare", "kick", "high", "floor", "ride")
)


class Size(unittest.TestCase):
    def test_a_bar_that_nobody_plays_is_told_with_its_number(self):
        for read in (
            lambda: check_size(read_chart(HEAVY).bars),
            lambda: read_file("a.wren", HEAVY.encode()),
            lambda: numbered(read_chart(HEAVY).bars),
            lambda: put(read_chart(QUAY).bars, 1, read_chart(HEAVY).bars[0]),
        ):
            with self.assertRaisesRegex(
                ChartError, f"a bar has at most {MOST_IN_A_BAR}"
            ) as told:
                read()
            self.assertEqual(told.exception.bar, "1")

    def test_the_densest_bar_that_is_taught_is_taken(self):
        check_size(read_chart("meter 12/8\nbar 1\nhat 32nds\nsnare 32nds\nkick 32nds\n").bars)

    def test_a_thousand_bars_of_a_groove_are_taken_and_three_thousand_are_not(self):
        bars = read_chart("bar 1\nhat 8ths\nsnare 2 4\nkick 1 3").bars
        check_size(bars * 1000)
        with self.assertRaisesRegex(ChartError, f"more than {MOST_IN_ALL} strokes"):
            check_size(bars * 3000)
