"""The week: minutes day by day, and what is never done in it."""

import unittest
from dataclasses import replace
from datetime import timedelta

from hypothesis import given
from hypothesis import strategies as st

from tests.builders import DAY
from wren_ladder.drumming.practice.week import (
    DayPart,
    OpenStep,
    PieceWork,
    practice_week,
    spread,
)

STEPS = (
    OpenStep(1, "Bar 1", 90, 95, 120, 85, rank=1, is_bar=True),
    OpenStep(2, "Bar 4", 80, 85, 120, 75, rank=4, is_bar=True),
    OpenStep(3, "Bars 4–5", 85, 90, 120, 80, is_join=True),
    OpenStep(4, "Bar 7", 95, 100, 120, 90, rank=6, is_bar=True),
    OpenStep(5, "Bar 2", 120, 120, 120, 100, idle=12, is_there=True, is_bar=True),
    OpenStep(6, "Bars 8–9", 100, 105, 120, 95, is_join=True),
)


LINES = (
    OpenStep(7, "Bars 1–4", 80, 85, 120, 75, is_there=True, is_line=True),
    OpenStep(8, "Bars 5–8", 80, 85, 120, 75, is_there=True, is_line=True),
)
STEPS = (*STEPS, *LINES)


def work(steps=STEPS, **fields) -> PieceWork:
    return PieceWork("Quay", steps, 80, **fields)


def week(*works: PieceWork, days: int = 4, minutes: int = 20, ears: int = 999):
    return practice_week(works, days, minutes, DAY, ears)


