"""The forty rudiments: their list, their hands, their drills, and finding them again.

The list is checked in tests/outside; drills and skeletons are common practice, no source.
"""

import unittest
from collections import Counter
from dataclasses import replace
from fractions import Fraction
from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st

from tests.builders import make_bar, study_bar
from wren_ladder.drumming.chart import (
    Bar,
    ChartError,
    Drum,
    Grace,
    Hand,
    Hit,
    Meter,
    Tempo,
    Touch,
)
from wren_ladder.drumming.description.techniques import techniques
from wren_ladder.drumming.hands import Limb, stick_bar, strokes_of
from wren_ladder.drumming.performance import strokes_per_second
from wren_ladder.drumming.rudiments import (
    RUDIMENTS,
    Family,
    by_name,
    find_rudiments,
    inversion_drills,
    roll_skeleton,
)
from wren_ladder.drumming.rudiments.drills import inversions
from wren_ladder.drumming.rudiments.rolls import roll_bars
from wren_ladder.drumming.workshop.accents import sticking_versions

ONE = Tempo(Fraction(1), 60)
HANDS = [Drum.SNARE, Drum.TOM_HIGH, Drum.TOM_MID, Drum.TOM_FLOOR]


def played(bar):
    return [(stick.hit, stick.hand) for stick in stick_bar(bar)]


def named(bar):
    return [found.rudiment.name for found in find_rudiments(played(bar))]


def letters(bar):
    return "".join(hit.hand for hit in bar.hits if hit.hand)


class TheList(unittest.TestCase):
    def test_forty_in_four_families(self):
        self.assertEqual(len({one.name for one in RUDIMENTS}), 40)
        families = Counter(one.family for one in RUDIMENTS)
        self.assertEqual(
            families,
            {Family.ROLLS: 15, Family.DIDDLES: 4, Family.FLAMS: 11, Family.DRAGS: 10},
        )

    def test_each_is_a_real_bar_with_a_hand_for_every_note(self):
        for one in RUDIMENTS:
            with self.subTest(one.name):
                bar = one.bar()
                self.assertEqual(len(letters(bar)), 2 * len(one.strokes))
                self.assertEqual(bar.length, 2 * one.length)

    def test_flams_have_one_grace_and_drags_two_or_a_written_double(self):
        for one in RUDIMENTS:
            with self.subTest(one.name):
                graces = {s.grace for s in one.strokes} - {Grace.NONE}
                if one.family is Family.FLAMS:
                    self.assertEqual(graces, {Grace.FLAM})
                elif one.family is Family.DRAGS and one.name != "single dragadiddle":
                    self.assertEqual(graces, {Grace.DRAG})
                else:
                    self.assertEqual(graces, set())

    def test_alternating_ones_mirror_exactly_when_repeated(self):
        for one in RUDIMENTS:
            with self.subTest(one.name):
                right, left = one.bar(Hand.RIGHT), one.bar(Hand.LEFT)
                half = len(right.hits) // 2
                first, second = letters(right)[:half], letters(right)[half:]
                mirror = first.translate(str.maketrans("RL", "LR"))
                self.assertEqual(second, mirror if one.alternates else first)
                self.assertEqual(letters(left)[:half], mirror)

    def test_counted_rolls_have_their_count(self):
        for name, count in (
            ("five", 5), ("six", 6), ("seven", 7), ("nine", 9), ("ten", 10), ("eleven", 11),
            ("thirteen", 13), ("fifteen", 15), ("seventeen", 17),
        ):  # fmt: skip
            self.assertEqual(len(by_name(f"{name} stroke roll").strokes), count, name)

    def test_a_sticking_is_said_with_its_graces(self):
        self.assertEqual(by_name("flam paradiddle").sticking, "lR L R R")
        self.assertEqual(by_name("single drag tap").sticking, "llR L")


class Strokes(unittest.TestCase):
    def test_the_flam_paradiddle_round_the_loop(self):
        # Common practice: down, tap, tap, tap (the grace), up; the left the same by half.
        strokes = strokes_of(stick_bar(by_name("flam paradiddle").bar()))
        right = [s.kind for s in strokes if s.limb is Limb.RIGHT_HAND]
        left = [s.kind for s in strokes if s.limb is Limb.LEFT_HAND]
        self.assertEqual(right, ["down", "tap", "tap", "tap", "up"])
        self.assertEqual(left, ["tap", "up", "down", "tap", "tap"])


