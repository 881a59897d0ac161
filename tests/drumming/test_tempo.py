"""Ladders, gates, standings and ready speed."""

import itertools
import unittest
from dataclasses import replace
from datetime import date, timedelta

from hypothesis import given
from hypothesis import strategies as st

from tests.builders import DAY, tries
from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.climb import (
    Attempt,
    ClimbRule,
    Gate,
    GateKind,
    LadderRule,
    LadderSchool,
    bar_tempos,
    find_plateau,
    held_by_day,
    ladder_by,
    next_trial,
    passes_needed,
    ready_speed,
    rung_above,
    rung_below,
    rungs,
    stand,
    start_tempo,
)
from wren_ladder.drumming.climb.ladder import SHORT
from wren_ladder.drumming.climb.progress import Ready

LADDER = rungs(70, 120)
BAR = ClimbRule(LADDER, bars=1)
attempts = st.builds(
    Attempt,
    st.dates(date(2026, 1, 1), date(2026, 6, 30)),
    st.integers(60, 130),
    st.booleans(),
    st.integers(1, 10),
)


class Ladders(unittest.TestCase):
    def test_from_70_to_120_by_5_has_11_rungs(self):
        self.assertEqual(len(LADDER), 11)
        self.assertEqual((LADDER[0], LADDER[1], LADDER[-1]), (70, 75, 120))

    def test_the_last_step_may_be_short(self):
        self.assertEqual(rungs(90, 118, 10), (90, 100, 110, 118))

    def test_refusals_say_what_is_wrong(self):
        for arguments, said in (
            ((130, 120), "the start tempo 130 is above the target 120"),
            ((70, 900), "the target tempo 900 lies outside 20 to 400"),
            ((70, 120, 0), "a rung is 1 to 40 apart, not 0"),
        ):
            with self.subTest(said), self.assertRaisesRegex(ChartError, said):
                rungs(*arguments)

    @given(st.integers(20, 400), st.integers(20, 400), st.integers(1, 40))
    def test_it_rises_strictly_and_starts_and_ends_where_asked(self, one, other, step):
        start, target = sorted((one, other))
        ladder = rungs(start, target, step)
        self.assertEqual((ladder[0], ladder[-1]), (start, target))
        steps = [after - before for before, after in itertools.pairwise(ladder)]
        self.assertTrue(all(0 < height <= step for height in steps[:-1]))
        self.assertTrue(all(0 < height <= step + SHORT for height in steps[-1:]))

    def test_a_last_rung_of_a_bpm_or_two_is_joined_with_the_one_below(self):
        self.assertEqual(rungs(95, 112), (95, 100, 105, 112))
        self.assertEqual(rungs(95, 113), (95, 100, 105, 110, 113))
        self.assertEqual(rungs(95, 101, 2), (95, 97, 99, 101))
        self.assertEqual(rungs(118, 120), (118, 120))

    def test_by_percent_by_marks_and_by_a_list_of_ones_own(self):
        percent = LadderRule(LadderSchool.PERCENT, 5)
        # 100, 105, 110.25 -> 110, 115.5 -> 116 (to the even), 121.8 is past the target
        self.assertEqual(ladder_by(100, 120, percent), (100, 105, 110, 116, 120))
        marks = LadderRule(LadderSchool.MARKS)
        self.assertEqual(ladder_by(90, 120, marks), (90, 92, 96, 100, 104, 108, 112, 116, 120))
        own = LadderRule(LadderSchool.OWN, own=(112, 90, 100, 130))
        self.assertEqual(ladder_by(80, 120, own), (80, 90, 100, 112, 120))
        self.assertEqual(ladder_by(100, 120, LadderRule(step=10)), (100, 110, 120))

    @given(
        st.integers(20, 400),
        st.integers(20, 400),
        st.sampled_from(LadderSchool),
        st.integers(1, 40),
        st.lists(st.integers(1, 500), max_size=8),
    )
    def test_every_school_rises_strictly_and_starts_and_ends_where_asked(
        self, one, other, school, step, own
    ):
        start, target = sorted((one, other))
        made = ladder_by(start, target, LadderRule(school, step, tuple(own)))
        self.assertEqual((made[0], made[-1]), (start, target))
        self.assertEqual(list(made), sorted(set(made)))

    def test_by_percent_every_rung_is_a_beat_a_minute_up_at_least(self):
        self.assertEqual(
            ladder_by(20, 23, LadderRule(LadderSchool.PERCENT, 1)), (20, 21, 22, 23)
        )

    def test_a_rung_is_five_where_nothing_is_said(self):
        self.assertEqual(ladder_by(100, 120), (100, 105, 110, 115, 120))

    def test_neighbours_of_a_tempo_between_rungs(self):
        self.assertEqual((rung_below(LADDER, 93), rung_above(LADDER, 93)), (90, 95))
        self.assertEqual((rung_below(LADDER, 70), rung_above(LADDER, 120)), (70, None))

    def test_a_start_is_a_round_share_of_the_target(self):
        self.assertEqual((start_tempo(120, 75), start_tempo(118, 75)), (90, 85))
        self.assertEqual(start_tempo(22, 75), 20)

    def test_a_beginner_starts_where_it_is_easy_in_itself(self):
        self.assertEqual([start_tempo(168, 75, grade) for grade in (1, 2, 3, 4, None)],
                         [70, 80, 90, 125, 125])  # fmt: skip
        self.assertEqual(start_tempo(60, 75, 1), 45)


