"""Habits over days, a teacher's rule, and what else is judged of a take."""

import unittest
from dataclasses import replace
from datetime import date, timedelta

from wren_ladder.drumming.chart import Drum, Grace
from wren_ladder.drumming.hands import Limb
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.performance import OnsetKind, perform
from wren_ladder.drumming.study import study
from wren_ladder.drumming.take_sources.heard import Heard, Source
from wren_ladder.drumming.take_sources.simulated import Fault, Player, play
from wren_ladder.drumming.takes.hear import hear
from wren_ladder.drumming.takes.judged import Kind
from wren_ladder.drumming.takes.limits import Rule, Unit, house_rule, subdivision
from wren_ladder.drumming.takes.weeks import (
    Habit,
    HabitKind,
    LimbMeasured,
    TakeMeasured,
    habits,
)
from wren_ladder.drumming.takes.words import habit_for_parents, habit_sentence, sentence

FIRST = date(2025, 10, 3)
PASSES = 8


def days(*lean: float, spread: float = 0.01, limb: Limb = Limb.LEFT_FOOT) -> list[TakeMeasured]:
    """A take a day, every other day."""
    usual = LimbMeasured(0.001, 0.01, 40)
    return [
        TakeMeasured(
            FIRST + timedelta(days=2 * place),
            90,
            {
                Limb.RIGHT_HAND: usual,
                Limb.LEFT_HAND: usual,
                Limb.RIGHT_FOOT: usual,
                limb: LimbMeasured(one, spread, 16),
            },
        )
        for place, one in enumerate(lean)
    ]


class Habits(unittest.TestCase):
    def test_it_holds_over_three_days_or_is_none(self):
        self.assertEqual(habits(days(0.04, 0.04)), ())
        (found,) = habits(days(0.04, 0.04, 0.04))
        self.assertEqual(found, Habit(HabitKind.LATE, Limb.LEFT_FOOT, 0.04, FIRST, 3))
        self.assertEqual(
            habit_sentence(found),
            "The left foot comes late since 3 October: 40 ms over 3 days of takes.",
        )
        self.assertIn("still comes a little late", habit_for_parents(found))

    def test_a_good_day_ends_it_and_it_begins_anew(self):
        self.assertEqual(habits(days(0.04, 0.04, 0.04, 0.0)), ())
        (found,) = habits(days(0.04, 0.0, 0.03, 0.04, 0.05))
        self.assertEqual((found.since, found.days), (FIRST + timedelta(days=4), 3))

    def test_three_takes_of_one_day_are_one_day(self):
        same = [
            TakeMeasured(FIRST, one.tempo, one.limbs) for one in days(0.04, 0.04, 0.04, 0.04)
        ]
        self.assertEqual(habits(same), ())

    def test_early_and_uneven(self):
        (early,) = habits(days(-0.03, -0.03, -0.03))
        self.assertEqual(early.kind, HabitKind.EARLY)
        (uneven,) = habits(days(0, 0, 0, spread=0.03))
        self.assertEqual((uneven.kind, uneven.limb), (HabitKind.UNEVEN, Limb.LEFT_FOOT))

    def test_the_order_of_the_takes_does_not_matter(self):
        takes = days(0.04, 0.03, 0.05)
        self.assertEqual(habits(reversed(takes)), habits(takes))


def road(text: str):
    return study(read_chart(text, title="Taken")).road


GROOVE = "meter 4/4\ntempo crotchet = 100\nhat 8ths\nsnare 2 4\nkick 1 3\n"


class TheRule(unittest.TestCase):
    def test_milliseconds_or_a_share_of_the_subdivision(self):
        performance = perform(road(GROOVE))
        self.assertAlmostEqual(subdivision(performance), 0.3)
        share = Rule(5, 10, 5, Unit.SHARE).limits(performance)
        self.assertAlmostEqual(share.spread, 0.03)
        self.assertAlmostEqual(share.lean, 0.015)
        self.assertAlmostEqual(Rule(5, 10, 5).limits(performance).spread, 0.01)

    def test_a_stricter_rule_makes_less_of_it_clean(self):
        played = road(GROOVE)
        heard = play(perform(played), played, PASSES, 1, player=Player(spread=0.012))
        clean = [
            hear(played, heard, PASSES, rule, Source.KIT).judged.clean
            for rule in (house_rule(1), Rule(5, 8, 8))
        ]
        self.assertEqual(clean, [PASSES, 0])


