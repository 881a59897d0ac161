"""Variations over bars: what is said is done, and what is not named stays."""

from fractions import Fraction
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from wren_ladder.drumming.chart import ChartError, Drum, Meter
from wren_ladder.drumming.notation.counts import read_bar, write_bar
from wren_ladder.drumming.workshop.fills import Dynamic, Fill, Length, Orchestration
from wren_ladder.drumming.workshop.grooves import Groove
from wren_ladder.drumming.workshop.patterns import KICKS, Hands, places
from wren_ladder.drumming.workshop.variations import (
    KICKS_BY_CODE,
    VARIATIONS,
    ending_in,
    varied,
)

FOUR = Meter(4, 4)
BEAT = "hat 8ths\nsnare 2 4, ghost 2a\nkick 1 3"
STILL = Fill(Length.HALF, ("two quavers", "crotchet"), Orchestration.DOWN, Dynamic.LEVEL)


def bar(text=BEAT, meter=FOUR):
    return read_bar(text, "7", meter)


def typed(code, text=BEAT, meter=FOUR):
    return write_bar(varied(bar(text, meter), code), meter)


class Variations(TestCase):
    def test_each_does_what_it_says(self):
        """Common practice, no source."""
        for code, there, gone in (
            ("ride", "ride 8ths", "hat"),
            ("opened", "hat 8ths, open 1& 2& 3& 4&", "ride"),
            ("foot-even", "foot 2 4", "foot 1"),
            ("foot-all", "foot quarters", "ride"),
            ("foot-off", "foot offbeats", "foot 1 2"),
            ("down", "high 2 4", "snare"),
            ("up", "floor 2 4", "snare"),
            ("kick-1-2n-3", "kick 1 2& 3", "kick 1 3"),
        ):
            with self.subTest(code):
                self.assertIn(there, typed(code))
                self.assertNotIn(gone, typed(code))

    def test_the_bell_is_on_the_beats_and_the_ride_between(self):
        strokes = {hit.at: hit.drum for hit in varied(bar(), "bell").hits if hit.drum.surface
                   is Drum.RIDE.surface}  # fmt: skip
        beats = {at for at, drum in strokes.items() if drum is Drum.RIDE_BELL}
        self.assertEqual(beats, {Fraction(n) for n in range(4)})
        self.assertEqual(len(strokes), 8)

    def test_there_and_back_is_the_same_bar(self):
        for there, back in (("ride", "hat"), ("opened", "closed"), ("down", "up"),
                            ("foot-all", "foot-none")):  # fmt: skip
            with self.subTest(there):
                self.assertEqual(varied(varied(bar(), there), back), bar())

    def test_a_foot_under_an_open_hat_is_told_with_bar_and_beat(self):
        with self.assertRaisesRegex(ChartError, "open on 2&"):
            varied(bar("hat 8ths, open 2&"), "foot-off")

    def test_kicks_and_fills_are_for_four(self):
        waltz = bar("hat 8ths\nkick 1", Meter(3, 4))
        for act in (lambda: varied(waltz, "kick-1-3"), lambda: ending_in(waltz, STILL)):
            with self.assertRaisesRegex(ChartError, "3/4"):
                act()
        self.assertIn("foot 2", typed("foot-even", "hat 8ths", Meter(3, 4)))

    def test_what_is_no_variation_is_told(self):
        with self.assertRaisesRegex(ChartError, "no variation"):
            varied(bar(), "kick-9")

    def test_a_fill_keeps_the_bar_as_far_as_it_begins(self):
        made = ending_in(bar(), STILL)
        before = [hit for hit in bar().hits if hit.at < 2]
        self.assertEqual([hit for hit in made.hits if hit.at < 2], before)
        onsets = [hit.at for hit in made.hits if hit.at >= 2]
        self.assertEqual(onsets, [2, Fraction(5, 2), 3])

    @given(st.sampled_from(Hands), st.sampled_from(KICKS), st.sampled_from(sorted(VARIATIONS)))
    def test_no_variation_touches_the_kick_and_none_loses_the_backbeat(self, hands, kick, code):
        groove = Groove(hands, kick).bar
        try:
            made = varied(groove, code)
        except ChartError as told:
            self.assertIn("open", str(told))
            return
        kicks = [hit.at for hit in made.hits if hit.drum is Drum.KICK]
        self.assertEqual(tuple(kicks), kick.places)
        strokes = [hit.at for hit in made.hits if hit.drum in (
            Drum.SNARE, Drum.TOM_HIGH, Drum.TOM_FLOOR)]  # fmt: skip
        self.assertEqual(tuple(strokes), places("2 4"))

    def test_every_kick_is_put_under(self):
        for code, kick in KICKS_BY_CODE.items():
            made = varied(bar(), code)
            kicks = tuple(hit.at for hit in made.hits if hit.drum is Drum.KICK)
            self.assertEqual(kicks, kick.places)
