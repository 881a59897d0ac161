"""Feels: by what the limbs do, by the page's words, and what follows for the vocabulary.

Common practice, no source.
"""

import unittest

from wren_ladder.drumming.description.feel import Feel, feels
from wren_ladder.drumming.judging.syllabus import names_in, vocabulary
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.study import study

ROCK = "hat 8ths\nsnare 2 4\nkick 1 3"
RIDE = "ride 1 2 2& 3 4 4&\nfoot 2 4\nsnare 2&\nkick 4"


def felt(text: str) -> list[Feel | None]:
    chart = read_chart(text)
    return list(feels(chart.bars, chart.swings))


class Words(unittest.TestCase):
    def test_what_the_page_says_holds_until_its_next_word(self):
        bars = [f"bar {n}\n{ROCK}" for n in range(1, 5)]
        bars[1] += "\ncue 1 Shuffle from here"
        bars[3] += "\ncue 1 straight"
        self.assertEqual(
            felt("\n".join(bars)), [Feel.ROCK, Feel.SHUFFLE, Feel.SHUFFLE, Feel.ROCK]
        )

    def test_the_longer_word_counts_and_a_part_of_a_word_does_not(self):
        self.assertEqual(
            felt(f"bar 1\n{ROCK}\ncue 1 half-time shuffle"), [Feel.HALF_TIME_SHUFFLE]
        )
        self.assertEqual(felt(f"bar 1\n{ROCK}\ncue 1 shuffled papers"), [Feel.ROCK])

    def test_a_bar_that_keeps_no_time_has_no_feel_but_in_a_march(self):
        solo = "bar 1\nsnare 16ths 1-2, 3 4\ncue 1 {}"
        self.assertEqual(felt(solo.format("shuffle")), [None])
        self.assertEqual(felt(solo.format("in march time")), [Feel.MARCH])


class ByTheLimbs(unittest.TestCase):
    def test_a_snare_over_a_bass_drum_in_two_is_a_march(self):
        two = "meter 2/4\nbar 1\nsnare flam 1, 1&a 2 2&\nkick 1 2"
        self.assertEqual(felt(two), [Feel.MARCH])
        self.assertEqual(felt("meter 2/4\nbar 1\nsnare 1 1& 2 2&\nkick 1"), [None])
        self.assertEqual(felt("bar 1\nsnare 8ths\nkick quarters"), [None])
        said = study(read_chart(two)).bars[0].trouble
        self.assertIn("first march of the piece", said)

    def test_a_jazz_ride_is_no_rock_beat(self):
        self.assertIn("rock beat", names_in(study(read_chart(f"bar 1\n{ROCK}"))))
        jazz = names_in(study(read_chart(f"swing 8ths\nbar 1\n{RIDE}")))
        self.assertIn("swing ride", jazz)
        self.assertNotIn("rock beat", jazz)


class Proportions(unittest.TestCase):
    def test_a_tempo_that_is_a_simple_share_of_the_last_is_grade_8(self):
        for after, found in (("crotchet = 120", True), ("crotchet = 100", False),
                             ("dotted crotchet = 80", True)):  # fmt: skip
            text = f"tempo crotchet = 80\nbar 1\n{ROCK}\nbar 2\ntempo {after}\n{ROCK}"
            items = {item.name: item for item in vocabulary(study(read_chart(text)), 8)}
            with self.subTest(after):
                self.assertEqual("tempo change at a proportion" in items, found)
                if found:
                    self.assertEqual(items["tempo change at a proportion"].bars, (1,))
