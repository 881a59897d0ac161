"""Layers, isolations and the pad: what must hold of any bar. Common practice, no source."""

import unittest
from fractions import Fraction
from itertools import pairwise

from hypothesis import given

from tests.builders import make_bar
from tests.strategies import bars
from wren_ladder.drumming.building.layers import (
    LayerCode,
    in_layer,
    isolations,
    layers,
    limb_pairs,
    within,
)
from wren_ladder.drumming.building.pad import note_by_note, on_the_pad, to_the_kit
from wren_ladder.drumming.chart import Bar, Drum, Grace, Touch
from wren_ladder.drumming.hands import stick_bar


def names(bar: Bar) -> list[str]:
    return [layer.name for layer in layers(bar)]


class LimbPairs(unittest.TestCase):
    def test_a_groove_comes_apart_in_twos(self):
        bar = make_bar("hat 8ths\nsnare 2 4, ghost 2a\nkick 1 3 3&")
        found = {
            pair.code.value: {hit.drum for hit in pair.bar.hits} for pair in limb_pairs(bar)
        }
        self.assertEqual(
            found,
            {
                "hands": {Drum.HIHAT, Drum.SNARE},
                "cymbal-kick": {Drum.HIHAT, Drum.KICK},
                "kick-hand": {Drum.SNARE, Drum.KICK},
            },
        )

    def test_what_has_no_cymbal_has_its_hands_and_what_has_no_feet_nothing(self):
        codes = [pair.code for pair in limb_pairs(make_bar("snare 1 2 3 4\nkick 1"))]
        self.assertEqual(codes, [LayerCode.HANDS])
        self.assertEqual(limb_pairs(make_bar("snare 16ths")), ())

    @given(bars())
    def test_a_pair_is_some_of_the_bars_own_strokes_and_read_again_by_its_code(self, bar):
        for pair in limb_pairs(bar):
            self.assertTrue(pair.bar.hits)
            self.assertLess(set(pair.bar.hits), set(bar.hits))
            if pair.code is not LayerCode.HANDS:  # which may be a layer, plainer than that
                self.assertEqual(in_layer(bar, pair.code).hits, pair.bar.hits)


class Stacks(unittest.TestCase):
    @given(bars())
    def test_the_last_is_the_bar_and_each_is_within_the_next(self, bar):
        stack = layers(bar)
        self.assertEqual(stack[-1].bar, bar)
        built = [layer for layer in stack if layer.code is not LayerCode.FILL]
        for lower, upper in pairwise(built):
            self.assertTrue(within(lower.bar, upper.bar), (lower.name, upper.name))
            self.assertNotEqual(lower.bar.hits, upper.bar.hits)

    def test_a_part_with_more_is_not_within(self):
        bar = make_bar("snare 1 2\nkick 1")
        for lines in ("snare 1 2 3", "snare accent 1", "snare flam 1", "floor 1"):
            with self.subTest(lines):
                self.assertFalse(within(make_bar(lines), bar))

    def test_a_groove_begins_with_its_cymbal(self):
        bar = make_bar("hat 8ths, open 4&\nsnare accent 2 4, ghost 2a\nkick 1 3")
        self.assertEqual(
            names(bar),
            ["cymbal pulse", "+ feet", "+ backbeat, plain", "+ open hats", "everything"],
        )
        pulse, feet, plain, *_ = (layer.bar for layer in layers(bar))
        self.assertNotIn(Drum.HIHAT_OPEN, {hit.drum for hit in plain.hits})
        self.assertNotIn(Fraction(7, 4), {hit.at for hit in plain.hits})  # no ghost yet
        self.assertEqual({hit.drum.surface for hit in pulse.hits}, {Drum.HIHAT.surface})
        self.assertEqual([h.at for h in feet.hits if h.drum is Drum.KICK], [0, 2])

    def test_ornaments_come_one_kind_at_a_time_and_rolls_last(self):
        bar = make_bar("snare flam 1, accent 1&, drag 2, roll 7 3-4, 4")
        self.assertEqual(
            names(bar),
            [
                "plain rhythm",
                "+ accents",
                "+ flams",
                "+ drags",
                "+ roll skeletons",
                "everything",
            ],
        )
        plain, accents, flams, drags, skeleton, whole = (layer.bar for layer in layers(bar))
        self.assertEqual({hit.touch for hit in plain.hits}, {Touch.NORMAL})
        self.assertIn(Touch.ACCENT, {hit.touch for hit in accents.hits})
        self.assertEqual({hit.grace for hit in flams.hits}, {Grace.NONE, Grace.FLAM})
        self.assertEqual(
            {hit.grace for hit in drags.hits}, {Grace.NONE, Grace.FLAM, Grace.DRAG}
        )
        third = Fraction(1, 3)  # a seven stroke roll is three doubled notes and its ending
        rolled = [hit.at for hit in skeleton.hits if 2 <= hit.at < 3]
        self.assertEqual(rolled, [2, 2 + third, 2 + 2 * third])
        self.assertEqual(whole, bar)

    def test_a_plain_beat_is_one_layer(self):
        self.assertEqual(names(make_bar("snare quarters")), ["everything"])

    def test_a_layer_is_a_chart(self):
        chart = layers(make_bar())[0].chart
        self.assertEqual((chart.title, len(chart.bars)), ("Bar 1, cymbal pulse", 1))


