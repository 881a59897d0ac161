"""Halves, the next bar's first note, and layers of a bar."""

import unittest

from hypothesis import given

from tests.builders import make_bar
from tests.strategies import bars
from wren_ladder.drumming.counting import count_bar
from wren_ladder.drumming.parts import Layer, first_half, first_note, layer_of, second_half


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


class Layers(unittest.TestCase):
    def test_each_layer_has_what_the_one_before_has(self):
        bar = make_bar("snare 1, accent flam 2, ghost 3, roll 7 4-end")
        rhythm, accents, all_of_it = (layer_of(bar, layer) for layer in Layer)
        self.assertEqual({hit.touch for hit in rhythm.hits}, {"normal"})
        self.assertEqual({hit.touch for hit in accents.hits}, {"normal", "accent", "ghost"})
        self.assertFalse(any(hit.grace.notes or hit.roll for hit in accents.hits))
        self.assertEqual(all_of_it, bar)

    @given(bars())
    def test_no_layer_loses_a_note(self, bar):
        for layer in Layer:
            self.assertEqual(
                [(hit.at, hit.drum) for hit in layer_of(bar, layer).hits],
                [(hit.at, hit.drum) for hit in bar.hits],
            )
