"""The count by numbers. Common practice, no source."""

import unittest

from hypothesis import given

from tests.builders import make_bar
from tests.strategies import bars
from wren_ladder.drumming.counting import count_bar


def said(lines: str, meter: str = "4/4", number: str = "1") -> str:
    """The count, silent syllables in brackets."""
    counts = count_bar(make_bar(lines, meter, number))
    return " ".join(f"({c.say})" if c.silent else c.say for c in counts)


class Counting(unittest.TestCase):
    def test_quavers_are_counted_in_halves(self):
        self.assertEqual(said("hat 8ths"), "1 & 2 & 3 & 4 &")

    def test_silent_positions_are_counted_and_marked(self):
        self.assertEqual(said("snare 2 4"), "(1) (&) 2 (&) (3) (&) 4 (&)")

    def test_one_semiquaver_makes_the_whole_bar_counted_in_quarters(self):
        expected = "1 (e) (&) (a) 2 (e) (&) a (3) (e) (&) (a) (4) (e) (&) (a)"
        self.assertEqual(said("snare 1 2 2a"), expected)

    def test_triplet_beats_are_counted_in_thirds_beside_plain_ones(self):
        self.assertEqual(said("snare 1 1t 1l 2", "2/4"), "1 trip let 2 (&)")
        self.assertEqual(said("hat 1 1l", "2/4"), "1 (trip) let (2) (&)")

    def test_thirds_and_quarters_in_one_beat_are_all_said(self):
        self.assertEqual(said("hat 1*\nsnare 1t", "1/4"), "1 e trip & (let) a")

    def test_over_eight_every_quaver_has_its_number(self):
        self.assertEqual(said("hat 8ths", "6/8"), "1 2 3 4 5 6")
        self.assertEqual(said("hat 1 4&", "6/8"), "1 (&) (2) (&) (3) (&) (4) & (5) (&) (6) (&)")

    def test_five_eight_is_counted_to_five(self):
        self.assertEqual(said("hat 8ths", "5/8"), "1 2 3 4 5")

    def test_a_pick_up_takes_the_last_numbers(self):
        self.assertEqual(said("beats 1\nsnare 4 4&", number="0"), "4 &")

    def test_rests_are_counted_too(self):
        self.assertEqual(said("", "3/4"), "(1) (&) (2) (&) (3) (&)")

    @given(bars())
    def test_every_hit_has_a_syllable_and_time_only_goes_on(self, bar):
        counts = count_bar(bar)
        times = [count.at for count in counts]
        self.assertEqual(times, sorted(set(times)))
        self.assertTrue(all(0 <= at < bar.length for at in times))
        struck = {count.at for count in counts if not count.silent}
        self.assertEqual(struck, {hit.at for hit in bar.hits})
