"""The schools of sticking, kit flow against every other way, and what can't be played.

Common practice, no source, but for the exhaustive search, which is its own proof.
"""

import unittest
from dataclasses import replace
from fractions import Fraction
from itertools import pairwise, product

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.builders import hands, make_bar, make_chart, study_bar
from wren_ladder.drumming.chart import Bar, Chart, Drum, Hand, Hit, Meter, Roll, RollKind, Tempo
from wren_ladder.drumming.findings.conflicts import as_problems, conflicts
from wren_ladder.drumming.findings.fastest import single_hand_limit
from wren_ladder.drumming.hands import stick_bar
from wren_ladder.drumming.hands.flow import CROSSING, choices, cost_of, kit_flow
from wren_ladder.drumming.hands.limbs import HAND_OF
from wren_ladder.drumming.hands.schools import Sticking
from wren_ladder.drumming.performance import perform
from wren_ladder.drumming.study import study
from wren_ladder.drumming.style import HOUSE

GRID = replace(HOUSE, sticking=Sticking.GRID_HAND)
ACCENTS = replace(HOUSE, sticking=Sticking.ACCENTS_LEAD)
RUDIMENT = replace(HOUSE, sticking=Sticking.RUDIMENT)
FLOW = replace(HOUSE, sticking=Sticking.KIT_FLOW)
FILL_DRUMS = [Drum.SNARE, Drum.TOM_HIGH, Drum.TOM_MID, Drum.TOM_FLOOR, Drum.CRASH, Drum.RIDE]
FILLS = st.lists(st.sampled_from(FILL_DRUMS), min_size=1, max_size=10)


def stuck(lines, style, meter="4/4"):
    return hands(study_bar(lines, meter, style)).replace(" ", "")


