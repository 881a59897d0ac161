"""Two versions of a piece side by side."""

import unittest

from hypothesis import given, settings

from tests.strategies import charts
from wren_ladder.drumming.description.compared import BarChange, compare_pages
from wren_ladder.drumming.notation.counts import read_chart

PAGE = "bar {0}\nhat 8ths\nsnare 2 4\nkick 1 3"


def bars(*texts: str):
    return read_chart("\n".join(text.format(n) for n, text in enumerate(texts, 1))).bars


class Compared(unittest.TestCase):
    def test_a_bar_that_changed_is_said_with_its_new_notes(self):
        (one,) = compare_pages(bars(PAGE, PAGE, PAGE), bars(PAGE, PAGE + " 3&", PAGE))
        self.assertEqual((one.number, one.change, one.index), ("2", BarChange.CHANGED, 1))
        self.assertEqual(one.said, "with the kick on 3&")
        self.assertEqual(len(one.places), 1)

    def test_a_bar_put_in_moves_the_others_and_changes_none_of_them(self):
        other = "bar {0}\ncrash 1"
        before = bars(PAGE, PAGE + " 4&", PAGE)
        (one,) = compare_pages(before, bars(PAGE, other, PAGE + " 4&", PAGE))
        self.assertEqual((one.number, one.change), ("2", BarChange.ADDED))
        (one,) = compare_pages(bars(PAGE, other, PAGE + " 4&", PAGE), before)
        self.assertEqual((one.number, one.change, one.index), ("2", BarChange.GONE, None))

    def test_another_metre(self):
        (one,) = compare_pages(bars(PAGE), bars("meter 3/4\nbar {0}\nhat 8ths"))
        self.assertIn("is in 3/4, not 4/4", one.said)

    @settings(max_examples=60)
    @given(charts(most=4), charts(most=4))
    def test_nothing_differs_from_itself_and_all_bars_are_accounted_for(self, one, other):
        self.assertEqual(compare_pages(one.bars, one.bars), ())
        found = compare_pages(one.bars, other.bars)
        more = sum(change.change is BarChange.ADDED for change in found)
        fewer = sum(change.change is BarChange.GONE for change in found)
        self.assertEqual(len(one.bars) - fewer + more, len(other.bars))


if __name__ == "__main__":
    unittest.main()
