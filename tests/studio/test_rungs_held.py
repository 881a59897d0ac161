"""A term's rungs from what was kept when they were earned, against the log folded twice."""

from datetime import date, timedelta

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from wren_ladder.drumming.climb import Attempt, ClimbRule, stand
from wren_ladder.studio.climb.rungs_held import gained, rungs_held

FIRST = date(2026, 1, 5)
CLIMB = ClimbRule((60, 70, 80, 90), 4)
DAYS = st.integers(0, 40)
TRIES = st.lists(st.tuples(DAYS, st.sampled_from(CLIMB.rungs), st.booleans()), max_size=40)


def on(day: int) -> date:
    return FIRST + timedelta(days=day)


def held(log: list[Attempt]) -> int:
    return stand(CLIMB, log).held or 0


class RungsHeld(SimpleTestCase):
    @given(TRIES, DAYS, DAYS)
    def test_as_the_log_folded_before_and_after(self, tries, one, other):
        first, last = sorted((on(one), on(other)))
        log = [Attempt(on(day), tempo, clean, 8) for day, tempo, clean in sorted(tries)]
        before = held([one for one in log if one.day < first])
        after = held([one for one in log if one.day <= last])
        rungs = sum(before < rung <= after for rung in CLIMB.rungs)
        self.assertEqual(gained(rungs_held(CLIMB, log), first, last), rungs)

    def test_what_is_kept_can_be_read(self):
        log = [Attempt(on(day), 60, True, 8) for day in (0, 0, 1)]
        log += [Attempt(on(2), 60, False)] * 2
        self.assertEqual(rungs_held(CLIMB, log), "2026-01-05 1 2026-01-07 0")