class Trials(unittest.TestCase):
    def test_it_closes_in_on_the_clean_limit(self):
        found = []
        log = []
        limit = 93  # how fast the hands really are
        while (trial := next_trial(log, 120)).next is not None:
            found.append(trial.next)
            log += tries(f"{trial.next}+1" if trial.next <= limit else f"{trial.next}-")
        self.assertEqual(found, [60, 90, 105, 97, 93])
        self.assertEqual(
            (trial.limit, trial.reason), (93, "clean at 93, not at 97: start at 93")
        )

    @given(st.integers(20, 200), st.integers(40, 200))
    def test_it_ends_soon_and_at_what_was_clean(self, limit, target):
        log = []
        for _ in range(12):
            trial = next_trial(log, target)
            if trial.next is None:
                break
            log += tries(f"{trial.next}+1" if trial.next <= limit else f"{trial.next}-")
        self.assertIsNone(trial.next)
        self.assertLessEqual(trial.limit, limit)
        self.assertGreaterEqual(trial.limit, min(limit - 4, target))

    def test_what_is_clean_nowhere_has_no_limit(self):
        trial = next_trial(tries("60-", "45-", "33-", "24-", "20-"), 120)
        self.assertEqual((trial.next, trial.limit), (None, None))
        self.assertIn("a layer simpler", trial.reason)


class Gates(unittest.TestCase):
    """32 clean bars in a row, at most 8 passes. Common practice, no source."""

    def test_the_passes_follow_the_length(self):
        needed = {1: 8, 2: 8, 4: 8, 8: 4, 16: 2, 20: 2, 32: 1, 52: 1}
        self.assertEqual({bars: passes_needed(bars) for bars in needed}, needed)

    def test_one_pass_short_of_the_row_earns_nothing(self):
        self.assertIsNone(stand(BAR, tries("70+7")).held)
        self.assertEqual(stand(BAR, tries("70+8")).held, 70)
        self.assertIsNone(stand(BAR, tries("70+4", "75+3")).held)
        once = Attempt(DAY, 70, True)
        self.assertIsNone(stand(BAR, [*tries("70+6"), once]).held)
        self.assertEqual(stand(BAR, [*tries("70+7"), once]).held, 70)

    def test_the_usual_gate_is_what_teachers_use(self):
        usual = Gate()
        self.assertEqual((usual.clean, usual.tries, usual.days), (3, 4, 2))
        self.assertEqual((usual.failures, usual.drop), (2, 1))

    def test_a_gate_may_be_as_narrow_or_as_wide_as_can_be(self):
        self.assertEqual(Gate(clean_bars=1).spoken(1), "1 clean time through in a row")
        self.assertEqual(Gate(clean=1, tries=20, failures=1).tries, 20)
        for wrong in ({"tries": 21}, {"failures": 0}, {"drop": 0}, {"clean": 0}):
            with self.subTest(wrong), self.assertRaises(ChartError):
                Gate(**wrong)


