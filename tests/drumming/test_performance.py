"""Music as it sounds: onsets, clicks and lengths in seconds."""

import unittest
from fractions import Fraction
from itertools import groupby, pairwise

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.builders import make_chart
from tests.strategies import charts
from wren_ladder.drumming.breakdown import Step, StepKind, perform_step, step_seconds
from wren_ladder.drumming.chart import Drum, Hand, Roll, RollKind, Tempo
from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.hands.limbs import LIMB_OF
from wren_ladder.drumming.performance import (
    Onset,
    OnsetKind,
    Performance,
    perform,
    road_seconds,
    seconds,
    strokes_per_second,
)
from wren_ladder.drumming.performance.strokes import roll_limbs, roll_strokes
from wren_ladder.drumming.rudiments import by_name
from wren_ladder.drumming.rudiments.rolls import last_hand
from wren_ladder.drumming.study import study

F = Fraction


def played(text: str, order=(0,), **how) -> Performance:
    return perform(study(make_chart(text)).played(order), **how)


def times(performance: Performance, drum: Drum) -> list[float]:
    return [round(one.at, 4) for one in performance.onsets if one.drum is drum]


class Clock(unittest.TestCase):
    """Arithmetic of the metronome."""

    def test_a_crotchet_at_120_lasts_half_a_second(self):
        self.assertEqual(seconds(F(1), Tempo(F(1), 120)), 0.5)

    def test_a_dotted_crotchet_beat_at_60_holds_three_quavers(self):
        self.assertAlmostEqual(seconds(F(1, 2), Tempo(F(3, 2), 60)), 1 / 3)

    def test_a_doubled_semiquaver_triplet_at_60_is_twelve_strokes_a_second(self):
        self.assertAlmostEqual(strokes_per_second(F(1, 6), Tempo(F(1), 60)), 12)


class Strokes(unittest.TestCase):
    def test_onsets_have_seconds_crotchets_limb_bar_and_pass(self):
        performance = played("tempo crotchet = 120\nhat 8ths\nsnare 2 4\nkick 1 3", (0, 0))
        snare = [one for one in performance.onsets if one.drum is Drum.SNARE]
        self.assertEqual([one.at for one in snare], [0.5, 1.5, 2.5, 3.5])
        self.assertEqual([one.position for one in snare], [1, 3, 5, 7])
        self.assertEqual([one.time for one in snare], [1, 1, 2, 2])
        self.assertEqual({one.limb for one in snare}, {Limb.LEFT_HAND})
        self.assertEqual((performance.seconds, performance.length), (4.0, 8))

    def test_ghosts_are_softer_than_taps_and_taps_than_accents(self):
        performance = played("snare ghost 1, 2, accent 3, strong 4")
        strengths = [one.strength for one in performance.onsets]
        self.assertEqual(strengths, sorted(set(strengths)))

    def test_a_flam_is_a_flam_at_60_and_at_200(self):
        for bpm in (60, 200):
            grace, main = played(f"tempo crotchet = {bpm}\nsnare flam 2").onsets
            with self.subTest(bpm):
                self.assertAlmostEqual(main.at - grace.at, 0.030)
                self.assertEqual((grace.kind, main.kind), (OnsetKind.GRACE, OnsetKind.MAIN))
                self.assertIsNot(grace.limb, main.limb)

    def test_a_drags_graces_are_one_hand_and_a_ruffs_go_hand_to_hand(self):
        drag = [one.limb for one in played("snare drag 2").onsets]
        ruff = [one.limb for one in played("snare ruff 2").onsets]
        right, left = Limb.RIGHT_HAND, Limb.LEFT_HAND
        self.assertEqual(drag, [left, left, right])
        self.assertEqual(ruff, [left, right, left, right])

    def test_graces_give_way_to_a_stroke_close_before(self):
        performance = played("tempo crotchet = 400\nsnare 32nds 1-1, ruff 1+7/8")
        before, *ruff = sorted(one.at for one in performance.onsets)[-5:]
        self.assertTrue(all(before < at for at in ruff))

    @settings(max_examples=150)
    @given(charts(most=3), st.sampled_from([F(1, 2), F(1), F(2)]))
    def test_no_grace_comes_before_the_hands_stroke_before_it(self, chart, share):
        onsets = perform(study(chart).played(range(len(chart.bars))), share).onsets
        mains = [one for one in onsets if one.kind is OnsetKind.MAIN and not one.drum.by_foot]
        for grace in onsets:
            if grace.kind is not OnsetKind.GRACE:
                continue
            main = grace.at + grace.ahead
            earlier = [one.at for one in mains if one.at < main - 1e-9]
            self.assertLess(max(earlier, default=-1), grace.at)


