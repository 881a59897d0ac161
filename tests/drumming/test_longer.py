"""What is held in a longer step is held in what it contains. Common practice, no source."""

import unittest
from datetime import timedelta

from hypothesis import given
from hypothesis import strategies as st

from tests.builders import DAY
from wren_ladder.drumming.climb import (
    Attempt,
    ClimbRule,
    LoggedStep,
    Standing,
    ready_speed,
    rungs,
    stand,
    with_longer,
)
from wren_ladder.drumming.climb.longer import contains

LADDER = rungs(60, 112)
BARS = (0, 1, 2, 3, 0, 1, 2, 4)  # of a piece of eight, three of them again
RANGES = [
    (0, 8),
    (0, 4),
    (4, 8),
    *((n, n + 2) for n in range(7)),
    *((n, n + 1) for n in range(8)),
]


def step(first: int, last: int, *log: tuple[int, Attempt]) -> LoggedStep:
    music = BARS[first:last]
    name = "Whole piece" if last - first == 8 else f"Bars {first + 1}–{last}"
    return LoggedStep(name, ClimbRule(LADDER, last - first), music, music, log)


def standings(steps: list[LoggedStep]) -> list[Standing]:
    logs = with_longer(steps)
    return [stand(one.climb, log) for one, log in zip(steps, logs, strict=True)]


def clean(tempo: int, passes: int = 8, later: int = 0) -> Attempt:
    return Attempt(DAY + timedelta(days=later), tempo, True, passes)


def failed(tempo: int, later: int = 0) -> Attempt:
    return Attempt(DAY + timedelta(days=later), tempo, False)


class Held(unittest.TestCase):
    def piece(self, **logs) -> list[Standing]:
        """``whole``, ``line`` (bars 1 to 4) and ``bar`` (bar 2) with their tries, in order."""
        spans = {"whole": (0, 8), "line": (0, 4), "bar": (1, 2), "twin": (5, 6), "join": (3, 5)}
        placed = {
            name: tuple((place, one) for place, one in enumerate(logs.get(name, ()), 0))
            for name in spans
        }
        return standings([step(*spans[name], *placed[name]) for name in spans])

    def test_the_whole_piece_clean_at_90_is_everything_at_90(self):
        found = self.piece(whole=[clean(90)])
        self.assertEqual({one.held for one in found}, {90})
        ready = ready_speed([one.held for one in found])
        self.assertEqual((ready.speed, ready.waiting), (90, 0))
        self.assertEqual(found[2].by, "Whole piece")
        self.assertEqual(found[2].reason, "held by Whole piece at 90; next rung 95")
        self.assertEqual(found[0].by, "")

    def test_at_exam_speed_sixteen_times_nothing_waits(self):
        found = self.piece(whole=[clean(112, 1, later=n) for n in range(16)])
        self.assertEqual({one.held for one in found}, {112})
        self.assertIn("the target is reached", found[2].reason)

    def test_a_line_holds_its_bars_joins_and_those_that_are_equal_and_no_others(self):
        whole, line, bar, twin, join = self.piece(line=[clean(85)])
        self.assertEqual((line.held, bar.held, twin.held), (85, 85, 85))
        self.assertEqual((whole.held, join.held), (None, None))

    def test_a_line_that_fails_takes_nothing_from_its_bars(self):
        log = [clean(90), failed(95, 1), failed(95, 1), failed(90, 2), failed(90, 2)]
        whole, _, bar, _, _ = self.piece(whole=log)
        self.assertLess(whole.held, 90)
        self.assertEqual(bar.held, 90)

    def test_what_the_bar_itself_loses_on_a_later_day_is_lost_for_the_bar_alone(self):
        steps = [
            step(0, 4, (0, clean(90))),
            step(1, 2, (1, failed(90, 1)), (2, failed(90, 1))),
            step(2, 3),
        ]
        line, bar, other = standings(steps)
        self.assertEqual((line.held, other.held), (90, 90))
        self.assertLess(bar.held, 90)

    def test_a_bar_that_is_faster_by_itself_stays_so_and_says_nothing_of_the_line(self):
        found = self.piece(bar=[clean(100)], line=[clean(85)])
        bar = found[2]
        self.assertEqual((bar.held, bar.by, bar.next), (100, "", 105))

    def test_a_part_is_held_by_its_bar_and_holds_nothing(self):
        part = LoggedStep("half", ClimbRule(LADDER, 1), (), (1,), ((0, clean(100)),))
        whole, bar = step(0, 8, (1, clean(70))), step(1, 2)
        found = standings([part, whole, bar])
        self.assertEqual([one.held for one in found], [100, 70, 70])


tries = st.builds(
    Attempt,
    st.dates(DAY, DAY + timedelta(days=9)),
    st.integers(60, 115),
    st.booleans(),
    st.integers(1, 9),
)


class Whatever(unittest.TestCase):
    @given(st.lists(st.tuples(st.integers(0, len(RANGES) - 1), tries), max_size=24))
    def test_what_contains_a_step_never_holds_more_without_the_step_holding_it(self, drawn):
        """Unless the step itself was failed after that."""
        drawn.sort(key=lambda one: one[1].day)
        logs = {n: [] for n in range(len(RANGES))}
        for place, (n, attempt) in enumerate(drawn):
            logs[n].append((place, attempt))
        steps = [step(*RANGES[n], *logs[n]) for n in range(len(RANGES))]
        found = standings(steps)
        for shorter, short in zip(steps, found, strict=True):
            if any(not one.clean for _, one in shorter.log):
                continue
            for longer, long in zip(steps, found, strict=True):
                if contains(longer.plays, shorter.needs):
                    self.assertGreaterEqual(short.held or 0, long.held or 0)

    @given(st.lists(tries, max_size=12))
    def test_alone_a_step_stands_by_its_own_tries(self, log):
        log.sort(key=lambda one: one.day)
        one = step(1, 2, *enumerate(log))
        self.assertEqual(with_longer([one]), [tuple(log)])

    def test_contained_is_bar_after_bar(self):
        for longer, shorter, is_in in (
            ((0, 1, 2), (1, 2), True), ((0, 1, 2), (0, 2), False), ((0, 1), (0, 1), True),
            ((0, 1), (), False), ((), (0,), False), ((0, 1, 0, 2), (0, 2), True),
        ):  # fmt: skip
            with self.subTest(longer, shorter=shorter):
                self.assertEqual(contains(longer, shorter), is_in)
