"""Each glyph once on a whole page, and with its drawing wherever a part of one is sent."""

import re

from django.test import SimpleTestCase
from django.urls import reverse

from tests.studio.base import StudioTest, make_piece, make_plan, make_student
from wren_ladder.studio.pages.glyphs_once import with_glyphs_once

IDS, REFERRED = re.compile(r'\bid="([^"]+)"'), re.compile(r'<use href="#([^"]+)"')


def drawing(prefix: str, head: str = "M0") -> str:
    return (
        f'<svg class="staff-svg"><defs><g id="{prefix}E0A4"><path d="{head}"/></g></defs>'
        f'<use href="#{prefix}E0A4" x="1"/></svg>'
    )


class Gathered(SimpleTestCase):
    def page(self, *drawings: str) -> str:
        return f'<body class="x">{"".join(drawings)}</body>'

    def test_the_same_glyph_of_two_drawings_stands_in_front_of_both(self):
        html = with_glyphs_once(self.page(drawing("a-"), drawing("b-")))
        self.assertEqual(IDS.findall(html), ["E0A4"])
        self.assertEqual(REFERRED.findall(html), ["E0A4", "E0A4"])
        self.assertLess(html.index("E0A4"), html.index("staff-svg"))

    def test_another_outline_under_its_name_stays_with_its_drawing(self):
        html = with_glyphs_once(self.page(drawing("a-"), drawing("b-", "M9")))
        self.assertEqual(IDS.findall(html), ["E0A4", "b-E0A4"])
        self.assertEqual(REFERRED.findall(html), ["E0A4", "b-E0A4"])

    def test_what_is_no_page_stays_as_it_is(self):
        self.assertEqual(with_glyphs_once(drawing("a-")), drawing("a-"))


class OnPages(StudioTest):
    def setUp(self):
        super().setUp()
        self.plan = make_plan(make_piece(self.teacher), make_student(self.teacher))

    def test_every_reference_is_met_and_no_glyph_is_there_twice(self):
        piece, student = self.plan.piece_id, self.plan.student_id
        for name, pk in (
            ("piece", piece), ("piece-score", piece), ("plan-steps", self.plan.pk),
            ("lesson-mode", student), ("piece-edit", piece),
        ):  # fmt: skip
            with self.subTest(name):
                html = self.client.get(reverse(name, args=[pk])).content.decode()
                ids = IDS.findall(html)
                self.assertEqual(len(ids), len(set(ids)))
                self.assertIn('class="glyphs"', html)
                self.assertLessEqual(set(REFERRED.findall(html)), set(ids))

    def test_a_part_of_a_page_brings_its_own(self):
        asked = {"HX-Request": "true"}
        address = reverse("bar-panel", args=[self.plan.piece_id, 0])
        html = self.client.get(address, headers=asked).content.decode()
        self.assertNotIn('class="glyphs"', html)
        self.assertLessEqual(set(REFERRED.findall(html)), set(IDS.findall(html)))
        self.assertIn("<defs>", html)
