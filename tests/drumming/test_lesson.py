"""The half hour: what to hear, when to go on, what to decide."""

import unittest
from dataclasses import replace

from tests.builders import DAY, tries
from tests.drumming.test_week import STEPS
from wren_ladder.drumming.climb import ClimbRule, rungs
from wren_ladder.drumming.forecast import Forecast, Outlook, Status
from wren_ladder.drumming.practice.lesson import (
    agenda,
    decision,
    in_plain_words,
    move_on,
    what_it_did,
)
from wren_ladder.drumming.practice.week import OpenStep


def seen(status: Status, chance: int | None = None) -> Outlook:
    return Outlook(status, Forecast(DAY), DAY, chance)


class Agenda(unittest.TestCase):
    def test_what_was_set_comes_first_then_the_slowest(self):
        found = agenda(STEPS, {6, 4}, 60)
        self.assertEqual([one.key for one in found], [4, 6, 2, 3, 1, 5])
        self.assertEqual(found[0].why, "was set last time")
        self.assertEqual(
            (found[2].why, found[-1].why), ("the slowest", "not played for a while")
        )

    def test_what_is_at_target_is_heard_only_when_old(self):
        self.assertNotIn(5, [one.key for one in agenda(STEPS, {5}, 16)])

    def test_it_fits_the_minutes_and_is_never_less_than_three(self):
        self.assertEqual(len(agenda(STEPS, (), 20)), 5)
        self.assertEqual(len(agenda(STEPS, (), 5)), 3)

    def test_of_a_long_plan_a_few_of_each_are_heard_and_never_more_than_twelve(self):
        steps = [
            OpenStep(n, f"Step {n}", 60 + n, 70 + n, 200, 60, n, is_bar=n > 20, is_join=n < 20)
            for n in range(10, 31)
        ]
        old = [replace(STEPS[4], key=100 + n, idle=n) for n in (10, 11, 30, 20)]
        found = agenda([*steps, *old], (), 100)
        whys: dict[str, list[int]] = {}
        for one in found:
            whys.setdefault(one.why, []).append(one.key)
        self.assertEqual(
            whys,
            {
                "the slowest": [10, 11, 12],
                "the hardest bar left": [30, 29],
                "not played for a while": [130, 120],
                "next slowest": [13, 14, 15, 16, 17],
            },
        )
        self.assertEqual(len(agenda([*steps, *old], {10}, 100)), 12)

    def test_two_joins_are_heard(self):
        bars = [OpenStep(n, "Bar", 50 + n, 60, 120, 50, is_bar=True) for n in range(3)]
        joins = [OpenStep(10 + n, "Join", 90, 95, 120, 80, is_join=True) for n in range(3)]
        whys = [one.why for one in agenda([*bars, *joins], (), 60)]
        self.assertEqual((whys.count("a join"), whys.count("next slowest")), (2, 1))

    def test_nothing_left_is_an_empty_lesson(self):
        self.assertEqual(agenda((), (), 30), ())


class MovingOn(unittest.TestCase):
    def test_a_rung_earned_or_three_tries_are_enough(self):
        self.assertEqual(move_on(90, 95, 1), "95 earned")
        self.assertEqual(move_on(None, 90, 1), "90 earned")
        self.assertEqual(move_on(90, 90, 3), "3 tries are enough for one lesson")

    def test_else_it_is_tried_again(self):
        self.assertEqual(move_on(90, 90, 2), "")
        self.assertEqual(move_on(None, None, 1), "")
        self.assertEqual(move_on(90, 85, 2), "")


class Told(unittest.TestCase):
    CLIMB = ClimbRule(rungs(80, 100, 5), bars=4)

    def test_what_a_try_did_is_said_at_once(self):
        for log, said, plainly in (
            (["80+8"], "80 clean: rung 80 earned", "80 clean: 80 is yours now"),
            (["80+8", "85-"], "85 not yet: logged, 85 again", "85 not yet: kept, 85 again"),
            (["80+8", "85-", "85-"], "85 not yet: next 80", "85 not yet: next 80"),
            (["80+2"], "80 clean: logged, 80 again", "80 clean: kept, 80 again"),
        ):
            with self.subTest(log):
                self.assertEqual(what_it_did(self.CLIMB, tries(*log)), said)
                self.assertEqual(what_it_did(self.CLIMB, tries(*log), plainly=True), plainly)

    def test_a_child_is_told_without_rungs(self):
        for given, said in (
            ((None, 80, 100, False), "Begin at 80."),
            ((80, 85, 100, False), "80 is yours. Now 85."),
            ((85, 80, 100, True), "A bit slower is fine today: 80."),
            ((100, 100, 100, False), "You can play it at 100: keep it that way."),
        ):
            self.assertEqual(in_plain_words(*given), said)


class Deciding(unittest.TestCase):
    def test_the_most_pressing_is_said_and_nothing_else(self):
        for given, said in (
            ((seen(Status.READY), "", "", 0), "At target: the next piece"),
            ((seen(Status.BEHIND, 12), "Bar 4", "stuck", 30), "Nothing practised for 30 days"),
            ((seen(Status.BEHIND, 12), "Bar 4", "stuck", 2), "Behind, 12 % in time"),
            ((seen(Status.BEHIND, 0), "", "", 2), "Behind, under 1 % in time"),
            ((seen(Status.TIGHT, 50), "Bar 4", "Bar 2, stuck", 2), "A plateau: Bar 2, stuck"),
            ((seen(Status.TIGHT, 50), "Bar 4", "", 2), "Bar 4 fell back"),
            ((seen(Status.TIGHT, 50), "", "", 2), "Tight, 50 % in time"),
            ((seen(Status.UNKNOWN), "", "", None), "Too little data"),
        ):
            with self.subTest(said):
                self.assertTrue(decision(*given).startswith(said), decision(*given))

    def test_ten_days_are_not_yet_long(self):
        self.assertEqual(decision(seen(Status.SAFE, 95), "", "", 10), "")
        self.assertIn("for 11 days", decision(seen(Status.SAFE, 95), "", "", 11))

    def test_there_may_be_nothing_to_decide(self):
        self.assertEqual(decision(seen(Status.SAFE, 95), "", "", 2), "")


if __name__ == "__main__":
    unittest.main()