class Schools(unittest.TestCase):
    def test_hands_match_the_counting_grid(self):
        self.assertEqual(stuck("snare 1 1e 1& 1a 2 2& 2a 3e", GRID), "RLRLRRLL")

    def test_the_lead_hand_plays_the_accents(self):
        self.assertEqual(stuck("snare 8ths, accent 1 2& 4", ACCENTS), "RLLRLLRL")

    def test_a_rudiment_told_by_its_accents_brings_its_hands(self):
        self.assertEqual(stuck("snare 16ths 1-2, accent 1 2", RUDIMENT), "RLRRLRLL")
        self.assertEqual(stuck("snare 16ths 1-2, accent flam 1 2", RUDIMENT), "RLRRLRLL")

    def test_a_roll_ends_on_the_hand_that_its_parity_says(self):
        """Of odd counts 5, 9, 13, 17 end on the hand that began. Common practice, no source."""
        for count, ends in (
            (5, "RR"),
            (7, "RL"),
            (9, "RR"),
            (11, "RL"),
            (13, "RR"),
            (15, "RL"),
        ):
            for style in (HOUSE, FLOW):
                with self.subTest(count, style=style.sticking):
                    self.assertEqual(stuck(f"snare roll {count} 1-2, accent 2", style), ends)
        self.assertEqual(stuck("snare roll 5 1-1&, accent 1&", ACCENTS), "RR")
        self.assertEqual(stuck("snare roll 7 1-1&, accent 1&", ACCENTS), "LR")
        self.assertEqual(stuck("snare roll 7 1-1&, 1&", GRID), "RL")
        self.assertEqual(stuck("snare roll 5 1-1&, 1& 2", HOUSE), "RRL")

    @given(
        st.sampled_from([5, 7, 9, 11, 13, 15, 17]),
        st.integers(0, 5),
        st.integers(1, 8),
        st.sampled_from([HOUSE, FLOW, ACCENTS, GRID]),
        st.sampled_from(Hand),
    )
    def test_its_strokes_go_in_pairs_from_the_first_hand_to_the_ending(
        self, count, at, length, style, lead
    ):
        begin, end = Fraction(at, 2), Fraction(at + min(length, 7 - at), 2)
        roll = Roll(RollKind.OPEN, end - begin, count)
        hits = (Hit(begin, Drum.SNARE, roll=roll), Hit(end, Drum.SNARE))
        road = study(Chart("", (Bar("1", Meter(4, 4), hits),)), replace(style, lead=lead)).road
        found = [HAND_OF[onset.limb] for onset in perform(road).onsets]
        self.assertEqual(len(found), count)
        pairs = [found[place : place + 2] for place in range(0, count - 1, 2)]
        self.assertTrue(all(one == other for one, other in pairs), found)
        firsts = [pair[0] for pair in pairs] + found[-1:]
        self.assertTrue(all(one != other for one, other in pairwise(firsts)), found)

    def test_a_roll_to_the_bar_line_ends_in_the_next_bar(self):
        """The hand goes over the bar line, and the bar goes on from it."""
        for count, ends in ((5, "RLRL"), (7, "LRLR"), (9, "RLRL"), (11, "LRLR")):
            for style in (HOUSE, FLOW):
                with self.subTest(count, style=style.sticking):
                    text = f"bar 1\nsnare roll {count} 4-end\nbar 2\nsnare 8ths 1-2"
                    studied = study(make_chart(text), style)
                    self.assertEqual(hands(studied.bars[1]).replace(" ", ""), ends)
        # What is written on the page, and a groove, settle it themselves.
        for lines, found in (
            ("snare 1 2\nhands R L", "RL"),
            ("hat 8ths\nsnare 2", "RRRLRRRRR"),
        ):
            text = f"bar 1\nsnare roll 7 4-end\nbar 2\n{lines}"
            studied = study(make_chart(text))
            self.assertEqual(hands(studied.bars[1]).replace(" ", ""), found)

    def test_equal_bars_behind_different_rolls_have_different_hands(self):
        text = (
            "bar 1\nsnare roll 5 4-end\nbar 2\nsnare 1\nbar 3\nsnare roll 7 4-end\nbar 4 as 2"
        )
        studied = study(make_chart(text))
        self.assertEqual([hands(bar) for bar in studied.bars], ["R", "R", "R", "L"])
        self.assertEqual(studied.bars[3].twin_of, 1)

    def test_a_roll_tied_over_the_bar_line_goes_on_to_its_end(self):
        text = "bar 1\nsnare roll 4-tied\nbar 2\nsnare roll 1-2, 2"
        studied = study(make_chart(text))
        # Four motions before the bar line, four behind it: each ends on the hand it began with.
        self.assertEqual([hands(bar) for bar in studied.bars], ["R", "R R"])
        played = [onset.limb for onset in perform(studied.road).onsets if onset.position >= 3]
        self.assertEqual("".join(HAND_OF[limb] for limb in played), "RRLLRRLL" * 2 + "R")

    def test_a_long_roll_is_no_rest(self):
        self.assertEqual(stuck("snare 1, roll 9 2-4, 4", HOUSE), "RLL")
        self.assertEqual(stuck("snare 1, 4", HOUSE), "RR")  # a rest is one

    def test_two_drums_at_once_go_by_side(self):
        left = replace(HOUSE, lead=Hand.LEFT)
        for lines, found in (
            ("snare 1\nfloor 1", "L R"), ("high 1\nfloor 1", "L R"), ("high 1\nmid 1", "L R"),
            ("crash 1\nsnare 1", "R L"), ("hat 1\nsnare 1", "R L"),
        ):  # fmt: skip
            by_drum = {s.hit.drum: s.hand for s in stick_bar(make_bar(lines), HOUSE)}
            self.assertEqual(" ".join(by_drum.values()), found, lines)
            mirrored = {s.hit.drum: s.hand for s in stick_bar(make_bar(lines), left)}
            self.assertEqual({d: h.other for d, h in by_drum.items()}, mirrored)

    def test_a_plain_run_is_no_rudiment(self):
        self.assertEqual(stuck("snare 16ths 1-2", RUDIMENT), "RLRLRLRL")

    def test_each_hit_says_the_rule_that_gave_it(self):
        for style, rule in (
            (HOUSE, "the lead hand starts"),
            (GRID, "the lead hand has 1 and &"),
            (ACCENTS, "the lead hand plays the accents"),
            (FLOW, "the way round the kit with the least travel"),
        ):
            sticks = stick_bar(make_bar("snare accent 1"), style)
            self.assertEqual(sticks[0].why, rule)

    def test_written_hands_stay_in_every_school(self):
        for school in Sticking:
            with self.subTest(school):
                style = replace(HOUSE, sticking=school)
                self.assertEqual(stuck("snare 1 1& 2\nhands L L -", style)[:2], "LL")

    def test_the_left_handed_mirror_every_school(self):
        lines = "snare 16ths 1-2, accent 1 2&\nhigh 3\nfloor 3& 4"
        for school in Sticking:
            with self.subTest(school):
                right = replace(HOUSE, sticking=school)
                left = replace(right, lead=Hand.LEFT)
                mirrored = stuck(lines, right).translate(str.maketrans("RL", "LR"))
                self.assertEqual(stuck(lines, left), mirrored)

    def test_open_handed_players_keep_the_hat_with_the_hand_beside_it(self):
        style = replace(HOUSE, open_handed=True)
        found = {s.hit.drum: s.hand for s in stick_bar(make_bar("hat 8ths\nsnare 2 4"), style)}
        self.assertEqual(found, {Drum.HIHAT: Hand.LEFT, Drum.SNARE: Hand.RIGHT})

    def test_a_groove_is_shared_out_alike_in_every_school(self):
        for school in Sticking:
            style = replace(HOUSE, sticking=school)
            self.assertEqual(
                stuck("hat 8ths\nsnare 2 2a 4", style), stuck("hat 8ths\nsnare 2 2a 4", HOUSE)
            )


