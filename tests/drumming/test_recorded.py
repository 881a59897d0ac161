"""Where a recording's bars are: linear between anchors, told where these contradict."""

import unittest

import numpy
from hypothesis import given
from hypothesis import strategies as st

from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.performance import perform
from wren_ladder.drumming.performance.recorded import (
    Anchor,
    RecordingError,
    from_the_first,
    recorded_time,
)
from wren_ladder.drumming.study import study

TEXT = """meter 4/4
tempo crotchet = 120
bar 1
repeat start
hat 8ths
bar 2
hat 8ths
repeat end
bar 3
tempo crotchet = 60
hat 8ths
"""
PERFORMANCE = perform(study(read_chart(TEXT, title="Recorded")).road)
STARTS = [*(span.at for span in PERFORMANCE.bars), PERFORMANCE.seconds]


class Recorded(unittest.TestCase):
    def test_the_road_is_unrolled(self):
        self.assertEqual([span.bar for span in PERFORMANCE.bars], [0, 1, 0, 1, 2])
        self.assertEqual(STARTS, [0, 2, 4, 6, 8, 12])

    @given(
        st.sets(st.integers(0, len(STARTS) - 1), min_size=2),
        st.floats(0, 60),
        st.data(),
    )
    def test_it_is_numpys_interpolation_between_the_anchors(self, turns, first, data):
        """Against numpy.interp, the piecewise linear interpolant by its documentation."""
        anchors, second = [], first
        for before, turn in zip([None, *sorted(turns)], sorted(turns), strict=False):
            if before is not None:
                pace = data.draw(st.floats(0.8, 1.3))
                second += (STARTS[turn] - STARTS[before]) * pace
            anchors.append(Anchor(turn, second))
        time = recorded_time(anchors, PERFORMANCE)
        known = [STARTS[one.turn] for one in anchors]
        asked = numpy.linspace(known[0], known[-1], 50)
        expected = numpy.interp(asked, known, [one.second for one in anchors])
        for at, second in zip(asked, expected, strict=True):
            self.assertAlmostEqual(time.second(float(at)), float(second), places=6)

    def test_before_and_behind_the_anchors_it_goes_on_as_beside_them(self):
        time = recorded_time([Anchor(1, 10), Anchor(2, 12.2)], PERFORMANCE)
        self.assertAlmostEqual(time.second(0), 7.8)
        self.assertAlmostEqual(time.second(12), 10 + 1.1 * 10)

    def test_one_tempo_all_through(self):
        time = recorded_time(from_the_first(1.5, 1.05, PERFORMANCE), PERFORMANCE)
        self.assertAlmostEqual(time.second(0), 1.5)
        self.assertAlmostEqual(time.second(8), 1.5 + 8 * 1.05)

    def test_contradictions_are_told(self):
        for anchors, said in (
            ([Anchor(0, 1)], "two places are needed"),
            (
                [Anchor(0, 5), Anchor(2, 3)],
                r"bar 3 of the road \(3 s\) cannot come before bar 1",
            ),
            ([Anchor(1, 5), Anchor(1, 6)], "bar 2 of the road cannot begin at both 5 and 6 s"),
            ([Anchor(0, 1), Anchor(9, 6)], "5 bars along its road"),
            ([Anchor(0, -1), Anchor(1, 6)], "-1 s is no place"),
            (
                [Anchor(0, 0), Anchor(1, 2), Anchor(2, 4), Anchor(3, 16)],
                "between bars 3 and 4 of the road it would run at 0.2 times",
            ),
        ):
            with self.subTest(said), self.assertRaisesRegex(RecordingError, said):
                recorded_time(anchors, PERFORMANCE)
