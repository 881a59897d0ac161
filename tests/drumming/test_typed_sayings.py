"""Some 400 sayings that mean one thing, with their meaning, and those that must be asked about:
nothing is read as something else in silence."""

import unittest
from pathlib import Path

from wren_ladder.drumming.chart import Chart, ChartError
from wren_ladder.drumming.notation.counts import read_chart, write_chart

CORPUS = Path(__file__).parent / "typed_sayings.txt"
MOST_SAID = 160  # characters of what is asked: one line, no list of all words


def sayings() -> list[tuple[str, str]]:
    """(as it is said, in plain typed bars; "" where it must be asked about)."""
    found = []
    for line in CORPUS.read_text().splitlines():
        if not line or line.startswith("#"):
            continue
        said, arrow, meant = line.removesuffix(" ?").partition(" => ")
        assert bool(arrow) != line.endswith(" ?"), line
        found.append((said.replace(" / ", "\n"), meant.replace(" / ", "\n")))
    return found


def read_or_none(text: str) -> Chart | None:
    try:
        return read_chart(text)
    except ChartError:
        return None


class Sayings(unittest.TestCase):
    def test_each_is_read_as_it_is_meant(self):
        self.assertGreater(len(sayings()), 400)
        for said, meant in sayings():
            with self.subTest(said):
                chart = read_or_none(said)
                self.assertEqual(
                    chart and chart.bars, read_chart(meant).bars if meant else None
                )

    def test_what_is_asked_is_one_line_that_points_at_a_word(self):
        for said, meant in sayings():
            if meant:
                continue
            with self.subTest(said):
                with self.assertRaises(ChartError) as caught:
                    read_chart(said)
                self.assertIsNotNone(caught.exception.place)
                self.assertLess(len(caught.exception.text), MOST_SAID)

    def test_what_is_written_of_it_is_read_the_same(self):
        for said, meant in sayings():
            if meant:
                chart = read_chart(said)
                self.assertEqual(read_chart(write_chart(chart)).bars, chart.bars, said)

    def test_behind_other_bars_it_means_the_same_and_changes_none_of_them(self):
        before = "bar 1\nride 8ths\nsnare cross 2 4\nkick 1 3"
        first = read_chart(before).bars[0]
        for said, meant in sayings():
            alone = said.splitlines()
            heads = ("bar", "measure", "m1", "4/4", "time sig", "in 3/4")
            if not meant or len(alone) > 1 or alone[0].startswith(heads):
                continue
            with self.subTest(said):
                chart = read_chart(f"{before}\nbar 2\n{said}\nbar 3 as 1")
                self.assertEqual(chart.bars[0], first)
                self.assertEqual(chart.bars[1].hits, read_chart(meant).bars[0].hits)
                self.assertEqual(chart.bars[2].hits, first.hits)

    def test_in_other_metres_a_word_means_what_it_can_or_is_asked_about(self):
        with self.assertRaises(ChartError):
            read_chart("meter 3/4\nsnare backbeat")  # there is no 4
        rows = read_chart("meter 6/8\nhat |x--x--|").bars[0]
        self.assertEqual([hit.at for hit in rows.hits], [0, 1.5])