class KitFlow(unittest.TestCase):
    @settings(max_examples=60)
    @given(
        st.lists(st.sampled_from(FILL_DRUMS), min_size=1, max_size=10), st.sampled_from(Hand)
    )
    def test_no_other_way_round_the_kit_is_cheaper(self, drums, lead):
        moments = [[Hit(Fraction(place, 4), drum)] for place, drum in enumerate(drums)]
        best = cost_of(moments, kit_flow(moments, lead), lead)
        every = product(*(list(choices(moment)) for moment in moments))
        self.assertAlmostEqual(best, min(cost_of(moments, way, lead) for way in every))

    def test_round_the_kit_hand_to_hand(self):
        """Common practice, no source."""
        for lines in (
            "snare 1*",
            "snare 1 1e\nhigh 1& 1a\nmid 2 2e\nfloor 2& 2a",  # two a drum
            "snare 1*\nhigh 2*\nmid 3*\nfloor 4*",
            "snare 1\nhigh 1e\nmid 1&\nfloor 1a",
            "snare 1 1t 1l\nhigh 2 2t 2l\nmid 3 3t 3l\nfloor 4 4t 4l",
            "crash 1 1& 2\nsnare 1e 1a 2e",
        ):
            with self.subTest(lines):
                found = stuck(lines, FLOW)
                self.assertEqual(found, ("RL" * len(found))[: len(found)])

    def test_three_two_three_needs_one_double(self):
        found = stuck("snare 1 1e 1&\nhigh 1a 2\nfloor 2e 2& 2a", FLOW)
        self.assertEqual(found, "RLRLLRLR")
        left = replace(FLOW, lead=Hand.LEFT)
        self.assertEqual(stuck("snare 1 1e 1&\nhigh 1a 2\nfloor 2e 2& 2a", left), "LRLRRLRL")

    @given(FILLS)
    def test_never_three_of_one_hand_in_a_row(self, drums):
        moments = [[Hit(Fraction(place, 4), drum)] for place, drum in enumerate(drums)]
        found = "".join(hand for (hand,) in kit_flow(moments, Hand.RIGHT))
        self.assertNotRegex(found, "RRR|LLL")

    @given(FILLS)
    def test_no_double_at_the_start_nor_where_hand_to_hand_crosses_nothing(self, drums):
        moments = [[Hit(Fraction(place, 4), drum)] for place, drum in enumerate(drums)]
        found = "".join(hand for (hand,) in kit_flow(moments, Hand.RIGHT))
        self.assertNotRegex(found, "^(RR|LL).")
        plain = [((Hand.RIGHT, Hand.LEFT)[n % 2],) for n, _ in enumerate(drums)]
        if cost_of(moments, plain, Hand.RIGHT) < CROSSING:
            self.assertNotRegex(found, "RR|LL")

    def test_a_double_stands_before_the_drum_that_needs_it(self):
        for lines, played in (
            ("snare 1 1t 1l 2 2t 2l\nhigh 3 3t 3l\nfloor 4 4t 4l", "RLRLRRLRLRLR"),
            ("snare 1 1& 2 2&\nfloor 1e 1a 2e 2a", "LRLRLRLR"),
        ):
            with self.subTest(lines):
                self.assertEqual(stuck(lines, FLOW), played)

    def test_a_double_is_played_where_it_saves_a_crossing(self):
        # Three on the snare lead to the floor tom: hand to hand would cross over to it.
        found = stuck("snare 1 1e 1&\nfloor 1a 2\nhigh 2e", FLOW)
        self.assertEqual(found[3], "R")

    def test_written_hands_are_kept(self):
        moments = [[Hit(Fraction(0), Drum.SNARE, hand=Hand.LEFT)]]
        self.assertEqual(kit_flow(moments, Hand.RIGHT), ((Hand.LEFT,),))


