"""Halves, the next bar's first note, and a bar beat by beat."""

import unittest
from itertools import pairwise

from hypothesis import given

from tests.builders import make_bar
from tests.strategies import bars
from wren_ladder.drumming.building.parts import (
    beat_by_beat,
    first_half,
    first_note,
    second_half,
)
from wren_ladder.drumming.counting import count_bar


class Halves(unittest.TestCase):
    def said(self, bar):
        return " ".join(count.say for count in count_bar(bar) if count.main)

    def test_the_second_half_is_counted_on(self):
        bar = make_bar("hat 8ths")
        self.assertEqual(self.said(first_half(bar)), "1 2")
        self.assertEqual(self.said(second_half(bar)), "3 4")

    def test_an_uneven_bar_is_cut_at_a_beat(self):
        bar = make_bar("hat 8ths", "7/8")
        self.assertEqual((first_half(bar).length, second_half(bar).length), (2, 1.5))

    def test_a_roll_over_the_middle_ends_there(self):
        half = first_half(make_bar("snare buzz 2-end"))
        self.assertEqual(half.hits[0].roll.length, 1)

    @given(bars())
    def test_both_halves_have_every_hit_once(self, bar):
        first, second = first_half(bar), second_half(bar)
        if first.length == bar.length:
            return
        self.assertEqual(len(first.hits) + len(second.hits), len(bar.hits))
        self.assertEqual(first.length + second.length, bar.length)

    @given(bars())
    def test_the_first_note_is_what_one_lands_on(self, bar):
        self.assertTrue(all(hit.at == 0 for hit in first_note(bar).hits))


class Beats(unittest.TestCase):
    @given(bars())
    def test_each_has_all_before_it_and_is_within_the_bar(self, bar):
        parts = [part for _, part in beat_by_beat(bar)]
        for lower, upper in pairwise([*parts, bar]):
            self.assertLessEqual({h.at for h in lower.hits}, {h.at for h in upper.hits})
            self.assertEqual(lower.length, bar.length)

    def test_one_beat_more_at_a_time(self):
        found = beat_by_beat(make_bar("hat 8ths\nsnare 2 4"))
        self.assertEqual([name for name, _ in found], ["beat 1", "to beat 2", "to beat 3"])
        self.assertEqual([len(part.hits) for _, part in found], [2, 5, 7])
