"""Accented phrases moved, and foot studies: playable, counted, accents where they were said."""

import unittest
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from wren_ladder.drumming.chart import ChartError, Drum, Hand, Tempo
from wren_ladder.drumming.findings.conflicts import conflicts
from wren_ladder.drumming.hands import stick_bar
from wren_ladder.drumming.style import HOUSE
from wren_ladder.drumming.workshop.accents import (
    Grid,
    alternating,
    in_triplets,
    kit_versions,
    read_accents,
    sticking_versions,
    to_the_kick,
    to_toms,
)
from wren_ladder.drumming.workshop.feet import FOOT_STUDIES, next_hands
from wren_ladder.drumming.workshop.patterns import Hands, hand_grade

SLOW = Tempo(Fraction(1), 60)
PLACES = st.sampled_from(["1", "1&", "2", "2&", "3", "3&", "4", "4&"])
phrases = st.lists(st.sets(PLACES, min_size=1), min_size=1, max_size=8)


def accents_of(bars):
    return [[hit.at for hit in bar.hits if hit.touch.loud] for bar in bars]


class Accents(unittest.TestCase):
    def test_a_phrase_is_read_bar_by_bar(self):
        bars = read_accents("1 2& | 4")
        self.assertEqual(accents_of(bars), [[0, Fraction(3, 2)], [3]])
        self.assertEqual([len(bar.hits) for bar in bars], [8, 8])
        self.assertEqual(len(read_accents("1a", Grid.SEMIQUAVERS)[0].hits), 16)

    def test_what_is_wrong_is_told_with_its_bar(self):
        for text, said in (
            ("1 | 2a", "bar 2: 2a is between the notes in quavers"),
            ("1 | | 9", "bar 3"),
            ("x", "bar 1"),
            ("", "no accent yet"),
            ("|".join("1" * 9), "9 bars"),
        ):
            with self.subTest(text), self.assertRaisesRegex(ChartError, said):
                read_accents(text)

    def test_hands_alternate_over_the_bar_line(self):
        bars = read_accents("1 | 1", Grid.QUAVERS)
        odd = alternating([bars[0], bars[1]], Hand.RIGHT)
        self.assertEqual([bar.hits[0].hand for bar in odd], [Hand.RIGHT, Hand.RIGHT])
        first = bars[0].in_notes(hits=bars[0].hits[:7])
        self.assertEqual(alternating([first, bars[1]])[1].hits[0].hand, Hand.LEFT)

    def test_in_triplets_every_note_and_accent_follows_its_place(self):
        bars = in_triplets(read_accents("1 2& | 4"))  # 16 notes: two bars of 12, begun again
        self.assertEqual([len(bar.hits) for bar in bars], [12, 12])
        flat = [hit.touch.loud for bar in bars for hit in bar.hits]
        straight = [n in (0, 3, 14) for n in range(16)]
        self.assertEqual(flat, (straight * 2)[:24])

    def test_the_accents_go_down_the_toms_over_the_bar_line(self):
        bars = to_toms(read_accents("1 2 | 3 4"))
        struck = [hit.drum for bar in bars for hit in bar.hits if hit.touch.loud]
        toms = [Drum.TOM_HIGH, Drum.TOM_MID, Drum.TOM_FLOOR]
        self.assertEqual(struck, [*toms, toms[0]])

    @given(phrases, st.sampled_from(Hands))
    def test_the_kick_is_where_the_accents_were(self, phrase, hands):
        bars = read_accents(" | ".join(" ".join(sorted(bar)) for bar in phrase))
        under = to_the_kick(bars, hands)
        kicks = [[hit.at for hit in bar.hits if hit.drum is Drum.KICK] for bar in under]
        self.assertEqual(kicks, accents_of(bars))

    @given(phrases)
    def test_every_version_is_a_playable_chart(self, phrase):
        bars = read_accents(" | ".join(" ".join(sorted(bar)) for bar in phrase))
        made = (*sticking_versions(bars), *kit_versions(bars))
        self.assertEqual(len(made), 6 + 2 + len(Hands))
        self.assertEqual(len({one.code for one in made}), len(made))
        for one in made:
            for bar in one.bars:
                sticks = stick_bar(bar, HOUSE)
                self.assertFalse(conflicts(sticks, bar, SLOW, HOUSE), one.name)


class Feet(unittest.TestCase):
    def test_eight_bars_each_playable_under_every_hand_pattern(self):
        self.assertEqual(sorted({one.grade() for one in FOOT_STUDIES}), [0, 1, 2, 3, 4])
        for study in FOOT_STUDIES:
            for hands in Hands:
                bars = study.bars(hands)
                self.assertEqual([bar.number for bar in bars], [*"12345678"])
                for bar, kick in zip(bars, study.line, strict=True):
                    kicks = [hit.at for hit in bar.hits if hit.drum is Drum.KICK]
                    self.assertEqual(tuple(kicks), kick.places)
                    sticks = stick_bar(bar, HOUSE)
                    found = conflicts(sticks, bar, SLOW, HOUSE)
                    self.assertFalse(found, f"{study.name}, {hands.label}")

    def test_the_next_hand_pattern_is_the_easiest_not_held(self):
        self.assertEqual(next_hands((), 1), Hands.HAT_CROTCHETS)
        held = {Hands.HAT_CROTCHETS}
        while (coming := next_hands(held, 3)) is not None:
            self.assertLessEqual(hand_grade(coming), 3)
            held.add(coming)
        self.assertEqual(held, {one for one in Hands if hand_grade(one) <= 3})


if __name__ == "__main__":
    unittest.main()