class Days(unittest.TestCase):
    def test_each_part_is_there_with_its_step_tempo_and_reason(self):
        first = week(work(), minutes=24)[0]
        parts = {item.part: item for item in first.items}
        self.assertEqual(list(parts), [part for part in DayPart if part is not DayPart.SET])
        slowest = parts[DayPart.SLOWEST]
        self.assertEqual((slowest.what, slowest.tempo), ("Bar 4", 85))
        self.assertEqual(slowest.why, "holds 80 of 120")
        self.assertEqual(
            (parts[DayPart.TROUBLE].what, parts[DayPart.JOIN].what), ("Bar 7", "Bars 8–9")
        )
        self.assertEqual(parts[DayPart.REVISIT].tempo, 100)
        self.assertEqual(parts[DayPart.REVISIT].why, "not played for 12 days")
        self.assertEqual(parts[DayPart.RUN].tempo, 80)

    def test_the_two_slowest_take_turns(self):
        played = [day for day in week(work()) if not day.is_rest]
        slowest = [day.items[1].what for day in played]
        self.assertEqual(slowest, ["Bar 4", "Bars 4–5", "Bar 4", "Bars 4–5"])

    def test_the_week_runs_from_its_first_day_on(self):
        self.assertEqual(
            [day.day for day in week(work())], [DAY + timedelta(days=n) for n in range(7)]
        )

    def test_every_thing_has_three_to_five_minutes_and_none_is_lost(self):
        for minutes in range(6, 31):
            with self.subTest(minutes):
                for day in week(work(), minutes=minutes):
                    spent = [item.minutes for item in day.items]
                    self.assertIn(sum(spent), (0, minutes))
                    self.assertTrue(all(3 <= each <= 5 for each in spent), spent)
                    keys = [item.key for item in day.items if item.key]
                    self.assertEqual(len(keys), len(set(keys)))

    def test_nothing_comes_before_its_week(self):
        later = tuple(replace(step, reached=step.key in (1, 2)) for step in STEPS)
        found = {item.key for day in week(work(steps=later)) for item in day.items}
        self.assertLessEqual(found - {None}, {1, 2, 5})  # and what is held is revisited

    def test_in_few_minutes_there_are_few_things(self):
        self.assertEqual([i.minutes for i in week(work(), minutes=12)[0].items], [4, 4, 4])
        self.assertEqual([i.part for i in week(work(), minutes=2)[0].items], [DayPart.SLOWEST])
        self.assertTrue(week(work(), minutes=0)[0].is_rest)

    def test_trouble_and_join_say_why_they_are_there(self):
        parts = {item.part: item.why for item in week(work())[0].items}
        self.assertEqual(parts[DayPart.TROUBLE], "the hardest bar left")
        self.assertEqual(parts[DayPart.JOIN], "so that the bars meet")

    def test_the_longest_unplayed_is_revisited_first_and_ten_days_are_not_long(self):
        old = [replace(STEPS[4], key=n, name=f"Bar {n}", idle=n) for n in (10, 11, 30)]
        days = week(work(steps=(*STEPS[:4], *old)))
        again = [i.what for day in days for i in day.items if i.part is DayPart.REVISIT]
        self.assertEqual(again, ["Bar 30", "Bar 11", "Bar 30", "Bar 11"])

    def test_a_step_without_a_rung_is_slower_than_any_other(self):
        new = OpenStep(9, "Bar 9", None, 70, 120, 70, is_bar=True)
        slowest = week(work(steps=(*STEPS, new)))[0].items[1]
        self.assertEqual((slowest.what, slowest.why), ("Bar 9", "not begun"))

    def test_what_is_played_often_is_not_revisited(self):
        fresh = tuple(step for step in STEPS if step.idle is None)
        parts = {item.part for day in week(work(steps=fresh)) for item in day.items}
        self.assertNotIn(DayPart.REVISIT, parts)

    def test_minutes_just_raised_leave_the_tempos_where_they_are(self):
        items = week(work(raised=True))[0].items
        self.assertEqual([item.tempo for item in items][1:4], [80, 95, 100])
        self.assertEqual(items[1].why, "more minutes this week, so the tempo stays")

    def test_a_day_of_rest_is_kept(self):
        self.assertEqual(spread(7), (0, 1, 2, 3, 4, 5))
        self.assertEqual(spread(3), (0, 2, 4))
        self.assertTrue(all(day.is_rest for day in week(work(), days=0)))

    def test_with_everything_at_target_there_is_a_run_left(self):
        done = tuple(
            OpenStep(n, "Bar", 120, 120, 120, 100, is_there=True, idle=1) for n in range(3)
        )
        parts = [item.part for item in week(work(steps=done))[0].items]
        self.assertEqual(parts, [DayPart.WARM_UP, DayPart.RUN])

    def test_in_a_few_minutes_the_least_important_is_left_out(self):
        parts = [item.part for item in week(work(), minutes=7)[0].items]
        self.assertEqual(parts, [DayPart.SLOWEST, DayPart.RUN])

    def test_hands_are_warmed_up_once_a_day_and_a_drill_has_no_run(self):
        drills = PieceWork("Drills", STEPS[:1], 90)
        titles = [(item.part, item.title) for item in week(work(), drills)[0].items]
        self.assertEqual(titles[-1], (DayPart.SLOWEST, "Drills"))
        self.assertEqual([part for part, _ in titles].count(DayPart.WARM_UP), 1)

    def test_the_minutes_of_a_day_are_shared_by_the_pieces(self):
        days = week(work(), replace(work(), title="Mole"), days=5, minutes=15)
        for day in days:
            self.assertIn(day.minutes, (0, 15))
        self.assertEqual({item.title for day in days for item in day.items}, {"Quay", "Mole"})
        short = [replace(work(), title=str(n)) for n in range(3)]
        found = week(*short, minutes=10)
        taken = [{item.title for item in day.items} for day in found if day.items]
        self.assertEqual(taken, [{"0"}, {"1"}, {"2"}, {"0"}])  # they take turns

    def test_three_or_four_things_in_a_quarter_of_an_hour(self):
        days = [day for day in week(work(), days=6, minutes=15) if day.items]
        self.assertEqual({len(day.items) for day in days}, {4})
        beside = {DayPart.TROUBLE, DayPart.JOIN, DayPart.REVISIT}
        self.assertLessEqual(beside, {item.part for day in days for item in day.items})

    def test_nothing_comes_before_what_it_is_made_of(self):
        join = replace(STEPS[5], key=20, held=None, waits=True)
        days = week(work(steps=(*STEPS[:2], join, *LINES)))
        self.assertNotIn(20, {item.key for day in days for item in day.items})

    def test_no_run_before_two_lines_go(self):
        for lines, runs in (((), False), (LINES[:1], False), (LINES, True)):
            steps = (replace(STEPS[0], held=None), *STEPS[1:4], *lines)
            parts = {item.part for day in week(work(steps=steps)) for item in day.items}
            self.assertEqual(DayPart.RUN in parts, runs)


