"""Will it be ready, and what decides that?"""

import unittest
from dataclasses import replace
from datetime import date, timedelta

from tests.builders import DAY
from wren_ladder.drumming.climb import Attempt, ClimbRule, rungs
from wren_ladder.drumming.forecast import (
    Forecast,
    Habit,
    Journey,
    Left,
    Status,
    Track,
    forecast,
    habit_of,
    levers,
    nearer,
    outlook,
    own_gain,
    pace,
    practice_days,
)

CLIMB = ClimbRule(rungs(80, 120, 5), bars=4)


def day(number: int) -> date:
    return DAY + timedelta(days=number)


def climbed(gain: int = 5, every: int = 2, days: int = 5, climb: ClimbRule = CLIMB) -> Track:
    """A rung a practice day, after a try that fails."""
    log = []
    for number in range(days):
        tempo = climb.rungs[0] + gain * number
        log.append(Attempt(day(every * number), tempo + 5, False))
        log.append(Attempt(day(every * number), tempo, True, climb.passes))
    return Track(climb, tuple(log))


def ask(*tracks: Track, today: date | None = None, usual: float | None = None) -> Forecast:
    today = today or day(9)
    return forecast(Journey(tracks, habit_of(tracks, today, 3, 2), usual), today)


class Known(unittest.TestCase):
    def test_a_climb_of_known_pace_is_over_about_when_it_should(self):
        """100 of 120 held, 5 BPM a practice day, every other day: four days of practice."""
        found = ask(climbed())
        self.assertTrue(day(9) < found.median < day(40))
        low, high = found.window
        self.assertTrue(low < found.median < high)

    def test_a_slower_climb_takes_longer(self):
        self.assertLess(ask(climbed(gain=5)).median, ask(climbed(gain=2)).median)

    def test_more_steps_than_fit_into_a_day_take_longer(self):
        few, many = [climbed()] * 2, [climbed()] * 12
        habit = Habit((3.0,), 2)
        first, second = (
            forecast(Journey(tuple(tracks), habit), day(9)).median for tracks in (few, many)
        )
        self.assertLess(first, second)

    def test_the_same_question_has_the_same_answer(self):
        self.assertEqual(ask(climbed()), ask(climbed()))

    def test_the_chance_rises_with_the_time_there_is(self):
        found = ask(climbed())
        chances = [found.chance(day(9 + later)) for later in range(0, 120, 5)]
        self.assertEqual(chances, sorted(chances))
        self.assertEqual((chances[0], chances[-1]), (0, 100))

    def test_at_target_it_is_over(self):
        found = ask(climbed(days=9))
        self.assertEqual(outlook(found, day(20)).status, Status.READY)

    def test_a_step_that_lost_its_only_rung_is_not_there(self):
        climb = ClimbRule((100,), 4)
        clean, failed = Attempt(day(0), 100, True, 8), Attempt(day(3), 100, False)
        self.assertTrue(Track(climb, (clean,)).is_there)
        self.assertFalse(Track(climb, (clean, failed, failed)).is_there)

    def test_near_enough_is_there(self):
        climb = ClimbRule(CLIMB.rungs, 4, tolerance=5)
        track = climbed(days=8, climb=climb)
        self.assertEqual(track.held, 115)
        self.assertTrue(track.is_there)


class Unknown(unittest.TestCase):
    def test_it_says_why_it_does_not_know(self):
        short = climbed(days=2)
        for tracks, said in (
            ((), "the plan has no steps"),
            ((Track(CLIMB),), "0 practice days so far; 3 are needed to tell a pace"),
            ((short,), "2 practice days so far; 3 are needed to tell a pace"),
        ):
            with self.subTest(said):
                self.assertEqual(ask(*tracks).unknown, said)

    def test_a_gain_that_leads_nowhere_is_not_given_a_date(self):
        stuck = Track(
            CLIMB, tuple(Attempt(day(7 * n), 80, True, CLIMB.passes) for n in range(4))
        )
        found = forecast(Journey((stuck,) * 9, Habit((0.3,), 1)), day(30))
        self.assertEqual(found.unknown, "at the pace so far it is years away")

    def test_what_is_usual_speaks_while_data_is_short(self):
        once = Track(CLIMB, tuple(climbed(days=3).log[:1]))
        tracks = (once, *(Track(CLIMB, (Attempt(day(n), 85, False),)) for n in (1, 2)))
        self.assertFalse(ask(*tracks).known)
        self.assertTrue(ask(*tracks, usual=2.0).known)