class Finding(unittest.TestCase):
    def test_every_rudiment_is_found_in_its_own_bar_whichever_hand_leads(self):
        for one in RUDIMENTS:
            for lead in Hand:
                with self.subTest(one.name, lead=lead):
                    (found,) = find_rudiments(played(one.bar(lead)))
                    self.assertEqual((found.rudiment.name, found.lead), (one.name, lead))

    @given(st.sampled_from(RUDIMENTS), st.sampled_from(Hand), st.data())
    def test_a_rudiment_planted_anywhere_is_found_again(self, one, lead, data):
        """Over any drums, with any accents, after a rest, with feet below, at half speed."""
        speed = data.draw(st.sampled_from([Fraction(1), Fraction(1, 2)]))
        start = data.draw(st.integers(0, 2)) * Fraction(1)
        hits = []
        one_drum = data.draw(st.sampled_from(HANDS))
        for hit in one.bar(lead).hits:
            # Single strokes round the drums are no roll.
            drum = one_drum
            if one.name != "single stroke roll":
                drum = data.draw(st.sampled_from(HANDS))
            touch = data.draw(st.sampled_from([Touch.NORMAL, Touch.ACCENT, Touch.GHOST]))
            roll = hit.roll and replace(hit.roll, length=hit.roll.length * speed)
            moved = replace(hit, at=start + hit.at * speed, drum=drum, touch=touch, roll=roll)
            hits.append(moved)
        for beat in data.draw(st.sets(st.integers(0, 3))):
            hits.append(Hit(Fraction(beat), Drum.KICK))
        bar = Bar("1", Meter(12, 4), tuple(hits))
        self.assertIn(one.name, named(bar))

    def test_single_strokes_hold_no_paradiddle(self):
        found = named(study_bar("snare 16ths").bar)
        self.assertEqual(found, ["single stroke roll"])

    def test_names_are_true(self):
        for lines in (
            "snare 16ths 1-2\nhands RLLRLRRL",  # it begins across the beat
            "snare 8ths\nhands RLRLRLRL",  # quavers are no roll
            "high 1*\nmid 2*\nfloor 3*\nsnare 4*",  # and neither are notes round the drums
        ):
            with self.subTest(lines):
                self.assertEqual(named(study_bar(lines).bar), [])
        for lines, found in (
            ("snare drag 1, 1e&a 2", ["drag"]),  # four semiquavers are no ratamacue
            ("snare drag 1, 1t 1l 2", ["single ratamacue"]),
            ("snare flam 1, 1& 2 2&", ["flam"]),  # nor three quavers a flam accent
            ("snare flam 1, 1t 1l", ["flam accent"]),
            ("snare drag 1, 1e 1&, drag 2, 2e 2&", ["lesson 25"]),
        ):
            with self.subTest(lines):
                self.assertEqual(named(study_bar(lines).bar), found)
        two = study_bar("snare 16ths\nhands RLRRLRLLRLRRLRLL").bar
        self.assertEqual(named(two), ["single paradiddle"])
        self.assertNotIn("inverted paradiddle", techniques(two))

    def test_the_place_and_the_number_of_times_are_told(self):
        bar = make_bar("snare 16ths 1-2, flam 3 4\nhands RLRRLRLLRL")
        first, second = find_rudiments(played(bar))
        self.assertEqual((first.rudiment.name, first.times), ("single paradiddle", 2))
        self.assertEqual((first.first, first.last), (0, Fraction(7, 4)))
        self.assertEqual((second.rudiment.name, second.times), ("flam", 2))

    def test_both_hands_at_once_part_what_is_around_them(self):
        bar = make_bar("high 1e\nsnare 1*\nhands R R L R R")
        self.assertNotIn("single paradiddle", named(bar))

    def test_written_rolls_are_named_by_their_count(self):
        self.assertEqual(named(make_bar("snare roll 7 1-2, 2")), ["seven stroke roll"])
        self.assertEqual(named(make_bar("snare buzz 1-3")), ["multiple bounce roll"])