def on_days(*days: str) -> list[Attempt]:
    """A log of several days: "70+8 75-" is what was tried on one."""
    return [
        replace(attempt, day=DAY + timedelta(days=number))
        for number, said in enumerate(days)
        for attempt in tries(*said.split())
    ]


class OtherGates(unittest.TestCase):
    """Other ways to earn a rung. Common practice, no source."""

    def held(self, gate, *days, bars=1):
        return stand(ClimbRule(LADDER, bars, gate), on_days(*days)).held

    def test_clean_tries_out_of_tries_forgive_a_slip(self):
        gate = Gate(GateKind.TRIES, clean=3, tries=4)
        self.assertIsNone(self.held(gate, "70+1 70+1"))
        self.assertEqual(self.held(gate, "70+1 70+1 70- 70+1"), 70)
        self.assertIsNone(self.held(gate, "70+1 70- 70- 70+1 70+1"))  # 3 of 5
        self.assertEqual(self.held(gate, "75+1 70+1 80+1"), 70)  # the slowest of the three

    def test_what_earned_a_lost_rung_does_not_earn_it_again(self):
        gate = Gate(GateKind.TRIES, clean=2, tries=4)
        self.assertEqual(self.held(gate, "75+1 75+1"), 75)
        self.assertEqual(self.held(gate, "75+1 75+1", "75- 75-"), 70)
        self.assertEqual(self.held(gate, "75+1 75+1", "75- 75- 75+1"), 70)
        self.assertEqual(self.held(gate, "75+1 75+1", "75- 75- 75+1 75+1"), 75)

    def test_on_two_days_it_must_be_done_again(self):
        gate = Gate(GateKind.DAYS, days=2)
        self.assertIsNone(self.held(gate, "70+8 70+8"))
        self.assertIsNone(self.held(gate, "70+4", "70+4"))  # half a row a day is no row
        self.assertEqual(self.held(gate, "70+8", "70+8"), 70)
        self.assertEqual(self.held(gate, "70+8", "75+8"), 70)  # faster counts for slower
        climb = ClimbRule(LADDER, 1, gate)
        self.assertIn("once more on another day", stand(climb, on_days("70+8")).reason)
        four = ClimbRule(LADDER, 1, Gate(GateKind.DAYS, days=4))
        self.assertIn("once more on 3 other days", stand(four, on_days("70+8")).reason)
        self.assertIn("on 2 other days", stand(four, on_days("70+8", "70+8")).reason)

    def test_a_gate_that_can_never_be_filled_is_none(self):
        with self.assertRaisesRegex(ChartError, "5 clean of 4 tries"):
            Gate(GateKind.TRIES, clean=5, tries=4)

    @given(st.sampled_from(GateKind), st.lists(attempts, max_size=14), attempts)
    def test_an_extra_clean_attempt_at_the_end_never_lowers_what_is_held(
        self, kind, log, extra
    ):
        climb = ClimbRule(LADDER, 1, Gate(kind))
        log = sorted(log, key=lambda attempt: attempt.day)
        last = max([extra.day, *(attempt.day for attempt in log)])
        clean = replace(extra, clean=True, day=last)
        before, after = stand(climb, log).held, stand(climb, [*log, clean]).held
        self.assertGreaterEqual(after or 0, before or 0)

    @given(st.sampled_from(GateKind), st.lists(attempts, min_size=1, max_size=14), st.data())
    def test_removing_an_attempt_and_adding_it_again_changes_nothing(self, kind, log, data):
        climb = ClimbRule(LADDER, 1, Gate(kind))
        place = data.draw(st.integers(0, len(log) - 1))
        again = [*log[:place], *log[place + 1 :]]
        again.insert(place, log[place])
        self.assertEqual(stand(climb, log), stand(climb, again))


