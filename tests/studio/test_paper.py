"""Prints: staves stand in the places left for them, and a print is kept.

Outside: pypdf reads what was made; WeasyPrint sets the same page with its staves in it, as a
slower way to the same paper.
"""

import io
import re
from collections import Counter
from unittest import mock

import weasyprint
from django.conf import settings
from django.core.cache import caches
from django.urls import reverse
from pypdf import PdfReader

from tests.studio.base import StudioTest, make_piece, make_plan, make_student
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.study import study
from wren_ladder.drumming.style import HOUSE
from wren_ladder.studio import kept_on_disk
from wren_ladder.studio.drawing.score import score_lines
from wren_ladder.studio.pages import printing
from wren_ladder.studio.paper.pdf import pdf_of

STYLES = settings.STUDIO / "static"
MUSIC = "\n".join(
    f"bar {bar}\nhat 8ths\nsnare 2 4\nkick 1 3 {bar % 4 + 1}&" for bar in range(1, 25)
)
HEAD = (
    '<html lang="en"><head><title>Quay</title><link rel="stylesheet" href="wren/sheet.css">'
    '<link rel="stylesheet" href="wren/paper-A4.css"></head><body class="chart">'
    "<header><h1>Quay</h1></header>"
)


def staves_of(page) -> list[tuple[float, ...]]:
    """Where each staff lies: left, lower edge, and how it is scaled."""
    drawn = page.get_contents().get_data().decode("latin-1")
    placed = re.findall(r"q\s+([\d. -]+) cm\s+/\S+ Do\s+Q", drawn)
    return [tuple(map(float, one.split())) for one in placed]


class Staves(StudioTest):
    def page(self) -> str:
        lines = score_lines(study(read_chart(MUSIC, title="Quay"), HOUSE), True, True)
        self.lines = len(lines)
        return HEAD + "".join(f'<div class="line">{one.svg}</div>' for one in lines)

    def test_each_stands_once_on_the_paper_and_inside_it(self):
        pages = PdfReader(io.BytesIO(pdf_of(self.page(), STYLES))).pages
        placed = [(page, staff) for page in pages for staff in staves_of(page)]
        self.assertEqual(len(placed), self.lines)
        for page, (across, _, _, up, left, lower) in placed:
            self.assertGreater(left, 20)
            self.assertLess(left + 500 * across, float(page.mediabox.width) - 20)
            self.assertGreater(lower, 20)
            self.assertAlmostEqual(across, up, places=3)
        heights = [lower for page, (*_, lower) in placed if page == pages[0]]
        self.assertEqual(heights, sorted(heights, reverse=True))

    def test_it_is_the_page_that_weasyprint_sets_by_itself(self):
        html = self.page()
        ours = PdfReader(io.BytesIO(pdf_of(html, STYLES)))
        slow = weasyprint.HTML(string=html, base_url=f"{STYLES}/").write_pdf()
        theirs = PdfReader(io.BytesIO(slow))
        self.assertEqual(len(ours.pages), len(theirs.pages))
        for one, other in zip(ours.pages, theirs.pages, strict=True):
            self.assertEqual(one.mediabox, other.mediabox)
            self.assertEqual(self.said_on(one), self.said_on(other))

    def said_on(self, page) -> Counter[str]:
        """Every count, letter of a hand and bar number of the page."""
        return Counter(re.findall(r"[A-Za-z]+|\d+|&", page.extract_text()))

    def test_a_page_without_staves_is_set_as_it_is(self):
        pages = PdfReader(io.BytesIO(pdf_of(HEAD + "<p>No music.</p>", STYLES))).pages
        self.assertIn("No music.", pages[0].extract_text())


class Kept(StudioTest):
    def setUp(self):
        super().setUp()
        caches["prints"].clear()
        self.piece = make_piece(self.teacher)
        self.address = reverse("piece-score-pdf", args=[self.piece.pk])

    def test_a_second_print_is_not_set_again_until_the_music_changes(self):
        first = self.client.get(self.address).content
        with mock.patch.object(printing, "pdf_of", side_effect=AssertionError):
            self.assertEqual(self.client.get(self.address).content, first)
        self.piece.title = "Harbour"
        self.piece.save()
        text = PdfReader(io.BytesIO(self.client.get(self.address).content)).pages[0]
        self.assertIn("Harbour", text.extract_text())

    def test_a_disk_that_takes_nothing_only_makes_it_slower(self):
        full = mock.patch.object(
            type(caches["prints"]),
            "set_many",
            side_effect=OSError(28, "No space left on device"),
        )
        with full:
            self.assertEqual(self.client.get(self.address)["Content-Type"], "application/pdf")

    def test_only_what_a_disk_does_is_passed_over(self):
        broken = mock.patch.object(kept_on_disk, "caches", {"prints": None})
        with broken, self.assertRaises(AttributeError):
            kept_on_disk.read("prints", ["x"])

    def test_every_sheet_can_be_printed(self):
        student = make_student(self.teacher)
        plan = make_plan(self.piece, student)
        for name, number in (
            ("plan-sheet", plan.pk),
            ("wall-chart", plan.pk),
            ("week-sheet", student.pk),
            ("piece-road-pdf", self.piece.pk),
            ("report", student.pk),
        ):
            with self.subTest(name):
                answer = self.client.get(reverse(name, args=[number]))
                self.assertTrue(answer.content.startswith(b"%PDF"))
