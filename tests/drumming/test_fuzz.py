"""A small share of what ``./wren fuzz`` reads, and the single inputs that once went wrong."""

import unittest

from tests.drumming.test_musicxml import FOUR, GRACE, note, rest, score
from tests.fuzz import attempt, run


class Fuzz(unittest.TestCase):
    def test_damaged_files_give_a_chart_or_say_why_not(self):
        outcomes = run(400, seed=3)
        for kind in ("wren", "musicxml", "mid", "mxl"):
            self.assertTrue(outcomes[f"{kind} chart"], kind)
            self.assertTrue(outcomes[f"{kind} refused"], kind)

    def test_huge_and_strange_numbers(self):
        for number in ("1e99999999", "9" * 400, "²", "1234567890", "-3", "1/0", "nan"):
            for inside in (
                f"<attributes><divisions>{number}</divisions></attributes>" + note("S", 4),
                FOUR + note("S", number),
                FOUR + f"<direction><sound tempo='{number}'/></direction>" + rest(16),
                FOUR.replace("<beats>4", f"<beats>{number}") + rest(16),
                FOUR + f"<backup><duration>{number}</duration></backup>" + rest(16),
                FOUR + f"<direction><offset>{number}</offset><direction-type><dynamics><f/>"
                "</dynamics></direction-type></direction>" + rest(16),
            ):
                with self.subTest(number, inside=inside[:60]):
                    self.assertIn(attempt("a.musicxml", score(inside)), ("chart", "refused"))

    def test_eight_thousand_graces_and_a_title_of_control_characters(self):
        data = score(FOUR + GRACE * 8000 + note("S", 16))
        self.assertEqual(attempt("a.musicxml", data), "chart")
        attempt("a.musicxml", score(FOUR + note("S", 16), title="Quay&#9;&#133;Wall"))
        attempt("a.wren", ("bar 1\nhat 8ths\n" + "bars 2-999 as 1\n").encode())
        attempt("a.wren", b"meter 32/2\n" + b"bar 1\nhat 32nds\n")