class Lost(unittest.TestCase):
    def standing(self, *days):
        return stand(BAR, on_days(*days))

    def test_a_rung_failed_twice_on_a_later_day_is_lost(self):
        standing = self.standing("70+8 75+8 80+8", "80- 80-")
        self.assertEqual((standing.held, standing.next), (75, 75))
        self.assertEqual(
            standing.reason,
            "80 is lost: 2 failed tries at 80: drop to 75 and come back",
        )

    def test_once_or_on_the_same_day_or_faster_loses_nothing(self):
        self.assertEqual(self.standing("70+8 75+8", "75-", "75-").held, 75)
        self.assertEqual(self.standing("70+8 75+8 75- 75-").held, 75)
        self.assertEqual(self.standing("70+8 75+8", "80- 80-").held, 75)

    def test_failing_far_below_loses_down_to_there(self):
        self.assertEqual(self.standing("70+8 75+8 80+8 85+8", "75- 75-").held, 70)
        self.assertIsNone(self.standing("70+8", "70- 70-").held)

    def test_days_that_earned_a_lost_rung_do_not_earn_it_again(self):
        climb = ClimbRule(LADDER, 1, Gate(GateKind.DAYS, days=2))
        lost = ("70+8", "70+8", "75+8", "75+8", "75- 75-")
        self.assertEqual(stand(climb, on_days(*lost)).held, 70)
        self.assertEqual(stand(climb, on_days(*lost, "75+8")).held, 70)
        self.assertEqual(stand(climb, on_days(*lost, "75+8", "75+8")).held, 75)

    def test_once_earned_again_it_is_no_longer_told_as_lost(self):
        again = self.standing("80+8", "80- 80-", "80+8 85- 85-")
        self.assertEqual(again.held, 80)
        self.assertEqual(again.reason, "2 failed tries at 85: drop to 80 and come back")

    def test_it_is_earned_again_like_any_other(self):
        self.assertEqual(self.standing("80+8", "80- 80-", "80+8").held, 80)

    def test_a_lost_rung_proposes_no_faster_tempo(self):
        """Held 120; the next day not yet, clean, not yet at 100."""
        climb = ClimbRule(rungs(100, 140, 10), 1, Gate(GateKind.TRIES, clean=1, tries=1))
        day, later = DAY, DAY + timedelta(days=1)
        log = [Attempt(day, 120, True), Attempt(later, 110, False)]
        log += [Attempt(later, 110, True), Attempt(later, 110, False)]
        found = stand(climb, log)
        self.assertEqual((found.held, found.next), (100, 110))
        self.assertEqual(
            found.reason, "120 is lost, failed twice on a later day: 100 held, 110 next"
        )

    @given(
        st.sampled_from(GateKind),
        st.integers(1, 3),
        st.lists(attempts, max_size=20),
        st.integers(1, 5),
    )
    def test_what_is_proposed_is_never_above_the_rung_over_what_is_held(
        self, kind, least, log, drop
    ):
        climb = ClimbRule(LADDER, 8, Gate(kind, clean=least, days=least, drop=drop))
        log.sort(key=lambda one: one.day)
        for length in range(len(log) + 1):
            found = stand(climb, log[:length])
            above = LADDER[0]
            if found.held is not None:
                above = rung_above(LADDER, found.held) or LADDER[-1]
            self.assertLessEqual(found.next, above)


class OnDays(unittest.TestCase):
    """The gate of days and its sentence."""

    climb = ClimbRule(LADDER, 8, Gate(GateKind.DAYS, days=3))

    def test_the_sentence_names_the_days_whenever_it_is_read(self):
        log = [Attempt(DAY, 70, True, 4)]
        said = "70 done on 2 March; once more on 2 other days earns it"
        self.assertEqual(stand(self.climb, log).reason, said)

    def test_a_row_at_a_faster_tempo_counts_in_the_sentence_as_in_the_fold(self):
        later = DAY + timedelta(days=3)
        log = [Attempt(DAY, 80, True, 4), Attempt(later, 70, True, 4)]
        found = stand(self.climb, log)
        said = "70 done on 2 March and 5 March; once more on another day earns it"
        self.assertEqual((found.held, found.reason), (None, said))
        log.append(Attempt(later + timedelta(days=1), 75, True, 4))
        self.assertEqual(stand(self.climb, log).held, 70)