class Rolls(unittest.TestCase):
    def test_a_counted_roll_has_its_strokes_and_ends_on_the_next_note(self):
        performance = played("tempo crotchet = 60\nsnare roll 5 3-4, 4")
        self.assertEqual(times(performance, Drum.SNARE), [2, 2.25, 2.5, 2.75, 3])
        kinds = [one.kind for one in performance.onsets]
        self.assertEqual(kinds, [OnsetKind.MAIN, *[OnsetKind.ROLL] * 3, OnsetKind.MAIN])

    def test_the_hands_of_counted_rolls_are_the_published_lists(self):
        """Percussive Arts Society, International Drum Rudiments, 1984: the stickings, less the
        ending stroke, against the rudiments already in the project."""
        names = {5: "five", 6: "six", 7: "seven", 9: "nine", 10: "ten", 13: "thirteen"}
        names |= {11: "eleven", 15: "fifteen", 17: "seventeen"}
        for count, word in names.items():
            written = [stroke.hand for stroke in by_name(f"{word} stroke roll").strokes]
            roll = Roll(RollKind.OPEN, F(1), count)
            first = Limb.RIGHT_HAND if written[0] == "R" else Limb.LEFT_HAND
            letters = [
                "R" if one is Limb.RIGHT_HAND else "L" for one in roll_limbs(roll, first)
            ]
            with self.subTest(count):
                self.assertEqual(len(roll_strokes(roll)), count - 1)
                self.assertEqual(letters, written[: count - 1])

    @given(
        st.sampled_from((5, 7, 9, 11, 13, 15, 17)), st.sampled_from(Hand), st.integers(1, 16)
    )
    def test_its_strokes_go_in_pairs_from_its_first_hand_to_the_ending(self, count, hand, part):
        roll = Roll(RollKind.OPEN, F(part, 4), count)
        played = roll_limbs(roll, LIMB_OF[hand])
        pairs = list(zip(played[::2], played[1::2], strict=True))
        self.assertTrue(all(one is other for one, other in pairs))
        self.assertTrue(all(one != other for (one, _), (other, _) in pairwise(pairs)))
        ending = last_hand(roll, hand).other
        self.assertNotEqual(LIMB_OF[ending], played[-1])
        self.assertEqual(ending is hand, count in (5, 9, 13, 17))

    def test_an_open_roll_is_made_of_strokes_and_an_accent_is_its_first_ones_alone(self):
        for text, least, most in (
            ("snare roll 3-4", 0.8, 0.95),
            ("snare roll 3-4, accent 3", 0.8, 0.95),
            ("snare buzz 3-4", 0.4, 0.7),
        ):
            with self.subTest(text):
                onsets = played(f"tempo crotchet = 60\n{text}").onsets
                inside = {one.strength for one in onsets if one.place}
                tap = played("tempo crotchet = 60\nsnare 3").onsets[0].strength
                self.assertEqual(len(inside), 1)
                self.assertTrue(least * tap <= inside.pop() <= most * tap)
                self.assertGreaterEqual(onsets[0].strength, tap)

    def test_singles_and_buzzes_go_hand_to_hand_and_open_rolls_in_doubles(self):
        right = Limb.RIGHT_HAND
        for kind, pattern in (
            (RollKind.SINGLE, "RLRLRLRL"),
            (RollKind.OPEN, "RRLLRRLL"),
            (RollKind.BUZZ, "RRRRLLLLRRRRLLLL"),  # a press of each hand for a semiquaver
        ):
            limbs = roll_limbs(Roll(kind, F(1)), right)
            self.assertEqual("".join(one[0].upper() for one in limbs), pattern)
        self.assertGreater(
            len(roll_strokes(Roll(RollKind.BUZZ, F(1)))),
            len(roll_strokes(Roll(RollKind.OPEN, F(1)))),
        )