class RoundTheDrums(unittest.TestCase):
    """Hand to hand, and never one arm over the other where the other hand first avoids it."""

    def hands(self, lines: str) -> str:
        bar = make_bar(lines)
        return "".join(stick.hand.value for stick in stick_bar(bar) if stick.hand)

    def test_the_hand_on_the_drums_side_begins(self):
        self.assertEqual(self.hands("snare 1 2 3 4\nfloor 1& 2& 3& 4&"), "LRLRLRLR")
        self.assertEqual(self.hands("floor 1 2 3 4\nsnare 1& 2& 3& 4&"), "RLRLRLRL")

    def test_after_a_rest_the_lead_hand_has_the_beat(self):
        self.assertEqual(self.hands("snare 1 1& 3& 4 4&"), "RLLRL")
        self.assertEqual(self.hands("snare 1 1& 3 3& 4"), "RLRLR")

    def test_where_the_lead_hand_crosses_nothing_it_begins(self):
        for lines in ("snare 1*\nhigh 2*\nmid 3*\nfloor 4*", "snare 1 1e\nhigh 1& 1a"):
            with self.subTest(lines):
                self.assertTrue(self.hands(lines).startswith("RL"))


class Conflicts(unittest.TestCase):
    def told(self, lines, bpm=90):
        bar = make_bar(lines)
        tempo = Tempo(Fraction(1), bpm)
        return [
            str(problem) for problem in as_problems(conflicts(stick_bar(bar), bar, tempo), bar)
        ]

    def test_a_plain_groove_has_none(self):
        self.assertEqual(self.told("hat 8ths, open 4&\nsnare 2 4\nkick 1 3\nfoot 1"), [])

    def test_three_things_for_two_hands(self):
        self.assertIn("two hands can't strike three", self.told("snare 1\nhigh 1\nfloor 1")[0])

    def test_a_foot_has_its_limit_and_so_have_rolls(self):
        self.assertEqual(self.told("kick 1 1& 2 2& 3", 150), [])  # five a second
        (said,) = self.told("kick 1 1e 1&", 90)
        self.assertIn("the right foot plays 6.0 strokes a second", said)
        (said,) = self.told("snare roll 9 1-1&, 1&", 80)
        self.assertIn("the 9-stroke roll plays 21.3 strokes a second", said)
        self.assertEqual(self.told("snare roll 9 1-2, 2", 80), [])

    def test_one_hand_written_on_two_surfaces(self):
        said = self.told("high 1\nsnare 1\nhands R R")
        self.assertIn("the right hand is written on high tom and snare at once", said[0])

    def test_arms_crossed(self):
        self.assertEqual(
            self.told("high 1\nfloor 1\nhands R L"),
            ["bar 1: on 1: the arms cross over high tom and floor tom"],
        )

    def test_the_foot_closes_a_hat_that_should_ring(self):
        said = self.told("hat open 3\nfoot 3")
        self.assertIn("on 3: the open hat can't ring, the foot closes it there", said[0])

    def test_one_hand_too_fast_and_from_when_on(self):
        lines = "snare 16ths\nhands " + "R" * 16
        self.assertEqual(self.told(lines, 60), [])
        (said,) = self.told(lines, 120)
        self.assertIn("the right hand plays 8.0 strokes a second at crotchet = 120", said)
        self.assertIn("it is the limit from crotchet = 90 on", said)
        self.assertEqual(single_hand_limit(stick_bar(make_bar(lines))), 90)