class Plateaus(unittest.TestCase):
    """Practised on three days or more without a new rung. Common practice, no source."""

    def test_three_days_without_a_new_rung(self):
        self.assertIsNone(find_plateau(BAR, on_days("70+8 75+8", "80-", "80-")))
        found = find_plateau(BAR, on_days("70+8 75+8", "80-", "80-", "75+8 80-"))
        self.assertEqual((found.days, found.since, found.now), (3, DAY + timedelta(days=1), 0))
        self.assertIn("3 practice days without a new rung: a layer down", found.spoken)

    def test_the_day_on_which_a_rung_was_won_is_none_of_them(self):
        self.assertIsNone(find_plateau(BAR, on_days("75+8 80-", "80-", "80-")))
        self.assertEqual(find_plateau(BAR, on_days("75+8 80-", *["80-"] * 3)).days, 3)

    def test_the_advice_goes_on_in_order(self):
        days = ["80+8", *["85-"] * 6]
        self.assertEqual(find_plateau(BAR, on_days(*days[:6])).now, 1)
        found = find_plateau(BAR, on_days("80+8", *["85-"] * 30))
        self.assertIn("ask at the lesson", found.advice[found.now])
        self.assertIn("two rungs down, to 70", found.advice[1])

    def test_what_cannot_be_done_is_not_advised(self):
        days = on_days("80+8", *["85-"] * 4)
        said = find_plateau(BAR, days, layered=False, divisible=False).advice
        self.assertTrue(said[0].startswith("two rungs down"))
        self.assertFalse(any("layer" in line or "chunk" in line for line in said))

    def test_none_before_the_first_rung_after_a_new_one_and_at_the_target(self):
        for days in (["70-"] * 5, ["70+8", *["75-"] * 4, "75+8"], ["120+8", *["120+8"] * 5]):
            with self.subTest(days):
                self.assertIsNone(find_plateau(BAR, on_days(*days)))


class Standings(unittest.TestCase):
    def standing(self, *said, climb=BAR):
        return stand(climb, tries(*said))

    def test_it_starts_where_it_is_easy(self):
        standing = self.standing()
        self.assertEqual((standing.held, standing.next), (None, 70))
        self.assertEqual(standing.reason, "start where it is easy: 70")

    def test_a_full_gate_earns_the_rung_and_proposes_the_next(self):
        standing = self.standing("70+8")
        self.assertEqual((standing.held, standing.next), (70, 75))
        self.assertEqual(standing.reason, "70 earned by 8 clean times through; next rung 75")

    def test_passes_gather_while_no_try_fails(self):
        self.assertEqual(
            self.standing("70+5").reason, "5 of the 8 clean times through that earn 70"
        )
        self.assertEqual(self.standing("70+5", "70+3").held, 70)
        self.assertIsNone(self.standing("70+5", "70-", "70+3").held)

    def test_faster_passes_count_for_a_slower_rung(self):
        self.assertEqual(self.standing("70+4", "75+4").held, 70)

    def test_one_failed_try_is_tried_once_more(self):
        standing = self.standing("70+8", "75-")
        self.assertEqual((standing.held, standing.next, standing.dropped), (70, 75, False))
        self.assertIn("try 75 once more", standing.reason)

    def test_two_failed_tries_propose_a_drop_with_its_reason(self):
        standing = self.standing("70+8", "75-", "75-")
        self.assertEqual((standing.held, standing.next, standing.dropped), (70, 70, True))
        self.assertEqual(standing.reason, "2 failed tries at 75: drop to 70 and come back")

    def test_how_far_down_and_after_how_many_is_the_gates_choice(self):
        climb = ClimbRule(BAR.rungs, 1, Gate(failures=3, drop=2))
        log = tries("90+8", "95+8", "100-", "100-")
        self.assertFalse(stand(climb, log).dropped)
        standing = stand(climb, [*log, *tries("100-")])
        self.assertEqual(standing.next, 90)
        self.assertEqual(standing.reason, "3 failed tries at 100: drop to 90 and come back")
        with self.assertRaises(ChartError):
            Gate(drop=0)

    def test_within_the_tolerance_it_is_near_enough(self):
        climb = ClimbRule(BAR.rungs, 1, tolerance=5)
        near = stand(climb, tries(f"{climb.target - 5}+8"))
        self.assertEqual(climb.enough, climb.target - 5)
        self.assertIn(f"near enough to {climb.target}", near.reason)
        self.assertEqual(near.next, climb.target)

    def test_a_failed_try_after_the_drop_is_told_as_such(self):
        standing = self.standing("70+8", "75+8", "80-", "80-", "75-")
        self.assertEqual((standing.next, standing.dropped), (75, True))
        self.assertIn("not yet at 75: try 75 once more", standing.reason)

    def test_after_the_drop_the_way_leads_up_again(self):
        self.assertEqual(self.standing("70+8", "75-", "75-", "70+8").next, 75)

    def test_below_the_lowest_rung_there_is_only_a_simpler_layer(self):
        self.assertIn("a layer simpler", self.standing("70-", "70-").reason)

    def test_an_easy_run_lower_down_changes_nothing(self):
        before = self.standing("70+8", "75+8")
        after = self.standing("70+8", "75+8", "70+8")
        self.assertEqual((before.held, before.next), (after.held, after.next))

    def test_at_the_target_it_stays(self):
        standing = self.standing("120+8")
        self.assertEqual((standing.held, standing.next), (120, 120))
        self.assertIn("the target is reached", standing.reason)

    def test_a_longer_step_needs_fewer_passes(self):
        self.assertEqual(self.standing("70+4", climb=ClimbRule(LADDER, bars=8)).held, 70)

    @given(st.lists(attempts, max_size=12), attempts)
    def test_an_extra_clean_attempt_never_lowers_what_is_held(self, log, extra):
        clean = Attempt(extra.day, extra.tempo, True, extra.passes)
        before, after = stand(BAR, log).held, stand(BAR, [*log, clean]).held
        self.assertGreaterEqual(after or 0, before or 0)

    @given(st.lists(attempts, max_size=12))
    def test_what_is_proposed_is_always_a_rung(self, log):
        self.assertIn(stand(BAR, log).next, LADDER)