class Pace(unittest.TestCase):
    def test_the_gain_is_in_bpm_a_practice_day(self):
        self.assertEqual(own_gain([climbed()]), (5, 4))

    def test_what_takes_more_effort_takes_longer_and_says_more_of_the_gain(self):
        hard = replace(climbed(), effort=2.0)
        self.assertEqual(own_gain([hard]), (10, 4))
        easy, twice = (ask(climbed(), Track(CLIMB, (), effort)) for effort in (1.0, 2.0))
        self.assertLess(easy.median, twice.median)

    def test_the_first_rungs_before_anything_fails_are_no_gain(self):
        log = [Attempt(day(n), 80 + 10 * n, True, 8) for n in range(3)]
        log += [Attempt(day(3), 105, False), Attempt(day(3), 100, True, 8)]
        log += [Attempt(day(5), 102, True, 8)]
        self.assertEqual(own_gain([Track(CLIMB, tuple(log))])[0], 2)

    def test_the_habit_is_days_in_the_last_weeks_and_steps_a_day(self):
        tracks = (climbed(every=1, days=5), climbed(every=1, days=5))
        habit = habit_of(tracks, day(6), 4, 9)
        self.assertEqual((habit.weeks, habit.steps), ((5, 4.0, 4.0), 2))
        self.assertEqual(len(practice_days(tracks)), 5)

    def test_without_practice_it_is_what_was_agreed(self):
        self.assertEqual(habit_of((Track(CLIMB),), day(0), 4, 3), Habit((4,), 3))

    def test_weeks_without_practice_count(self):
        habit = habit_of((climbed(every=1, days=7),), day(34), 5, 3)
        self.assertEqual(habit.weeks, (0, 0, 0, 0, 7))


class Outlooks(unittest.TestCase):
    sure = Forecast(DAY, tuple(range(20, 121)))  # 1 per cent a day from the 20th on

    def test_safe_tight_behind_by_the_chance_before_the_buffer(self):
        for exam, chance, status in ((124, 91, Status.SAFE), (84, 51, Status.TIGHT)):
            seen = outlook(self.sure, DAY, day(exam))
            self.assertEqual((seen.chance, seen.status), (chance, status))
            self.assertEqual(seen.by, day(exam - 14))
        self.assertEqual(outlook(self.sure, DAY, day(50)).status, Status.BEHIND)

    def test_without_an_exam_or_after_it_there_is_only_a_date(self):
        for exam in (None, day(-1)):
            seen = outlook(self.sure, DAY, exam)
            self.assertEqual((seen.status, seen.chance), (Status.OPEN, None))
            self.assertIn("eight times of ten", seen.spoken)

    def test_days_without_practice_move_it_along_and_thin_the_habit(self):
        """14 of the 56 days that make a habit: everything takes a third longer, from now."""
        seen = outlook(self.sure, day(14), day(84))
        self.assertEqual(seen.forecast.median, day(14 + 94))  # 70 * 56 / 42
        self.assertEqual(seen.chance, 23)  # 56 days from now: quantile 56 * 42 / 56 - 20 + 1

    def test_eight_weeks_without_practice_leave_nothing_to_foretell(self):
        seen = outlook(self.sure, day(56), day(84))
        self.assertEqual(seen.spoken, "not known: nothing practised for 8 weeks")

    def test_without_an_exam_too_little_data_is_no_risk(self):
        seen = outlook(Forecast(DAY, unknown="no steps"), DAY)
        self.assertEqual((seen.status, seen.spoken), (Status.OPEN, "not known: no steps"))

    def test_not_known_is_said_with_its_reason(self):
        seen = outlook(Forecast(DAY, unknown="no steps"), DAY, day(40))
        self.assertEqual(seen.status, Status.UNKNOWN)
        self.assertEqual(seen.spoken, "not known: no steps")

    def test_a_rung_tried_in_vain_for_two_months_is_stuck_and_has_no_date(self):
        log = [*climbed().log]
        log += [Attempt(day(10 + 2 * n), 105, False) for n in range(28)]
        found = ask(Track(CLIMB, tuple(log)), today=day(66))
        self.assertEqual(
            found.unknown, "105 has not come in two months: lower it, split it or wait"
        )
        seen = outlook(found, day(66), day(160))
        self.assertEqual((seen.status, seen.spoken), (Status.BEHIND, found.unknown))
        self.assertIs(outlook(found, day(66)).status, Status.OPEN)
        # A few weeks are no plateau of months, and who climbed again is not stuck.
        self.assertFalse(ask(Track(CLIMB, tuple(log[:20])), today=day(30)).stuck)
        won = Attempt(day(66), 105, True, CLIMB.passes)
        self.assertFalse(ask(Track(CLIMB, (*log, won)), today=day(66)).stuck)

    def test_more_rungs_than_the_days_can_hold_is_behind_without_any_data(self):
        unknown = Forecast(DAY, unknown="nothing practised yet")
        left = Left(rungs=90, steps=15, days=6, a_day=5)
        seen = outlook(unknown, DAY, day(11), left=left)
        self.assertEqual(
            (seen.status, seen.spoken),
            (Status.BEHIND, "90 rungs of 15 steps are left, and 11 days"),
        )
        self.assertIs(outlook(unknown, DAY, day(60), left=left).status, Status.UNKNOWN)

    def test_the_pace_that_is_needed_in_bpm_a_week(self):
        seen = outlook(self.sure, DAY, day(14 + 28))
        found = pace(seen, speed=100, target=120, today=DAY)
        self.assertEqual((found.needed, found.going), (5, 2))
        self.assertIsNone(pace(outlook(self.sure, DAY), 100, 120, DAY).needed)


