"""Loudness of a file, drum by drum: equal bars that were played by hand stay equal, levels that
lie clearly apart are read, and another way is a person's choice."""

import random
import unittest

from tests.drumming.test_midi import made as midi_file
from wren_ladder.drumming.chart import Drum, Touch
from wren_ladder.drumming.notation.midi import open_midi
from wren_ladder.drumming.notation.midi.graces import Stroke
from wren_ladder.drumming.notation.midi.loudness import Loudness, touches

N, G, A, S = Touch.NORMAL, Touch.GHOST, Touch.ACCENT, Touch.STRONG
HAT, SNARE, KICK = 42, 38, 36
# (crotchets, key, how strong it is meant)
BAR = (
    *((n / 2, HAT, 78) for n in range(8)),
    (1, SNARE, 104), (3, SNARE, 104), (0, KICK, 96), (2, KICK, 96), (2.5, KICK, 96),
    (1.75, SNARE, 32), (2.25, SNARE, 32),
)  # fmt: skip
MEANT = {(7 / 4, SNARE): G, (9 / 4, SNARE): G}


def strokes(drum, *strengths):
    return [Stroke(n, 500.0 * n, drum, one) for n, one in enumerate(strengths)]


def by_hand(bars: int, spread: float, seed: int):
    dice = random.Random(seed)
    return [
        (4 * bar + at, key, min(127, max(1, round(dice.gauss(strength, spread)))))
        for bar in range(bars)
        for at, key, strength in BAR
    ]


class EqualBars(unittest.TestCase):
    def test_eight_equal_bars_played_by_hand_stay_equal(self):
        for spread in (0, 4, 8, 11):
            for seed in range(6):
                with self.subTest(spread=spread, seed=seed):
                    chart = open_midi(midi_file(by_hand(8, spread, seed))).chart
                    self.assertEqual(len(chart.bars), 8)
                    for bar in chart.bars:
                        self.assertEqual(bar.hits, chart.bars[0].hits)
                    read = {
                        (float(hit.at), SNARE): hit.touch
                        for hit in chart.bars[0].hits
                        if hit.drum is Drum.SNARE and hit.touch is not N
                    }
                    self.assertEqual(read, MEANT)

    def test_by_limits_they_would_not(self):
        data = midi_file(by_hand(8, 8, 1))
        chart = open_midi(data, taken=["limits"]).chart
        self.assertGreater(len({bar.hits for bar in chart.bars}), 1)


class Levels(unittest.TestCase):
    def test_one_velocity_is_plain_however_loud(self):
        for strength in (20, 64, 100, 127):
            for drum in (Drum.SNARE, Drum.HIHAT, Drum.KICK, Drum.CRASH):
                self.assertEqual(touches(strokes(drum, *[strength] * 12)), [N] * 12)

    def test_ghosts_beside_backbeats_and_accents_above_them(self):
        self.assertEqual(touches(strokes(Drum.SNARE, *[30, 100] * 6)), [G, N] * 6)
        three = touches(strokes(Drum.SNARE, *[30, 75, 112] * 5))
        self.assertEqual(three, [G, N, A] * 5)

    def test_a_cymbal_has_accents_and_no_ghosts(self):
        self.assertEqual(touches(strokes(Drum.HIHAT, *[105, 60] * 6)), [A, N] * 6)
        mostly_loud = touches(strokes(Drum.HIHAT, *[105, 105, 105, 60] * 4))
        self.assertEqual(mostly_loud, [N] * 16)

    def test_what_is_not_clearly_apart_is_one_level(self):
        dice = random.Random(3)
        for low, high in ((40, 110), (60, 90), (70, 80)):
            spread_out = [dice.randint(low, high) for _ in range(200)]
            self.assertEqual(set(touches(strokes(Drum.SNARE, *spread_out))), {N})

    def test_each_drum_by_itself(self):
        """A soft player's hat is no ghost because the snare is loud."""
        both = strokes(Drum.HIHAT, *[40, 44, 38, 42] * 3) + strokes(Drum.SNARE, *[110] * 6)
        self.assertEqual(set(touches(both)), {N})

    def test_few_strokes_show_no_habit_and_go_by_the_limits(self):
        self.assertEqual(touches(strokes(Drum.SNARE, 30, 80, 110, 125)), [G, N, A, S])


class Chosen(unittest.TestCase):
    def chosen(self, reading):
        (choice,) = (one for one in reading.choices if one.name == "loudness")
        self.assertEqual({way.code for way in choice.ways}, set(Loudness))
        return choice.chosen

    def test_another_way_is_taken(self):
        data = midi_file(by_hand(4, 8, 2))
        self.assertEqual(self.chosen(open_midi(data)), Loudness.LEVELS)
        plain = open_midi(data, taken=["plain"])
        self.assertEqual({hit.touch for bar in plain.chart.bars for hit in bar.hits}, {N})
        self.assertEqual(self.chosen(plain), Loudness.PLAIN)
