"""The week as it was set in the lesson: every line has its days, no day has too much."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.builders import DAY
from wren_ladder.drumming.practice.as_set import (
    WARM_UP,
    SetLine,
    days_of,
    share_out_lines,
    without_a_day,
)
from wren_ladder.drumming.practice.week import DayPart

LISTEN = SetLine("listen to the recording")


def line(name: str, minutes: int = 4, **fields) -> SetLine:
    return SetLine(name, "Quay", 1, 90, minutes, **fields)


def names(lines, days=5, minutes=15, ears=999) -> list[list[str]]:
    week = share_out_lines(lines, days, minutes, ears)
    return [[item.what for item in day.items] for day in days_of(week, lines, DAY)]


class Days(unittest.TestCase):
    def test_the_first_line_is_there_every_day_and_the_others_take_turns(self):
        played = [day[1:] for day in names([line(name) for name in "ABCDE"]) if day]
        self.assertEqual(
            played,
            [
                ["A", "B", "C"],
                ["A", "D", "E"],
                ["A", "B", "C"],
                ["A", "D", "E"],
                ["A", "B", "C"],
            ],
        )

    def test_the_teachers_order_holds_within_a_day(self):
        days = names([line("A"), LISTEN, line("B")])
        self.assertEqual(days[0], ["singles and doubles", "A", LISTEN.name, "B"])

    def test_what_takes_no_time_is_there_every_day_of_practice(self):
        lines = [LISTEN, line("A", 13)]
        self.assertEqual([LISTEN.name in day for day in names(lines, days=3)], [
            True, False, True, False, True, False, False,
        ])  # fmt: skip

    def test_a_line_longer_than_the_day_is_cut_to_it(self):
        week = share_out_lines([line("A", 60)], 3, 15, 999)
        self.assertEqual([turn.minutes for turn in week[0]], [2, 13])

    def test_a_short_day_has_no_warm_up_of_its_own(self):
        self.assertEqual(names([line("A")], minutes=7)[0], ["A"])
        self.assertEqual(names([line("A")], minutes=8)[0], ["singles and doubles", "A"])

    def test_what_finds_no_day_is_told(self):
        lines = [line("A", 10), line("B", 10), line("C", 10)]
        week = share_out_lines(lines, 1, 15, 999)
        self.assertEqual([one.name for one in without_a_day(week, lines)], ["C"])

    def test_nothing_set_is_a_week_of_rest(self):
        self.assertEqual(names([]), [[]] * 7)

    def test_what_the_ears_do_not_allow_is_for_the_pad(self):
        lines = [line("A", 6), line("B", 6)]
        day = days_of(share_out_lines(lines, 5, 15, 7), lines, DAY)[0]
        self.assertLessEqual(day.on_kit, 7)
        self.assertEqual([item.on_pad for item in day.items], [True, False, True])


class Never(unittest.TestCase):
    @given(
        st.lists(st.integers(0, 30), max_size=12),
        st.integers(0, 7),
        st.integers(0, 60),
        st.integers(0, 60),
    )
    def test_no_day_exceeds_its_minutes_or_the_ears_and_no_line_is_twice_on_one(
        self, minutes, days, a_day, ears
    ):
        lines = [line(str(n), spent) for n, spent in enumerate(minutes)]
        week = share_out_lines(lines, days, a_day, ears)
        self.assertEqual(len(week), 7)
        for turns, day in zip(week, days_of(week, lines, DAY), strict=True):
            self.assertLessEqual(day.minutes, a_day)
            self.assertLessEqual(day.on_kit, ears)
            places = [turn.line for turn in turns if turn.line != WARM_UP]
            self.assertEqual(places, sorted(set(places)))

    @given(st.integers(1, 12), st.integers(2, 6))
    def test_where_there_is_room_every_line_has_a_day(self, many, days):
        lines = [line(str(n), 4) for n in range(min(many, 1 + 2 * min(days, 6)))]
        week = share_out_lines(lines, days, 15, 999)
        self.assertEqual(without_a_day(week, lines), ())

    def test_the_part_says_that_the_teacher_set_it(self):
        lines = [line("A")]
        day = days_of(share_out_lines(lines, 5, 15, 999), lines, DAY)[0]
        self.assertEqual([item.part for item in day.items], [DayPart.WARM_UP, DayPart.SET])
