"""What was done just now has its way back in the message that tells it."""

from datetime import timedelta
from unittest import mock

from django.urls import reverse

from tests.studio.base import StudioTest, make_piece, make_plan, make_student, press_undo
from wren_ladder.studio.bin.models import Binned
from wren_ladder.studio.pages import undo
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan


class Undo(StudioTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.teacher)

    def delete(self, thing=None):
        address = reverse("piece-delete", args=[(thing or self.piece).pk])
        return self.client.post(address, follow=True)

    def test_a_piece_is_back_where_it_was_deleted_and_told_so(self):
        back = press_undo(self.client, self.delete())
        self.assertEqual(back.request["PATH_INFO"], reverse("pieces"))
        self.assertContains(back, "is back, as it was")
        self.assertEqual(Piece.objects.get(), self.piece)
        self.assertEqual(Binned.objects.count(), 0)

    def test_what_is_pressed_twice_says_so(self):
        page = self.delete()
        press_undo(self.client, page)
        self.assertContains(press_undo(self.client, page), "It is back already")
        self.assertEqual(Piece.objects.count(), 1)

    def test_nobody_else_presses_it(self):
        page = self.delete()
        self.client.force_login(self.other_teacher())
        self.assertContains(press_undo(self.client, page), undo.TOO_LATE)
        self.assertFalse(Piece.objects.exists())

    def test_what_nobody_signed_does_nothing(self):
        self.delete()
        for done in ("", "x", '[1, "out_of_bin", [1], ""]'):
            page = self.client.post(reverse("undo"), {"done": done}, follow=True)
            self.assertContains(page, undo.TOO_LATE)
        self.assertFalse(Piece.objects.exists())

    def test_it_leads_nowhere_else(self):
        there = {"done": "", "back": "https://elsewhere.example/"}
        answer = self.client.post(reverse("undo"), there)
        self.assertEqual(answer["Location"], reverse("desk"))

    def test_a_day_later_it_lies_in_the_bin_alone(self):
        page = self.delete()
        with mock.patch.object(undo, "OPEN_FOR", timedelta(seconds=-1)):
            self.assertContains(press_undo(self.client, page), undo.TOO_LATE)
        self.assertTrue(Binned.objects.exists())

    def test_what_the_second_teacher_deletes_comes_back_by_their_key_too(self):
        student = make_student(self.teacher, second_teacher=self.other_teacher())
        plan = make_plan(self.piece, student)
        self.client.force_login(student.second_teacher)
        page = self.client.post(reverse("plan-delete", args=[plan.pk]), follow=True)
        press_undo(self.client, page)
        self.assertEqual(Plan.objects.get(student=student), plan)

    def test_what_is_erased_for_good_has_no_key(self):
        address = reverse("piece-delete", args=[self.piece.pk])
        page = self.client.post(address, {"for_good": "yes"}, follow=True)
        self.assertNotContains(page, 'class="undo"')
