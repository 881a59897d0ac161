"""Pairing against mir_eval's maximal matching and scipy's assignment; slopes against scipy."""

import random
import unittest

import mir_eval
import numpy
from scipy.optimize import linear_sum_assignment
from scipy.stats import linregress

from wren_ladder.drumming.chart import Drum
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.performance import perform
from wren_ladder.drumming.study import study
from wren_ladder.drumming.take_sources.heard import Heard, Source
from wren_ladder.drumming.take_sources.simulated import Player, play
from wren_ladder.drumming.takes.hear import hear
from wren_ladder.drumming.takes.limits import house_rule
from wren_ladder.drumming.takes.pairing import pairs

WINDOW = 0.05  # seconds: mir_eval's own for onsets


def one_drum(dice: random.Random) -> tuple[list[float], list[float]]:
    """Expected strokes of one drum, and what was played: some moved, some gone, some more."""
    expected, at = [], 0.0
    for _ in range(dice.randint(1, 40)):
        at += dice.choice((0.06, 0.125, 0.25, 0.5))
        expected.append(at)
    heard = [one + dice.gauss(0, 0.025) for one in expected if dice.random() > 0.15]
    heard += [dice.uniform(0, at) for _ in range(dice.randint(0, 5))]
    return expected, sorted(heard)


class Pairing(unittest.TestCase):
    def test_as_many_as_mir_eval_on_a_thousand_takes(self):
        for seed in range(1000):
            expected, heard = one_drum(random.Random(seed))
            mine = pairs(expected, heard, [WINDOW] * len(expected))
            # mir_eval.util.match_events: a maximal matching of events within a window.
            theirs = mir_eval.util.match_events(
                numpy.array(expected), numpy.array(heard), WINDOW
            )
            self.assertEqual(len(mine), len(theirs), seed)
            if heard:
                f, *_ = mir_eval.onset.f_measure(
                    numpy.array(expected), numpy.array(heard), window=WINDOW
                )
                own = 2 * len(mine) / (len(expected) + len(heard))
                self.assertAlmostEqual(f, own, places=9)

    def test_no_assignment_is_nearer_on_small_ones(self):
        """scipy.optimize.linear_sum_assignment over all ways to pair or to leave out."""
        out = 10.0  # dearer than any pair
        for seed in range(300):
            expected, heard = one_drum(random.Random(10_000 + seed))
            expected, heard = (
                expected[:7],
                [one for one in heard if one <= expected[:7][-1]][:7],
            )
            size = len(expected) + len(heard)
            cost = numpy.full((size, size), 0.0)
            cost[: len(expected), len(heard) :] = out
            cost[len(expected) :, : len(heard)] = out
            for row, one in enumerate(expected):
                for column, other in enumerate(heard):
                    far = abs(one - other)
                    cost[row, column] = far if far <= WINDOW else 3 * out
            rows, columns = linear_sum_assignment(cost)
            best = cost[rows, columns].sum()
            mine = pairs(expected, heard, [WINDOW] * len(expected))
            own = sum(abs(expected[one] - heard[other]) for one, other in mine)
            own += out * (len(expected) + len(heard) - 2 * len(mine))
            self.assertAlmostEqual(own, best, places=9)


class Slopes(unittest.TestCase):
    def test_the_tempo_that_was_held_and_the_spread(self):
        text = "meter 4/4\ntempo crotchet = 100\nhat 8ths\nsnare 2 4\nkick 1 3\n"
        road = study(read_chart(text, title="Sloped")).road
        heard = play(perform(road), road, 8, 11, player=Player(spread=0.006))
        heard = [Heard(one.at * 0.99 + 0.01, one.drum, one.strength) for one in heard]
        take = hear(road, heard, 8, house_rule(3), Source.KIT)
        matched = take.followed.matched
        line = linregress([one.expected.at for one in matched], [one.off for one in matched])
        self.assertAlmostEqual(take.figures.pace.offset, line.intercept, places=9)
        self.assertAlmostEqual(take.figures.pace.faster, 1 / (1 + line.slope) - 1, places=9)
        kick = take.figures.drums[Drum.KICK]
        left = [off for one, off in take.figures.residuals if one.expected.drum is Drum.KICK]
        self.assertAlmostEqual(kick.spread.value, numpy.std(left, ddof=1), places=9)
