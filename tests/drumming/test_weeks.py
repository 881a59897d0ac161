"""A plan laid out over weeks: arithmetic of minutes and dates."""

import unittest
from datetime import date, timedelta

from hypothesis import given
from hypothesis import strategies as st

from wren_ladder.drumming.breakdown import Pace, Work, schedule, slowly_first, start_for

MONDAY = date(2026, 3, 2)
PACE = Pace(lesson=30, days=5, home=15)


def works(*minutes: float) -> list[Work]:
    """Steps that a week's practice could bring home."""
    return [Work(each, 1) for each in minutes]


class Weeks(unittest.TestCase):
    def test_steps_fill_the_weeks_in_order_and_a_long_one_goes_on(self):
        found = schedule(works(60, 50, 100), PACE, MONDAY)
        self.assertEqual(PACE.minutes, 105)
        self.assertEqual([week.shares for week in found.weeks],
                         [((0, 60), (1, 45)), ((1, 5), (2, 100))])  # fmt: skip
        self.assertEqual([week.first for week in found.weeks], [MONDAY, date(2026, 3, 9)])

    def test_it_says_whether_the_exam_leaves_room(self):
        def said(minutes, weeks):
            return schedule(
                works(minutes), PACE, MONDAY, MONDAY + timedelta(weeks=weeks)
            ).spoken

        need = "3 weeks at 105 minutes a week"
        self.assertEqual(schedule(works(315), PACE, MONDAY).spoken, need)
        until = "until the last 2, kept for full runs"
        self.assertEqual(said(315, 7), f"{need}; 5 weeks {until}: 2 in hand")
        self.assertEqual(said(315, 5), f"{need}; 3 weeks {until}: just enough")
        # 315 minutes in 2 weeks are 158 a week, 53 more than there are.
        self.assertEqual(
            said(315, 4),
            f"{need}; 2 weeks {until}: 1 too many. It would take 53 minutes a week more",
        )
        self.assertIn("too late to build all of it", said(315, 1))
        slow = schedule([Work(120, 30)], PACE, MONDAY, MONDAY + timedelta(weeks=4))
        self.assertIn("One step alone takes 30 days of practice", slow.spoken)

    def test_a_line_goes_slowly_before_any_of_it_is_driven_up(self):
        order = slowly_first(works(100, 100, 50, 40), [False, False, True, True])
        self.assertEqual([place for place, _ in order], [0, 1, 2, 0, 1, 2, 3, 3])
        self.assertEqual(sum(minutes for _, minutes in order), 290)
        self.assertLess(order[0][1], order[3][1])
        weeks = schedule(works(100, 100, 50, 40), PACE, MONDAY, None, order).weeks
        self.assertEqual(weeks[0].steps, (0, 1, 2))
        self.assertAlmostEqual(sum(week.minutes for week in weeks), 290)

    def test_one_hard_bar_takes_its_days_and_what_follows_begins_meanwhile(self):
        # 40 practice days of 6 minutes; a day holds a step twice, a week has six.
        found = schedule([Work(240, 40), Work(60, 10), Work(30, 6)], PACE, MONDAY)
        self.assertEqual([week.shares for week in found.weeks],
                         [((0, 72), (1, 33)), ((0, 72), (1, 27), (2, 6)),
                          ((0, 72), (2, 24)), ((0, 24),)])  # fmt: skip

    def test_nothing_left_needs_no_week(self):
        self.assertEqual(schedule(works(0, 0), PACE, MONDAY).weeks, ())

    @given(st.lists(st.floats(0, 500), max_size=12), st.integers(5, 90), st.integers(0, 7))
    def test_no_week_is_overfull_and_no_minute_is_lost(self, minutes, lesson, days):
        pace = Pace(lesson, days, 20)
        found = schedule(works(*minutes), pace, MONDAY)
        for week in found.weeks:
            self.assertLessEqual(week.minutes, pace.minutes + 1e-6)
        self.assertAlmostEqual(
            sum(week.minutes for week in found.weeks), sum(minutes), places=4
        )
        order = [place for week in found.weeks for place in week.steps]
        self.assertEqual(order, sorted(order))


class Starts(unittest.TestCase):
    def test_what_is_hard_starts_lower(self):
        self.assertEqual(start_for(120, 75, 0), 90)
        self.assertEqual(start_for(120, 75, 3.0), 75)  # 65 % of 120 is 78, down to 75
        self.assertEqual(start_for(120, 75, 6.0), 65)  # 55 % is 66
        self.assertEqual(start_for(120, 100, 0), 120)
        # No beat is slower than a metronome's first mark, 40, unless the piece is.
        self.assertEqual((start_for(76, 60, 6.0), start_for(44, 60, 6.0)), (40, 40))
