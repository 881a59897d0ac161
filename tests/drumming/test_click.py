"""Where the click falls, by its pattern; which crash is not played again."""

import unittest
from fractions import Fraction

from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.performance import perform
from wren_ladder.drumming.performance.looped import instead_of_the_crash
from wren_ladder.drumming.performance.pulse import ClickPattern, bar_pulses, pulses
from wren_ladder.drumming.performance.voice import voice_of
from wren_ladder.drumming.study import study


def bar_of(text: str):
    return read_chart(f"{text}\n", title="Clicked").bars[0]


class Patterns(unittest.TestCase):
    def clicks(self, meter: str, pattern: ClickPattern) -> list:
        found = bar_pulses(bar_of(f"meter {meter}\nkick 1").beats)
        return [at for at, patterns in sorted(found.items()) if pattern in patterns]

    def test_in_four(self):
        quarters = [Fraction(n, 4) for n in range(16)]
        for pattern, expected in (
            (ClickPattern.BEATS, [0, 1, 2, 3]),
            (ClickPattern.ONES, [0]),
            (ClickPattern.BACKBEATS, [1, 3]),
            (ClickPattern.OFF_BEATS, quarters[2::4]),
            (ClickPattern.QUAVERS, quarters[::2]),
            (ClickPattern.SEMIQUAVERS, quarters),
            (ClickPattern.TRIPLETS, [Fraction(n, 3) for n in range(12)]),
        ):
            with self.subTest(pattern.value):
                self.assertEqual(self.clicks("4/4", pattern), expected)

    def test_in_compound_time_the_main_beats_or_the_quavers(self):
        halves = [Fraction(n, 2) for n in range(6)]
        self.assertEqual(self.clicks("6/8", ClickPattern.BEATS), [0, Fraction(3, 2)])
        self.assertEqual(self.clicks("6/8", ClickPattern.QUAVERS), halves)
        self.assertEqual(self.clicks("6/8", ClickPattern.TRIPLETS), halves)
        self.assertEqual(self.clicks("6/8", ClickPattern.OFF_BEATS), [1, Fraction(5, 2)])

    def test_beats_of_different_lengths(self):
        self.assertEqual(self.clicks("7/8", ClickPattern.BEATS), [0, 1, 2])
        halves = [Fraction(n, 2) for n in range(7)]
        self.assertEqual(self.clicks("7/8", ClickPattern.QUAVERS), halves)

    def test_it_swings_and_follows_the_tempo(self):
        text = "meter 4/4\ntempo crotchet = 60\nswing\nride 8ths\n"
        road = study(read_chart(text, title="Swung")).road
        found = pulses(road, perform(road))
        off = [one.at for one in found if ClickPattern.OFF_BEATS in one.patterns]
        for at, expected in zip(off, (2 / 3, 5 / 3, 8 / 3, 11 / 3), strict=True):
            self.assertAlmostEqual(at, expected)
        beats = [one.at for one in found if ClickPattern.BEATS in one.patterns]
        self.assertEqual(beats, [one.at for one in perform(road).clicks])


class Loops(unittest.TestCase):
    def test_the_crash_of_a_section_becomes_the_cymbal_that_keeps_time(self):
        bar = bar_of("meter 4/4\ncrash 1\nride 1& 2 2& 3 3& 4 4&\nkick 1")
        place = next(n for n, hit in enumerate(bar.hits) if hit.drum is Drum.CRASH)
        self.assertEqual(instead_of_the_crash(bar), {place: Drum.RIDE})

    def test_where_the_crash_is_the_music_it_stays(self):
        for text in ("crash 1 2 3 4", "crash 1\nsnare 2 3 4", "hat 8ths"):
            with self.subTest(text):
                self.assertEqual(instead_of_the_crash(bar_of(f"meter 4/4\n{text}")), {})


class Voices(unittest.TestCase):
    def test_softer_is_duller_for_every_drum_and_only_hats_choke(self):
        for drum in Drum:
            soft, loud = voice_of(drum, 0.28), voice_of(drum, 0.85)
            self.assertLess(soft.gain, loud.gain)
            self.assertLess(soft.cutoff, loud.cutoff)
            self.assertEqual(bool(loud.chokes), drum.value.startswith("hihat"))
