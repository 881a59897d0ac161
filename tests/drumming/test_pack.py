"""A pack of a teacher's own exercises: written and read it is the same; what is wrong in it is
left out with its place, and the rest is there."""

import random
from unittest import TestCase

from tests.fuzz import _typed as damaged
from wren_ladder.drumming.chart import ChartError
from wren_ladder.drumming.workshop.pack import (
    FIRST,
    MOST_BARS,
    OwnExercise,
    own_exercise,
    read_pack,
    write_pack,
)
from wren_ladder.drumming.workshop.shelf import shelf

HOUSE = tuple(own_exercise(one.chart, one.kind, one.target) for one in shelf())


class Packs(TestCase):
    def test_what_is_written_is_read(self):
        found = read_pack(write_pack(HOUSE))
        self.assertEqual(found.left_out, ())
        self.assertEqual(found.exercises, HOUSE)
        for one, same in zip(shelf(), found.exercises, strict=True):
            self.assertEqual(
                same.chart.bars, read_pack(write_pack((same,))).exercises[0].chart.bars
            )
            self.assertEqual(same.chart.title, one.name)

    def test_the_grade_is_read_from_the_bars(self):
        for one, own in zip(shelf(), HOUSE, strict=True):
            self.assertLessEqual(own.grade(), one.grade())

    def test_one_that_is_wrong_is_left_out_and_told_where(self):
        first, second, third = HOUSE[:3]
        text = write_pack((first, second, third))
        broken = text.replace(f"{second.kind}, target {second.target}", "song, target 90", 1)
        if second.kind == first.kind and second.target == first.target:
            self.fail("the two would not be told apart")
        found = read_pack(broken)
        self.assertEqual(found.exercises, (first, third))
        self.assertIn("exercise 2: an exercise is one of groove, fill", found.left_out[0])

    def test_no_target_a_wild_one_and_bars_that_cannot_be_read(self):
        bar = "bar 1\nsnare 1 2 3 4\n"
        for head, said in (
            ("exercise groove", "says what it is"),
            ("exercise groove, target 900", "20 to 400 BPM"),
        ):
            found = read_pack(f"{FIRST}\n{head}\n{bar}")
            self.assertIn(said, found.left_out[0])
        found = read_pack(f"{FIRST}\nexercise groove, target 90\nbar 1\nsnare on the moon\n")
        self.assertIn("exercise 1: ", found.left_out[0])
        long = "".join(f"bar {n}\nsnare 1\n" for n in range(1, MOST_BARS + 2))
        found = read_pack(f"{FIRST}\nexercise groove, target 90\n{long}")
        self.assertIn(f"1 to {MOST_BARS} bars, not {MOST_BARS + 1}", found.left_out[0])

    def test_what_is_no_pack_is_told(self):
        for text in ("", "bar 1\nsnare 1", "{}"):
            with self.assertRaises(ChartError):
                read_pack(text)
        self.assertEqual(read_pack(FIRST).exercises, ())

    def test_damaged_packs_are_read_or_told(self):
        text, dice = write_pack(HOUSE[:6]), random.Random(5)
        for _ in range(200):
            try:
                found = read_pack(damaged(text, dice))
            except ChartError:
                continue
            self.assertTrue(all(isinstance(one, OwnExercise) for one in found.exercises))
