"""The whole chart on screen and paper, and the piece as a file."""

import io
import unittest
from dataclasses import replace

import mido
from django.urls import reverse
from hypothesis import given
from pypdf import PdfReader

from tests.builders import sixty_bars
from tests.strategies import charts
from tests.studio.base import StudioTest, make_piece
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.notation.musicxml import read_musicxml
from wren_ladder.studio.changes.pieces import add_piece
from wren_ladder.studio.drawing.score import (
    MOST_ON_A_LINE,
    ROOM,
    break_lines,
    printed_cells,
)

LONG = "bar 1\nsection A Verse\nhat 8ths\nsnare 2 4\nbars 2-7 as 1\nbar 8\nsection B Chorus\n"
LONG += "ride 8ths\nbars 9-70 as 8"


class Lines(unittest.TestCase):
    def lines(self, text, size=10):
        bars = read_chart(text).bars
        cells = printed_cells(bars, counts=False)
        return [
            (cells[first][0], cells[last][1])
            for first, last in break_lines(bars, cells, [size] * len(cells))
        ]

    def test_a_phrase_fits_a_line_and_a_section_starts_one(self):
        self.assertEqual(self.lines(LONG)[:3], [(0, 3), (4, 6), (7, 10)])

    def test_a_section_of_one_bar_ends_the_line_before_it_where_there_is_room(self):
        text = "bar 1\nhat 8ths\nbars 2-{last} as 1\nbar {end}\nsection End\nkick 1"
        self.assertEqual(self.lines(text.format(last=3, end=4)), [(0, 3)])
        self.assertEqual(self.lines(text.format(last=4, end=5)), [(0, 3), (4, 4)])

    def test_bars_too_wide_for_four_become_two_and_two(self):
        text = "bar 1\nhat 8ths\nbars 2-4 as 1"
        self.assertEqual(self.lines(text, ROOM // 3), [(0, 1), (2, 3)])

    def test_a_bar_too_wide_for_any_line_has_one_of_its_own(self):
        text = "bar 1\nhat 8ths\nbars 2-3 as 1"
        self.assertEqual(self.lines(text, ROOM * 2), [(0, 0), (1, 1), (2, 2)])

    def test_a_pick_up_stands_before_the_first_phrase(self):
        text = "bar 0\nbeats 1\nsnare 4\nbar 1\nsection A\nhat 8ths\nbars 2-5 as 1"
        self.assertEqual(self.lines(text), [(0, 4), (5, 5)])

    def test_a_long_rest_is_one_and_a_sign_for_two_bars_is_not_parted(self):
        text = "bar 1\nhat 8ths\nbar 2\nsnare 2\nbar 3\nkick 1\nbar 4\nrepeat 2 bars\n"
        text += "bar 5\nrepeat 2 bars\nbars 6-13 rest\nbar 14 as 1"
        self.assertEqual(self.lines(text), [(0, 4), (5, 13)])

    @given(charts(most=12))
    def test_every_bar_stands_on_exactly_one_line_in_order(self, chart):
        cells = printed_cells(chart.bars, counts=False)
        lines = break_lines(chart.bars, cells, [12] * len(cells))
        covered = [
            index
            for first, last in lines
            for index in range(cells[first][0], cells[last][1] + 1)
        ]
        self.assertEqual(covered, list(range(len(chart.bars))))
        self.assertTrue(all(last - first <= MOST_ON_A_LINE for first, last in lines))


class Charts(StudioTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.teacher, LONG, title="Harbour Wall")

    def address(self, name, *more):
        return reverse(name, args=[self.piece.pk, *more])

    def test_counts_and_stickings_are_switched(self):
        shown = self.client.get(self.address("piece-score"))
        self.assertContains(shown, ">&amp;<")
        self.assertContains(shown, ">R<")
        without = self.client.get(self.address("piece-score"), {"shown": 1, "hands": "on"})
        self.assertNotContains(without, ">&amp;<")
        self.assertContains(without, ">R<")
        bare = self.client.get(self.address("piece-score"), {"shown": 1})
        self.assertNotContains(bare, ">R<")

    def test_the_road_map_prints_on_both_papers(self):
        for paper, width in (("A4", 595), ("Letter", 612)):
            with self.subTest(paper):
                answer = self.client.get(self.address("piece-road-pdf"), {"paper": paper})
                page = PdfReader(io.BytesIO(answer.content)).pages[0]
                self.assertEqual(round(page.mediabox.width), width)
                said = page.extract_text()
                self.assertIn("Harbour Wall: road map", said)
                self.assertIn("Rehearsal points", said)

    def test_it_prints_on_both_papers_over_as_many_pages_as_it_needs(self):
        for paper, width in (("A4", 595), ("Letter", 612)):
            with self.subTest(paper):
                answer = self.client.get(self.address("piece-score-pdf"), {"paper": paper})
                pages = PdfReader(io.BytesIO(answer.content)).pages
                self.assertEqual(round(pages[0].mediabox.width), width)
                self.assertGreater(len(pages), 1)
                self.assertIn("Harbour Wall", pages[0].extract_text())

    def test_two_pages_of_music_print_on_two(self):
        piece = add_piece(self.teacher, replace(sixty_bars(), title="Sixty"))
        answer = self.client.get(reverse("piece-score-pdf", args=[piece.pk]))
        self.assertEqual(len(PdfReader(io.BytesIO(answer.content)).pages), 2)

    def test_every_line_numbers_its_bars(self):
        page = self.client.get(self.address("piece-score"))
        for number in ("4", "8", "70"):
            self.assertContains(page, f">{number}</tspan>")

    def test_the_piece_is_taken_elsewhere_as_a_file(self):
        chart = self.piece.chart()
        musicxml = self.client.get(self.address("piece-file", "musicxml"))
        self.assertIn('filename="harbour-wall.musicxml"', musicxml["Content-Disposition"])
        self.assertEqual(read_musicxml(musicxml.content)[0], chart)
        typed = self.client.get(self.address("piece-file", "wren"))
        self.assertEqual(read_chart(typed.content.decode()), chart)
        midi = self.client.get(self.address("piece-file", "mid"), {"count-in": ""})
        self.assertEqual(mido.MidiFile(file=io.BytesIO(midi.content)).type, 0)
        self.assertEqual(self.client.get(self.address("piece-file", "exe")).status_code, 404)