class Ornaments(unittest.TestCase):
    def take(self, what: str, **played):
        text = f"meter 4/4\ntempo crotchet = 80\nsnare 1 2 3 4, {what} 2 4\n"
        bars = road(text)
        player = Player(spread=0.004)
        heard = play(perform(bars), bars, PASSES, 3, player=player, **played)
        return hear(bars, heard, PASSES, house_rule(3), Source.KIT)

    def test_flams_and_drags_from_note_to_note(self):
        for what, grace in (("flam", Grace.FLAM), ("drag", Grace.DRAG)):
            with self.subTest(what):
                gap = self.take(what).ornaments.gaps[grace]
                self.assertAlmostEqual(gap.value, 0.032, delta=0.008)
                self.assertEqual(gap.strokes, 2 * PASSES)

    def test_wide_drags_are_told_as_such(self):
        found = self.take("drag", faults=[Fault.WIDE_FLAMS]).judged.first
        self.assertEqual((found.kind, found.where), (Kind.GRACES, "drags"))
        self.assertRegex(sentence(found), r"^The drags are too wide: \d+ ms from note to note")

    def test_an_uneven_roll(self):
        bars = road("meter 4/4\ntempo crotchet = 60\nsnare roll 9 1-3, 3, 4\n")
        performance = perform(bars)
        even = play(performance, bars, PASSES, 3, player=Player(spread=0.004))
        take = hear(bars, even, PASSES, house_rule(3), Source.KIT)
        self.assertLess(take.ornaments.rolls.value, 0.15)
        at = {round(one.at, 3) for one in performance.onsets if one.kind is OnsetKind.ROLL}
        limped = [
            Heard(one.at + (0.09 if place % 2 else 0), one.drum, one.strength)
            for place, one in enumerate(even)
        ]
        self.assertGreater(len(at), 6)
        rough = hear(bars, limped, PASSES, house_rule(1), Source.KIT)
        self.assertGreater(rough.ornaments.rolls.value, 0.3)


class TwoLimbs(unittest.TestCase):
    def test_hat_and_foot_that_are_split_are_told_by_both_limbs(self):
        """A kick that is late only where a hand strikes with it."""
        bars = road("meter 4/4\ntempo crotchet = 100\nhat 8ths\nkick 1 1e 2 2e 3 3e 4 4e\n")
        performance = perform(bars)
        hands = {round(one.at, 3) for one in performance.onsets if one.drum is Drum.HIHAT}
        heard = [
            Heard(one.at + (0.036 if _split(one, hands) else 0), one.drum, 0.6)
            for number in range(PASSES)
            for one in _moved(performance, number)
        ]
        found = hear(bars, heard, PASSES, house_rule(1), Source.KIT).judged.first
        self.assertEqual((found.kind, found.limb), (Kind.APART, Limb.RIGHT_FOOT))
        self.assertRegex(
            sentence(found), "comes 3. ms late where it should be one with the right hand"
        )

    def test_a_loud_cymbal_is_told_last(self):
        bars = road(GROOVE)
        heard = [
            Heard(one.at, one.drum, 0.9 if one.drum is Drum.HIHAT else 0.5)
            for one in play(perform(bars), bars, PASSES, 4)
        ]
        found = hear(bars, heard, PASSES, house_rule(3), Source.KIT).judged.first
        self.assertEqual(found.kind, Kind.BALANCE)
        self.assertIn("1.8 times as loud as snare and kick", sentence(found))


def _moved(performance, number):
    return [
        replace(one, at=one.at + number * performance.seconds) for one in performance.onsets
    ]


def _split(one, hands) -> bool:
    return one.drum is Drum.KICK and round(one.at % 2.4, 3) in hands