class Ears(unittest.TestCase):
    def test_what_the_ears_do_not_allow_is_for_the_pad(self):
        first = week(work(), minutes=40, ears=15)[0]
        self.assertLessEqual(first.on_kit, 15)
        self.assertFalse(next(i for i in first.items if i.part is DayPart.RUN).on_pad)
        self.assertTrue(next(i for i in first.items if i.part is DayPart.WARM_UP).on_pad)

    def test_drills_are_for_the_pad_and_take_nothing_from_the_kit(self):
        drills = PieceWork("Drills", STEPS[:1], 90, on_pad=True)
        first = week(drills, work(), minutes=15, ears=15)[0]
        quiet = {item.title for item in first.items if item.on_pad}
        self.assertEqual((quiet, first.on_kit), ({"Drills"}, 11))

    def test_drills_beside_a_piece_are_one_thing_and_not_half_of_the_day(self):
        drills = PieceWork("Drills", STEPS[:1], 90, on_pad=True)
        shares = {}
        for item in week(work(), drills, minutes=15)[0].items:
            shares[item.title] = shares.get(item.title, 0) + item.minutes
        self.assertEqual(shares, {"Quay": 11, "Drills": 4})
        self.assertEqual(week(drills, minutes=15)[0].minutes, 15)

    def test_the_budget_is_used_up_to_its_last_minute(self):
        self.assertEqual(week(work(), minutes=40, ears=6)[0].on_kit, 5)  # the run, whole
        self.assertEqual(week(work(), minutes=40, ears=40)[0].on_kit, 40)

    def test_within_the_budget_nothing_is(self):
        self.assertFalse(any(item.on_pad for item in week(work())[0].items))


class Never(unittest.TestCase):
    @given(
        st.lists(st.tuples(st.integers(0, 6), st.booleans()), max_size=3),
        st.integers(0, 7),
        st.integers(0, 240),
        st.integers(0, 60),
    )
    def test_no_day_exceeds_its_minutes_or_the_ears_and_one_is_free(
        self, pieces, days, minutes, ears
    ):
        works = [work(STEPS[:count], on_pad=drills) for count, drills in pieces]
        found = week(*works, days=days, minutes=minutes, ears=ears)
        for day in found:
            self.assertLessEqual(day.minutes, minutes)
            self.assertLessEqual(day.on_kit, ears)
            self.assertTrue(all(item.minutes >= 1 for item in day.items))
        self.assertTrue(found[-1].is_rest)
        total = sum(day.minutes for day in found)
        self.assertLessEqual(total, days * minutes)

    @given(st.lists(st.booleans(), min_size=8, max_size=8), st.integers(5, 60))
    def test_what_waits_for_something_is_not_there_yet(self, waiting, minutes):
        steps = tuple(
            replace(step, waits=waits and not step.is_there)
            for step, waits in zip(STEPS, waiting, strict=True)
        )
        found = {
            item.key for day in week(work(steps), days=5, minutes=minutes) for item in day.items
        }
        self.assertFalse(found & {step.key for step in steps if step.waits})


if __name__ == "__main__":
    unittest.main()
