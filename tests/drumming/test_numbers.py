"""Numbers as people and files write them."""

import io
import unittest
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from tests.builders import make_bar
from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.numbers import RATIO, read_ratio, read_whole


class WholeNumbers(unittest.TestCase):
    def test_plain_digits_within_bounds(self):
        self.assertEqual(read_whole("12"), 12)
        self.assertEqual(read_whole("12", 1, 12), 12)
        self.assertIsNone(read_whole("13", 1, 12))

    def test_what_only_looks_like_a_number_is_none(self):
        for text in ("", None, "²", "٣", "1.0", "-1", " 1", "1e3", "1_000", "9" * 400):
            with self.subTest(text):
                self.assertIsNone(read_whole(text))


class Ratios(unittest.TestCase):
    def test_fractions_and_decimals_are_exact(self):
        found = [read_ratio(text) for text in ("3/4", "1.5", " 2 ", "-1/2")]
        self.assertEqual(found, [Fraction(3, 4), Fraction(3, 2), 2, Fraction(-1, 2)])

    def test_what_would_take_minutes_or_divide_by_nothing_is_none(self):
        for text in ("1e3000000", "1/0", "nan", "inf", "²", "1/2/3", "9" * 10, ""):
            with self.subTest(text):
                self.assertIsNone(read_ratio(text))

    @given(st.from_regex(RATIO, fullmatch=True))
    def test_as_the_standard_library_reads_them(self, text):
        found = read_ratio(text)
        if found is None:
            self.assertRaises(ZeroDivisionError, Fraction, text)
        else:
            self.assertEqual((found, str(found), hash(found)), _all_of(Fraction(text)))

    def test_one_figure_leaves_the_interpreters_zero_alone(self):
        """quicktions 1.24 writes a text of one character into the shared ``b"\\0"``: a MIDI
        file read afterwards had a 55 for every 0."""
        self.assertEqual(read_ratio("7"), 7)
        self.assertEqual(ord(io.BytesIO(b"a\0").read()[1:]), 0)


def _all_of(number: Fraction) -> tuple[Fraction, str, int]:
    return number, str(number), hash(number)


class Typed(unittest.TestCase):
    def test_a_raised_two_in_a_typed_bar_is_told_and_no_crash(self):
        for line in ("snare ²", "kick roll ² 1", "hat 8ths ²-3", "cresc 1 for ²", "beats ²"):
            with self.subTest(line), self.assertRaises(ChartError):
                make_bar(line)

    def test_an_enormous_exponent_is_told_at_once(self):
        for line in ("beats 1e3000000", "cresc 1 for 1e3000000"):
            with self.subTest(line), self.assertRaises(ChartError):
                make_bar(line)

    def test_a_raised_two_as_a_bars_number_is_a_name_like_any_other(self):
        self.assertEqual(read_chart("bar ²\nkick 1").bars[0].number, "²")


if __name__ == "__main__":
    unittest.main()
