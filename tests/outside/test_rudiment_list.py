"""The forty rudiments entry by entry.

Source: Percussive Arts Society, "International Drum Rudiments" (1984), numbered as there. The
table is written out from memory in a form of its own: for each entry the hands of one side, an
accent as a dash behind its hand, graces small; then how many notes of the fastest value fall
on a crotchet or dotted crotchet beat as that side is grouped.
"""

import unittest
from fractions import Fraction
from itertools import pairwise

from wren_ladder.drumming.rudiments import RUDIMENTS, Family

LIST = (
    (1, "single stroke roll", "R L R L R L R L", 4),
    (2, "single stroke four", "R L R L'", 6),
    (3, "single stroke seven", "R L R L R L R'", 6),
    (4, "multiple bounce roll", "R", 1),
    (5, "triple stroke roll", "R R R L L L", 6),
    (6, "double stroke open roll", "R R L L R R L L", 8),
    (7, "five stroke roll", "R R L L R'", 8),
    (8, "six stroke roll", "R' L L R R L'", 8),
    (9, "seven stroke roll", "R R L L R R L'", 8),
    (10, "nine stroke roll", "R R L L R R L L R'", 8),
    (11, "ten stroke roll", "R R L L R R L L R' L'", 8),
    (12, "eleven stroke roll", "R R L L R R L L R R L'", 8),
    (13, "thirteen stroke roll", "R R L L R R L L R R L L R'", 8),
    (14, "fifteen stroke roll", "R R L L R R L L R R L L R R L'", 8),
    (15, "seventeen stroke roll", "R R L L R R L L R R L L R R L L R'", 8),
    (16, "single paradiddle", "R' L R R", 4),
    (17, "double paradiddle", "R' L R L R R", 4),
    (18, "triple paradiddle", "R' L R L R L R R", 4),
    (19, "single paradiddle-diddle", "R' L R R L L", 4),
    (20, "flam", "lR", 1),
    (21, "flam accent", "lR' L R", 3),
    (22, "flam tap", "lR' R", 4),
    (23, "flamacue", "lR L' R L lR", 4),
    (24, "flam paradiddle", "lR' L R R", 4),
    (25, "single flammed mill", "lR' R L R", 4),
    (26, "flam paradiddle-diddle", "lR' L R R L L", 4),
    (27, "pataflafla", "lR' L R rL'", 4),
    (28, "Swiss army triplet", "lR' R L", 3),
    (29, "inverted flam tap", "lR' L", 4),
    (30, "flam drag", "lR' L L R", 6),
    (31, "drag", "llR", 1),
    (32, "single drag tap", "llR L'", 4),
    (33, "double drag tap", "llR llR L'", 4),
    (34, "lesson 25", "llR L R'", 4),
    (35, "single dragadiddle", "R' R L R R", 8),
    (36, "drag paradiddle no. 1", "R' llR L R R", 4),
    (37, "drag paradiddle no. 2", "R' llR llR L R R", 4),
    (38, "single ratamacue", "llR L R L'", 3),
    (39, "double ratamacue", "llR llR L R L'", 3),
    (40, "triple ratamacue", "llR llR llR L R L'", 3),
)
FAMILIES = {Family.ROLLS: 15, Family.DIDDLES: 19, Family.FLAMS: 30, Family.DRAGS: 40}


def said(one) -> str:
    """Our entry as the table says it."""
    return " ".join(
        stroke.hand.other.value.lower() * stroke.grace.notes
        + stroke.hand.value
        + "'" * stroke.accent
        for stroke in one.strokes
    )


class EntryByEntry(unittest.TestCase):
    def test_numbers_and_names(self):
        ours = [(number, one.name) for number, one in enumerate(RUDIMENTS, start=1)]
        self.assertEqual(ours, [(number, name) for number, name, _, _ in LIST])

    def test_each_belongs_to_its_family(self):
        for (number, name, _, _), one in zip(LIST, RUDIMENTS, strict=True):
            family = next(family for family, last in FAMILIES.items() if number <= last)
            with self.subTest(name):
                self.assertIs(one.family, family)

    def test_hands_accents_and_graces(self):
        for (_, name, hands, _), one in zip(LIST, RUDIMENTS, strict=True):
            with self.subTest(name):
                self.assertEqual(said(one), hands)

    def test_grouping(self):
        for (_, name, _, notes), one in zip(LIST, RUDIMENTS, strict=True):
            with self.subTest(name):
                grid = Fraction(1, notes)
                self.assertTrue(
                    all((stroke.at / grid).denominator == 1 for stroke in one.strokes)
                )
                gaps = {other.at - stroke.at for stroke, other in pairwise(one.strokes)}
                self.assertEqual(min(gaps, default=grid), grid)
