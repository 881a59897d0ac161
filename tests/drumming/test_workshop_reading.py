"""Studies for reading at sight: of the grade, with a shape, and the same for the same seed."""

import unittest
from itertools import product

from hypothesis import given
from hypothesis import strategies as st

from wren_ladder.drumming.findings.conflicts import conflicts
from wren_ladder.drumming.hands import stick_bar
from wren_ladder.drumming.judging.syllabus import Status, vocabulary
from wren_ladder.drumming.notation.counts import read_chart, write_chart
from wren_ladder.drumming.study import study
from wren_ladder.drumming.workshop.reading import LENGTHS, Voices, reading_study


class Reading(unittest.TestCase):
    @given(
        st.integers(0, 8),
        st.sampled_from(LENGTHS),
        st.sampled_from(list(Voices)),
        st.integers(0, 9999),
    )
    def test_it_has_its_shape_and_nothing_above_its_grade(self, grade, bars, voices, seed):
        made = reading_study(grade, bars, voices, seed)
        self.assertEqual(made, reading_study(grade, bars, voices, seed))
        page = made.chart.bars
        self.assertEqual(len(page), bars)
        for first in range(0, bars, 4):
            self.assertEqual(page[first].hits, page[first + 2].hits)  # bar 3 is bar 1 again
        self.assertEqual(max(hit.at for hit in page[-1].hits), 3)  # it ends on a beat
        for bar in page:
            self.assertEqual(conflicts(stick_bar(bar), bar, made.tempo), ())
        above = [
            item.name
            for item in vocabulary(study(made.chart), max(2, grade))
            if item.status is Status.NEW
        ]
        self.assertEqual(above, [])
        self.assertEqual(read_chart(write_chart(made.chart)), made.chart)

    def test_what_is_due_at_the_grade_is_in_it(self):
        for grade in (1, 3, 4, 5):
            for seed in range(5):
                studied = study(reading_study(grade, 4, Voices.SNARE, seed).chart)
                due = {
                    item.name
                    for item in vocabulary(studied, grade)
                    if item.status is Status.DUE
                }
                self.assertTrue(due, (grade, seed))

    def test_another_number_is_another_study(self):
        for grade, voices in product((2, 5), (Voices.SNARE, Voices.TWO)):
            made = {reading_study(grade, 8, voices, seed).chart for seed in range(30)}
            self.assertEqual(len(made), 30)

    def test_a_length_that_there_is_not_is_refused(self):
        with self.assertRaisesRegex(ValueError, "4, 8 or 16 bars"):
            reading_study(2, 5)


if __name__ == "__main__":
    unittest.main()
