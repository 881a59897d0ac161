"""Sticking and strokes. Common practice, no source, unless said otherwise."""

import unittest

from hypothesis import given

from tests.builders import hands, study_bar
from tests.strategies import bars
from wren_ladder.drumming.chart import Drum, Hand
from wren_ladder.drumming.description.timekeeping import timekeeper
from wren_ladder.drumming.findings.conflicts import as_problems, hand_conflicts
from wren_ladder.drumming.hands import Height, Limb, stick_bar, strokes_of
from wren_ladder.drumming.style import Style

LEFT = Style(lead=Hand.LEFT)


def limbs(lines: str, drum: Drum, style: Style = Style()) -> set[Limb]:
    return {k.limb for k in study_bar(lines, style=style).sticks if k.hit.drum is drum}


def told(studied) -> list[str]:
    """The conflicts of the hands, as a page is warned of them."""
    found = hand_conflicts(studied.sticks, studied.bar)
    return [str(problem) for problem in as_problems(found, studied.bar)]


class HandToHand(unittest.TestCase):
    def test_single_strokes_alternate_from_the_lead_hand(self):
        self.assertEqual(hands(study_bar("snare 8ths")), "R L R L R L R L")
        self.assertEqual(hands(study_bar("snare 8ths", style=LEFT)), "L R L R L R L R")

    def test_the_lead_hand_starts_again_after_a_rest(self):
        self.assertEqual(hands(study_bar("snare 1 1e 1& 3 3&")), "R L R R L")

    def test_a_gap_of_one_beat_is_no_rest(self):
        self.assertEqual(hands(study_bar("snare quarters")), "R L R L")

    def test_both_hands_share_two_drums_struck_together(self):
        self.assertEqual(hands(study_bar("crash 1\nsnare 1")), "R L")

    def test_written_hands_win_and_the_rest_goes_on_from_them(self):
        studied = study_bar("snare 1 1& 2 2&\nhands R R - -")
        self.assertEqual(hands(studied), "R R L R")
        self.assertEqual(studied.sticks[0].why, "written on the page")


class Grooves(unittest.TestCase):
    def test_the_lead_hand_keeps_the_cymbal_and_the_other_plays_the_snare(self):
        groove = "hat 8ths\nsnare 2 4\nkick 1 3"
        self.assertEqual(limbs(groove, Drum.HIHAT), {Limb.RIGHT_HAND})
        self.assertEqual(limbs(groove, Drum.SNARE), {Limb.LEFT_HAND})
        self.assertEqual(limbs(groove, Drum.KICK), {Limb.RIGHT_FOOT})

    def test_for_a_left_hander_everything_is_mirrored(self):
        groove = "hat 8ths\nsnare 2 4\nkick 1 3\nfoot 2 4"
        self.assertEqual(limbs(groove, Drum.HIHAT, LEFT), {Limb.LEFT_HAND})
        self.assertEqual(limbs(groove, Drum.SNARE, LEFT), {Limb.RIGHT_HAND})
        self.assertEqual(limbs(groove, Drum.KICK, LEFT), {Limb.LEFT_FOOT})
        self.assertEqual(limbs(groove, Drum.HIHAT_FOOT, LEFT), {Limb.RIGHT_FOOT})

    def test_an_extra_snare_falls_between_two_cymbal_strokes(self):
        # 2 and 4 together with the right hand; 2a alone, between 2& and 3.
        studied = study_bar("hat 8ths\nsnare 2 2a 4")
        self.assertEqual(hands(studied), "R R R L R L R R R L R")
        rules = {k.why for k in studied.sticks if k.hit.drum is Drum.SNARE}
        self.assertIn("the other hand plays between cymbal strokes", rules)

    def test_semiquaver_hats_go_hand_to_hand_and_the_backbeat_hand_leaves_the_hat(self):
        studied = study_bar("hat 1* 2e&a 3* 4e&a\nsnare 2 4")
        self.assertEqual(hands(studied), "R L R L " * 3 + "R L R L")
        self.assertEqual(limbs("hat 1* 2e&a 3* 4e&a\nsnare 2 4", Drum.SNARE), {Limb.RIGHT_HAND})

    def test_a_crash_on_one_stands_in_for_the_cymbal(self):
        studied = study_bar("crash 1\nhat 1& 2 2& 3 3& 4 4&\nsnare 2 4")
        self.assertEqual(limbs("crash 1\nhat 1& 2 2&", Drum.CRASH), {Limb.RIGHT_HAND})
        self.assertEqual(hands(studied), "R R R L R R R R L R")

    def test_a_fill_after_a_groove_starts_with_the_lead_hand(self):
        self.assertEqual(hands(study_bar("hat 8ths 1-3\nsnare 2 4*")), "R R R L R R R R L R L")

    def test_in_compound_time_one_hand_keeps_all_the_quavers(self):
        studied = study_bar("hat 8ths\nsnare 4", "6/8")
        self.assertEqual(hands(studied), "R R R R L R R")

    def test_the_timekeeper_is_the_cymbal_struck_most(self):
        bar = study_bar("hat 1\nride 2 2& 3 3&").bar
        self.assertEqual(timekeeper(bar), "ride")
        self.assertIsNone(timekeeper(study_bar("snare 8ths").bar))


