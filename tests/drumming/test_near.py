"""What stands near a step of a plan. Common practice, no source."""

import unittest

from wren_ladder.drumming.breakdown import StepKind
from wren_ladder.drumming.breakdown.near import MOST, Near, Placed, near

PLAN = (
    Placed(1, StepKind.HALF, 3, 3),
    Placed(2, StepKind.LAYER, 3, 3),
    Placed(3, StepKind.LAYER, 3, 3),
    Placed(4, StepKind.BAR, 3, 3),
    Placed(5, StepKind.BAR, 2, 2),
    Placed(6, StepKind.PAIR, 2, 3),
    Placed(7, StepKind.JUMP, 9, 3),
    Placed(8, StepKind.PHRASE, 0, 3),
    Placed(9, StepKind.SECTION, 0, 7),
    Placed(10, StepKind.WHOLE, 0, 15),
)


class NearTest(unittest.TestCase):
    def near(self, key: int) -> Near:
        return near(PLAN[key - 1], PLAN)

    def test_a_bar_has_its_parts_its_joins_and_its_line(self):
        self.assertEqual(self.near(4), Near((1, 2, 3), (6, 7), (8,)))

    def test_a_layer_has_the_plainer_ones_before_it_and_its_bar(self):
        self.assertEqual(self.near(3), Near((1, 2), (6, 7), (4,)))
        self.assertEqual(self.near(1), Near((), (6, 7), (4,)))

    def test_a_join_has_the_bars_that_meet_also_across_a_jump(self):
        self.assertEqual(self.near(6), Near((4, 5), (), ()))
        self.assertEqual(self.near(7), Near((4,), (), ()))

    def test_a_run_has_what_lies_in_it_and_the_least_that_holds_it(self):
        self.assertEqual(self.near(8), Near((4, 5), (), (9,)))
        self.assertEqual(self.near(10), Near((4, 5, 8, 9), (), ()))

    def test_a_step_that_is_not_in_the_plan_has_neighbours_too(self):
        left_out = Placed(11, StepKind.LAYER, 3, 3)
        self.assertEqual(near(left_out, PLAN), Near((1, 2, 3), (6, 7), (4,)))

    def test_many_bars_are_no_choice_to_make_in_a_lesson(self):
        bars = [Placed(n, StepKind.BAR, n, n) for n in range(20)]
        found = near(Placed(99, StepKind.WHOLE, 0, 19), bars)
        self.assertEqual(found.simpler, tuple(range(20 - MOST, 20)))
