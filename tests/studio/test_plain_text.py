"""Text that no page could show: taken out where it comes in, and where it lies already."""

import json
import unittest

from django.urls import reverse

from tests.studio.base import QUAY, StudioTest, make_piece, make_plan, make_student
from wren_ladder.drumming.chart.serial import bar_from_json
from wren_ladder.drumming.files import read_file
from wren_ladder.drumming.plain_text import is_plain, plain, plain_json
from wren_ladder.studio.climb.models import Attempt
from wren_ladder.studio.exchange.studio_file import StudioFileError, read_studio_file
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.students.models import Student

POISON = "a\x00b\x07c\x1bd\x7fe\x85f\ufffeg\uffffh\U0001ffffi"
LEFT = "abcdefghi"


class Plain(unittest.TestCase):
    def test_only_what_cannot_be_written_goes(self):
        self.assertEqual(plain(POISON + "\ud800\udfff"), LEFT)
        kept = "Grüße,\tzwei\nZeilen ♩ = 120, 漢字, 🥁, \u00a0, \ue000"
        self.assertEqual(plain(kept), kept)
        self.assertTrue(is_plain(kept))
        self.assertFalse(is_plain("\ud83e"))

    def test_json_is_plain_all_the_way_down_and_never_too_deep(self):
        text = json.dumps({"a\x00": [POISON, {"b": 1, "c": None}]})
        self.assertEqual(plain_json(text), {"a": [LEFT, {"b": 1, "c": None}]})
        self.assertEqual(plain_json('"\\ud800x"'), "x")
        for bad in ("[" * 100_000, "{", "", '{"a": ' * 50_000):
            with self.subTest(bad[:4]), self.assertRaises(ValueError):
                plain_json(bad)

    def test_a_typed_file(self):
        chart, _ = read_file("x.wren", f"title {POISON}\n{QUAY}".encode())
        self.assertTrue(is_plain(chart.title))


class WhereItComesIn(StudioTest):
    def test_a_form(self):
        self.client.post(
            reverse("student-new"),
            {"name": f"Ines{POISON}", "notes": f"x{POISON}\r\ny", **_rest_of(Student())},
        )
        student = Student.objects.get()
        self.assertEqual(student.name, f"Ines{LEFT}")
        self.assertTrue(is_plain(student.notes))

    def test_an_address(self):
        for address in (
            f"/pieces/?q={POISON}",
            "/pieces/?q=%00%ff%fe",
            "/students/?q=%ED%A0%80",
        ):
            with self.subTest(address):
                self.assertEqual(self.client.get(address).status_code, 200)

    def test_tries_in_json(self):
        step = make_plan(make_piece(self.teacher), make_student(self.teacher)).steps.first()
        address = reverse("lesson-entries", args=[step.plan.student_id])
        entry = {"step": step.pk, "tempo": "90", "passes": "8", "clean_try": "yes"}
        body = json.dumps([{**entry, "note": "even\ud800 now\x00"}])
        self.client.post(address, body, content_type="application/json")
        self.assertEqual(Attempt.objects.get().note, "even now")
        for bad in ("[" * 100_000, '[{"step": ' * 20_000):
            answer = self.client.post(address, bad, content_type="application/json")
            self.assertEqual(answer.status_code, 400)

    def test_a_studio_file(self):
        with self.assertRaisesRegex(StudioFileError, "nested too deeply"):
            read_studio_file(b"[" * 100_000)


class WhereItLiesAlready(StudioTest):
    def test_a_piece_of_an_older_database_opens_again(self):
        piece = make_piece(self.teacher)
        plan = make_plan(piece, make_student(self.teacher))
        row = piece.bars.first()
        mark = {"at": "0", "kind": "cue", "text": POISON, "length": "0"}
        row.data = {**row.data, "section": POISON, "marks": [mark]}
        row.save()
        Piece.objects.filter(pk=piece.pk).update(title=POISON)
        self.assertEqual(bar_from_json(row.data).section, LEFT)
        for address in (
            f"/pieces/{piece.pk}/",
            f"/pieces/{piece.pk}/score/",
            f"/pieces/{piece.pk}/road/",
            f"/pieces/{piece.pk}/room/",
            f"/pieces/{piece.pk}/edit/",
            f"/pieces/{piece.pk}/bars/0/",
            f"/pieces/{piece.pk}/bars/0/all/",
            f"/plans/{plan.pk}/",
            f"/plans/{plan.pk}/steps/",
            f"/steps/{plan.steps.first().pk}/",
            f"/students/{plan.student_id}/lesson/",
            *(
                reverse("piece-file", args=[piece.pk, ending])
                for ending in ("musicxml", "mid", "wren")
            ),
        ):
            with self.subTest(address):
                self.assertEqual(self.client.get(address).status_code, 200)


def _rest_of(student: Student) -> dict:
    names = ("grade", "lead", "home_days", "home_minutes", "lesson_minutes", "buffer")
    names += ("level", "rating", "hearing_rule")
    return {name: getattr(student, name) for name in names}