class CountIn(unittest.TestCase):
    def clicks(self, text: str) -> list[float]:
        performance = played(f"tempo crotchet = 60\n{text}", count_in=True)
        return [round(one.at, 3) for one in performance.clicks if one.counted_in]

    def test_the_clicks_end_before_the_first_bar_and_come_on_its_beats(self):
        self.assertEqual(self.clicks("kick 1"), [-4, -3, -2, -1])
        self.assertEqual(self.clicks("meter 3/4\nbar 1\nkick 1"), [-6, -5, -4, -3, -2, -1])

    def test_a_pick_up_leaves_what_is_before_it(self):
        """The bar begins with its pick-up, so the last click is a beat before its note."""
        self.assertEqual(self.clicks("bar 0\nbeats 1\nsnare 4"), [-3, -2, -1])

    def test_a_bar_that_begins_with_rests_is_counted_on_through_them(self):
        self.assertEqual(self.clicks("snare 3 4"), [-4, -3, -2, -1, 0, 1])


class Lengths(unittest.TestCase):
    def test_a_tempo_mark_inside_counts(self):
        text = "bar 1\ntempo crotchet = 60\nkick 1\nbar 2\ntempo crotchet = 120\nkick 1"
        performance = played(text, (0, 1))
        self.assertEqual(performance.seconds, 6)
        self.assertEqual(times(performance, Drum.KICK), [0, 4])
        self.assertEqual([str(tempo) for _, tempo in performance.tempos][1], "crotchet = 120")

    def test_empty_bars_behind_are_clicked_and_counted(self):
        performance = played("tempo crotchet = 60\nkick 1", empty_bars=2)
        self.assertEqual((performance.seconds, len(performance.clicks)), (12, 12))
        self.assertEqual(len(performance.onsets), 1)

    @settings(max_examples=100)
    @given(charts(most=4))
    def test_the_road_lasts_as_long_as_its_bars(self, chart):
        studied = study(chart)
        if len(studied.visits) < 200:
            lasts = perform(studied.road).seconds
            self.assertAlmostEqual(lasts, road_seconds(chart, studied.visits), places=6)
            self.assertAlmostEqual(lasts, studied.seconds, places=6)


class Steps(unittest.TestCase):
    """What is expected of a step is one call away."""

    TEXT = (
        "bar 1\ntempo crotchet = 60\nhat 8ths\nsnare 2 4\nkick 1 3\n"
        "bar 2\ntempo crotchet = 120\nhat 8ths\nsnare accent 2 4, flam 3\nkick 1\n"
        "bar 3 as 1"
    )

    def setUp(self):
        self.studied = study(make_chart(self.TEXT))

    def test_a_step_behind_a_tempo_mark_sounds_at_that_marks_speed(self):
        """120 is the piece's opening beat doubled, so the second bar's mark is 240."""
        step = Step(StepKind.BAR, 1, 1, 4, "")
        performance = perform_step(step, self.studied, 120)
        self.assertEqual(performance.seconds, 1)
        self.assertEqual(times(performance, Drum.KICK), [0])

    def test_minutes_and_sound_are_one_length(self):
        for kind, part, first, last in (
            (StepKind.BAR, "", 1, 1),
            (StepKind.PAIR, "", 0, 1),
            (StepKind.ON, "", 0, 1),
            (StepKind.PHRASE, "", 0, 2),
            (StepKind.WHOLE, "", 0, 2),
        ):
            step = Step(kind, first, last, 1, "", part)
            with self.subTest(kind):
                heard = perform_step(step, self.studied, 90).seconds
                self.assertAlmostEqual(heard, step_seconds(step, self.studied, 90))

    def test_onsets_come_in_order_and_know_their_bar(self):
        onsets: tuple[Onset, ...] = perform_step(
            Step(StepKind.WHOLE, 0, 2, 1, ""), self.studied, 60
        ).onsets
        self.assertTrue(all(a.at <= b.at for a, b in pairwise(onsets)))
        self.assertEqual([bar for bar, _ in groupby(one.bar for one in onsets)], [0, 1, 2])


if __name__ == "__main__":
    unittest.main()