class Progress(unittest.TestCase):
    def test_the_slowest_needed_step_is_the_speed_of_the_piece(self):
        ready = ready_speed([110, 92, 100, 92])
        self.assertEqual((ready.speed, ready.held_by, ready.waiting), (92, 1, 0))

    def test_a_step_without_a_rung_leaves_no_ready_speed_and_is_next(self):
        ready = ready_speed([110, None, 92])
        self.assertEqual((ready.speed, ready.slowest), (None, 92))
        self.assertEqual((ready.held_by, ready.waiting), (1, 1))

    def test_an_empty_plan_has_nothing_to_say(self):
        self.assertEqual(ready_speed([]), Ready(None, None, None, 0))

    def test_near_enough_is_never_below_the_start(self):
        self.assertEqual(ClimbRule((100, 105), 1, tolerance=40).enough, 100)
        self.assertEqual(ClimbRule((100, 105, 110), 1, tolerance=4).enough, 106)
        exact = ClimbRule((100, 105, 110), 1)
        self.assertTrue(exact.is_reached(110))
        self.assertFalse(exact.is_reached(109) or exact.is_reached(None))

    def test_the_held_tempo_of_each_day_is_that_at_its_end(self):
        later = DAY + timedelta(days=3)
        log = [*tries("70+8", "75+8"), Attempt(later, 80, False), Attempt(later, 80, True, 8)]
        self.assertEqual(held_by_day(BAR, log), ((DAY, 75), (later, 80)))
        self.assertEqual(held_by_day(BAR, tries("70-")), ())

    def test_a_day_on_which_the_lowest_rung_was_lost_holds_nothing(self):
        log = on_days("70+8", "70+8 70- 70-")
        self.assertEqual([held for _, held in held_by_day(BAR, log)], [70])

    def test_a_bar_is_as_good_as_the_best_step_that_contains_it_or_its_twin(self):
        twins = {0: 0, 1: 1, 2: 0, 3: 3}
        steps = [((0,), 90), ((1,), 80), ((0, 1), 85), ((3,), None)]
        self.assertEqual(bar_tempos(steps, twins, 4), [90, 85, 90, None])