class Isolations(unittest.TestCase):
    @given(bars())
    def test_each_is_music_within_the_bar_and_no_two_are_the_same(self, bar):
        found = isolations(bar, stick_bar(bar))
        for part in found:
            self.assertTrue(part.bar.hits)
            self.assertTrue(within(part.bar, bar))
            self.assertNotEqual(part.bar.hits, bar.hits)
        self.assertEqual(len({part.bar.hits for part in found}), len(found))

    def test_the_pairs_of_a_groove(self):
        bar = make_bar()
        parts = {part.name: part.bar for part in isolations(bar, stick_bar(bar))}
        self.assertLessEqual({"hands alone", "hat and kick", "right foot alone"}, set(parts))
        drums = {hit.drum for hit in parts["kick and the other hand"].hits}
        self.assertEqual(drums, {Drum.KICK, Drum.SNARE})


class Pad(unittest.TestCase):
    @given(bars())
    def test_hands_and_kick_stay_where_they_were(self, bar):
        bar = bar.in_notes(marks=())
        pad = on_the_pad(bar, stick_bar(bar))
        self.assertLessEqual({hit.drum for hit in pad.hits}, {Drum.SNARE, Drum.KICK})
        sticks = stick_bar(bar)
        self.assertEqual(
            {hit.at for hit in pad.hits if hit.drum is Drum.SNARE},
            {stick.hit.at for stick in sticks if stick.hand},
        )
        self.assertEqual(
            {hit.at for hit in pad.hits if hit.drum is Drum.KICK},
            {hit.at for hit in bar.hits if hit.drum is Drum.KICK},
        )

    def test_the_move_to_the_kit_names_its_exceptions(self):
        bar = make_bar("hat 8ths 1-3\nsnare 2 4 4&\nkick 1 3")
        self.assertEqual(
            to_the_kit(bar, stick_bar(bar)),
            (
                "right hand to the hat",
                "left hand to the snare",
                "right hand to the snare on 4",
                "both hands together on 2",
            ),
        )

    def test_note_by_note_names_what_sounds_together(self):
        bar = make_bar("hat 1, open 1&, 2\nsnare 2\nkick 1")
        self.assertEqual(
            note_by_note(bar, stick_bar(bar)),
            (
                "1: hat and kick together",
                "1&: the hat opens",
                "2: snare; the hat closes, stick and foot as one",
            ),
        )

    def test_hands_are_named_where_no_groove_settles_them(self):
        bar = make_bar("snare flam 1, ghost 1&")
        self.assertEqual(
            note_by_note(bar, stick_bar(bar)),
            ("1: flam snare (right hand)", "1&: ghost snare (left hand)"),
        )
