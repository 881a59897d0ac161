"""A sticking typed as a groove: letters laid on the drums, exceptions by their counts."""

import unittest
from fractions import Fraction

from wren_ladder.drumming.chart import ChartError, Drum, Hand, Meter, Touch
from wren_ladder.drumming.notation.counts import read_bar, read_chart, write_chart
from wren_ladder.drumming.workshop.stickings import HOUSE_STICKINGS, read_sticking, sticking_bar


def bar(text, beats=4):
    return read_bar(text, "1", Meter(beats, 4))


class Lettered(unittest.TestCase):
    def test_capitals_are_accents_and_small_letters_ghosts_on_the_snare(self):
        hits = bar("sticking R l r L R l r l\nkick 1 3").hits
        mine = [hit for hit in hits if not hit.drum.by_foot]
        self.assertEqual("".join(hit.hand for hit in mine), "RLRLRLRL")
        self.assertEqual(
            [(hit.drum, hit.touch) for hit in mine[:4]],
            [(Drum.HIHAT, Touch.ACCENT), (Drum.SNARE, Touch.GHOST),
             (Drum.HIHAT, Touch.NORMAL), (Drum.SNARE, Touch.ACCENT)],
        )  # fmt: skip
        self.assertEqual(sum(hit.drum is Drum.KICK for hit in hits), 2)

    def test_every_sticking_of_the_house_is_typed_as_it_is_laid(self):
        for one in HOUSE_STICKINGS:
            with self.subTest(one.name):
                self.assertEqual(
                    bar(f"sticking {one.letters}"), sticking_bar(read_sticking(one.letters))
                )

    def test_exceptions_are_named_behind_a_comma(self):
        made = bar("sticking R l r L R l r l, snare 4 4&, floor 1")
        struck = {hit.at: hit.drum for hit in made.hits}
        self.assertEqual(struck[Fraction(0)], Drum.TOM_FLOOR)
        self.assertEqual(struck[Fraction(3)], Drum.SNARE)  # the right hand, both on the snare
        self.assertEqual(made.hits[-2].hand, Hand.RIGHT)

    def test_other_metres_and_grids(self):
        self.assertEqual([hit.at for hit in bar("sticking R l r l r l", 3).hits],
                         [Fraction(n, 2) for n in range(6)])  # fmt: skip
        thirds = bar("sticking RlrLrl", 2).hits
        self.assertEqual(thirds[1].at, Fraction(1, 3))

    def test_what_is_wrong_is_pointed_at(self):
        for text, word, said in (
            (
                "sticking RlrLRl",
                "RlrLRl",
                "6 letters do not fill this bar; write 8 or 12",
            ),
            ("sticking RlrLRlrl, kick 2", "kick", "no drum for a hand"),
            ("sticking RlrLRlrl, snare 2a", "2a", "no letter falls on 2a"),
            ("sticking RlrLRlrl, snare 9", "9", "outside the bar"),
        ):
            with self.subTest(text), self.assertRaisesRegex(ChartError, said) as told:
                bar(text)
            self.assertEqual(told.exception.place.word, word)

    def test_hands_under_notes_are_hands_whatever_their_size(self):
        self.assertEqual(
            bar("snare 8ths\nsticking rlrlrlrl"), bar("snare 8ths\nhands RLRLRLRL")
        )

    def test_it_is_written_in_notes_and_read_again_the_same(self):
        chart = read_chart("bar 1\nsticking RlrrLrll, high 4&\nkick 1 3")
        self.assertEqual(read_chart(write_chart(chart)).bars, chart.bars)


if __name__ == "__main__":
    unittest.main()