class Drills(unittest.TestCase):
    def test_the_four_inversions(self):
        # Common practice, no source.
        self.assertEqual(inversions(), ("RLRRLRLL", "RLLRLRRL", "RRLRLLRL", "RLRLLRLR"))

    def test_sixteen_different_drills_with_ghosts_around_the_accents(self):
        drills = inversion_drills()
        self.assertEqual(len({drill.bar for drill in drills}), 16)
        for drill in drills:
            touches = Counter(hit.touch for hit in drill.bar.hits)
            self.assertEqual(touches, {Touch.ACCENT: 2, Touch.GHOST: 6}, drill.name)

    def test_versions_of_an_accented_phrase(self):
        bar = make_bar("snare 8ths, accent 1 2& 4")
        found = {one.name: one.bars[0] for one in sticking_versions([bar])}
        self.assertEqual(len(found), 6)
        self.assertEqual(letters(found["alternating, straight"]), "RLRLRLRL")
        self.assertEqual(letters(found["accents lead, straight"]), "RLLRLLRL")
        doubled = found["unaccented doubled, straight"]
        self.assertEqual(len(doubled.hits), 3 + 2 * 5)
        tripled = found["accents lead, in triplets"]
        self.assertEqual(
            [hit.at for hit in tripled.hits][:3], [0, Fraction(1, 3), Fraction(2, 3)]
        )
        self.assertEqual(str(tripled.meter), "3/4")
        self.assertEqual(len(tripled.hits), 9)  # the bar is filled

    def test_doubled_in_triplets_the_rate_is_even_and_the_bar_full(self):
        for lines in ("snare 8ths, accent 1 2& 4", "snare 16ths, accent 1 1a 3"):
            found = {one.name: one.bars[0] for one in sticking_versions([make_bar(lines)])}
            bar = found["unaccented doubled, in triplets"]
            times = [*(hit.at for hit in bar.hits), bar.length]
            loud = [hit.touch.loud for hit in bar.hits]
            for gap, accent in zip((b - a for a, b in pairwise(times)), loud, strict=True):
                self.assertEqual(gap, Fraction(1, 3) if accent else Fraction(1, 6))

    def test_six_and_ten_stroke_rolls_keep_their_accents(self):
        """Percussive Arts Society, International Drum Rudiments, 1984."""
        for count, accents in ((5, [4]), (6, [0, 5]), (7, [6]), (9, [8]), (10, [8, 9])):
            _, full = roll_bars(count, Fraction(1, 4))
            loud = [place for place, hit in enumerate(full.hits) if hit.touch.loud]
            self.assertEqual((len(full.hits), loud), (count, accents))

    def test_the_inverted_paradiddle_and_the_paradiddle_groove_have_their_names(self):
        inverted = make_bar("snare 16ths 1-2\nhands RLLRLRRL")
        self.assertIn("inverted paradiddle", techniques(inverted))
        self.assertNotIn("inverted paradiddle", techniques(make_bar("snare 16ths 1-2")))
        groove = make_bar("hat 1 1& 1a 2e\nsnare 1e 2 2& 2a\nkick 1")
        self.assertIn("paradiddle groove", techniques(groove))
        self.assertNotIn("paradiddle groove", techniques(make_bar("hat 8ths\nsnare 2 4")))

    def test_an_uneven_phrase_has_no_triplets(self):
        self.assertEqual(len(sticking_versions([make_bar("snare 1 2 2& 4")])), 3)


class Rolls(unittest.TestCase):
    def test_the_seven_stroke_roll(self):
        # Common practice: three doubled notes and the ending; as a semiquaver triplet at
        # crotchet = 60 it has 12 notes a second (arithmetic).
        skeleton = roll_skeleton(7)
        self.assertEqual(skeleton.motions, 3)
        self.assertEqual(skeleton.doubled, (True, True, True, False))
        self.assertEqual(strokes_per_second(Fraction(1, 6), ONE), 12)

    def test_every_count_comes_out_of_its_skeleton(self):
        for strokes in (5, 6, 7, 9, 10, 11, 13, 15, 17):
            with self.subTest(strokes):
                plain, full = roll_bars(strokes, Fraction(1, 4))
                self.assertEqual(len(full.hits), strokes)
                self.assertTrue({hit.at for hit in plain.hits} <= {h.at for h in full.hits})
        with self.assertRaisesRegex(ChartError, "no roll has 8 strokes"):
            roll_skeleton(8)