class Nearer(unittest.TestCase):
    @staticmethod
    def seen(first: int, last: int):
        step = (last - first) / 100
        return outlook(Forecast(DAY, tuple(round(first + step * n) for n in range(101))), DAY)

    def test_the_earlier_middle_wins_and_overlap_is_told(self):
        near, far = ("Quay", self.seen(10, 30)), ("Gates", self.seen(60, 160))
        self.assertEqual(nearer(far, near), "Quay, by about 13 weeks")
        close = ("Gates", self.seen(20, 42))
        self.assertEqual(
            nearer(near, close),
            "Quay, by about 11 days, but not for sure: their windows overlap",
        )

    def test_what_is_there_or_not_known_is_said(self):
        there = ("Quay", outlook(Forecast(DAY, (0,) * 101), DAY))
        unknown = ("Gates", outlook(Forecast(DAY, unknown="no steps"), DAY))
        far = ("Lantern", self.seen(60, 160))
        self.assertEqual(nearer(unknown, there), "Quay is there already")
        self.assertEqual(nearer(unknown, far), "Lantern; of Gates too little is known")
        self.assertEqual(nearer(unknown, unknown), "Neither can be told yet")
        self.assertEqual(nearer(there, there), "Both are at target")


class Levers(unittest.TestCase):
    def setUp(self):
        self.journey = Journey((climbed(gain=3),) * 6, Habit((2.0,), 2))
        found = forecast(self.journey, day(9))
        self.exam = found.at(20) + timedelta(days=14)
        self.seen = outlook(found, day(9), self.exam)

    def test_more_days_a_lower_target_and_one_piece_less(self):
        found = levers(self.journey, self.seen, {"Five Gates": Habit((4.0,), 2)})
        said = [lever.what for lever in found]
        self.assertEqual(said[0], "3 days a week in place of 2.0")
        self.assertIn("without Five Gates", said)
        self.assertTrue(any(what.startswith("a target of ") for what in said))
        for lever in found:
            self.assertGreater(lever.chance, self.seen.chance)

    def test_a_day_of_rest_is_kept(self):
        journey = Journey(self.journey.tracks, Habit((6.0,), 2))
        said = [one.what for one in levers(journey, self.seen, {})]
        self.assertFalse([what for what in said if "days a week" in what])

    def test_without_an_exam_there_is_nothing_to_change(self):
        self.assertEqual(levers(self.journey, outlook(Forecast(DAY), DAY), {}), ())


if __name__ == "__main__":
    unittest.main()