class Faults(unittest.TestCase):
    def test_three_things_for_two_hands_are_told_with_bar_and_beat(self):
        studied = study_bar("crash 2\nhat 8ths\nsnare 2")
        problems = told(studied)
        self.assertEqual(len(problems), 1)
        self.assertIn("bar 1: on 2: no hand is free for the snare", problems[0])

    def test_one_hand_written_on_two_surfaces_is_told(self):
        studied = study_bar("crash 1\nsnare 1\nhands LL")
        problems = told(studied)
        said = "bar 1: on 1: the left hand is written on crash and snare at once"
        self.assertEqual(problems, [said])
        self.assertEqual(studied.trouble, ())

    @given(bars())
    def test_no_limb_is_asked_for_two_things_at_once(self, bar):
        written = {hit for hit in bar.hits if hit.hand}
        busy = set()
        for stick in stick_bar(bar):
            if stick.limb is None or stick.hit in written:
                continue
            self.assertNotIn((stick.hit.at, stick.limb), busy)
            busy.add((stick.hit.at, stick.limb))

    @given(bars())
    def test_every_hit_has_its_stick_in_order_and_a_mirrored_player_mirrors(self, bar):
        right = stick_bar(bar)
        self.assertEqual([stick.hit for stick in right], list(bar.hits))
        if any(hit.hand for hit in bar.hits):
            return
        for one, other in zip(right, stick_bar(bar, LEFT), strict=True):
            self.assertEqual(one.hand and one.hand.other, other.hand)


class Strokes(unittest.TestCase):
    def kinds(self, lines: str, limb: Limb) -> str:
        strokes = strokes_of(study_bar(lines).sticks)
        return " ".join(stroke.kind for stroke in strokes if stroke.limb is limb)

    def test_each_stroke_ends_where_the_hands_next_one_begins(self):
        # Right: accent, tap, tap, accent; the last one looks round the loop to the first.
        lines = "snare accent 1 4, 2 3\nhands R R R R"
        self.assertEqual(self.kinds(lines, Limb.RIGHT_HAND), "down tap up full")

    def test_flam_paradiddle_with_the_accent_on_the_flam(self):
        # lR L R R | rL R L L, round the loop: the right hand plays its flam's main stroke
        # down, then taps, the grace of the left flam among them, and goes up at the end.
        lines = "snare 8ths, accent flam 1 3\nhands R L R R L R L L"
        self.assertEqual(self.kinds(lines, Limb.RIGHT_HAND), "down tap tap tap up")
        self.assertEqual(self.kinds(lines, Limb.LEFT_HAND), "tap up down tap tap")

    def test_grace_notes_are_low_and_in_the_other_hand(self):
        strokes = strokes_of(study_bar("snare drag 1").sticks)
        graces = [stroke for stroke in strokes if stroke.grace]
        self.assertEqual([g.limb for g in graces], [Limb.LEFT_HAND, Limb.LEFT_HAND])
        self.assertEqual({g.height for g in graces}, {Height.GHOST})

    def test_a_ruff_is_struck_hand_to_hand(self):
        # l r l R
        strokes = strokes_of(study_bar("snare ruff 1").sticks)
        letters = "".join(stroke.limb.value[0] for stroke in strokes)
        self.assertEqual(letters, "lrlr")

    def test_feet_have_a_height_and_no_kind(self):
        (kick,) = strokes_of(study_bar("kick accent 1").sticks)
        self.assertEqual((kick.height, kick.kind), (Height.ACCENT, None))
