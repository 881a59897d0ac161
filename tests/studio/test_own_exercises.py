"""A teacher's own exercises on the shelf, and as a file from one studio to another."""

import json
from dataclasses import replace

from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse

from tests.studio.base import StudioTest, make_piece, make_student
from wren_ladder.drumming.chart import Chart
from wren_ladder.drumming.workshop.recipes import recipe_text
from wren_ladder.studio.changes.pieces import save_piece
from wren_ladder.studio.pages.workshop.own_page import own_pieces
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan

BEAT = "tempo crotchet = 90\nbar 1\nhat 8ths\nsnare 2 4\nkick 1 3&\n"


class OwnExercises(StudioTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.teacher, BEAT, "Gate beat")

    def put(self, piece=None, **other):
        address = reverse("shelf-put", args=[(piece or self.piece).pk])
        return self.client.post(
            address, {"kind": "groove", "target": 104, **other}, follow=True
        )

    def bring(self, text: str | bytes, name="theirs.wren"):
        data = text.encode() if isinstance(text, str) else text
        file = SimpleUploadedFile(name, data)
        return self.client.post(reverse("pack-in"), {"pack": file}, follow=True)

    def pack(self) -> str:
        return self.client.get(reverse("pack-out")).content.decode()

    def cards(self, **asked):
        return self.client.get(reverse("workshop"), asked).context["cards"]

    def test_a_piece_is_put_on_the_shelf_from_its_page_and_given_from_there(self):
        page = self.client.get(self.piece.get_absolute_url())
        self.assertContains(page, "Put it on the workshop's shelf")
        self.assertContains(self.put(), "Gate beat stands on the shelf")
        card, plan = self.cards()[0]
        self.assertEqual((card.made.title, card.made.target, plan), ("Gate beat", 104, None))
        student = make_student(self.teacher, "Ines")
        sent = {"recipe": card.recipe, "student": student.pk, "target": 104}
        self.client.post(reverse("give-exercise"), sent)
        given = Plan.objects.get(student=student)
        self.assertEqual(given.piece, own_pieces(self.teacher).get())  # no second one
        card, plan = self.cards(student=student.pk)[0]
        self.assertEqual(plan, given)
        self.assertNotContains(self.client.get(given.piece.get_absolute_url()), "Put it on")

    def test_what_is_no_exercise_is_told(self):
        self.assertContains(self.put(kind="song"), "Not on the shelf")
        self.assertContains(self.put(target=900), "Not on the shelf")
        long = make_piece(self.teacher, "".join(f"bar {n}\nsnare 1\n" for n in range(1, 19)))
        self.assertNotContains(self.client.get(long.get_absolute_url()), "Put it on")
        self.assertContains(self.put(long), "1 to 16 bars, not 18")
        self.assertFalse(own_pieces(self.teacher).exists())
        self.client.force_login(self.other_teacher())
        self.assertEqual(self.put().status_code, 404)

    def test_it_is_what_its_bars_are_after_they_were_changed(self):
        self.put()
        own = own_pieces(self.teacher).get()
        rows = list(own.bars.all())
        bars = [row.bar for row in rows]
        more = Chart(own.title, (*bars, replace(bars[0], number="2")))
        save_piece(own, more, [*(row.pk for row in rows), None])
        card, _ = self.cards()[0]
        self.assertEqual(len(card.made.chart.bars), 2)
        self.assertEqual(recipe_text(self.fresh(own).made_of), card.recipe)

    def test_a_pack_goes_to_another_studio_once(self):
        self.put()
        self.put(kind="hands", target=80)
        text = self.pack()
        self.client.force_login(self.other_teacher())
        self.assertContains(self.bring(text), "theirs.wren: 2 taken.")
        self.assertContains(self.bring(text), "theirs.wren: 0 taken, 2 that you have.")
        self.assertEqual(self.pack(), text)
        self.assertEqual(Piece.objects.filter(made_of__has_key="typed").count(), 4)

    def test_what_is_left_out_is_told_and_the_rest_is_there(self):
        self.put()
        text = self.pack() + "\nexercise groove, target 90\nbar 1\nsnare on the moon\n"
        self.client.force_login(self.other_teacher())
        answer = self.bring(text)
        self.assertContains(answer, "1 taken")
        self.assertContains(answer, "Left out: exercise 2: ")
        self.assertEqual(Piece.objects.filter(made_of__has_key="typed").count(), 2)

    def test_what_is_no_pack_changes_nothing(self):
        for data, said in (
            (b"bar 1", "a pack begins with the line"),
            (b"\xff\xfe\x00", "it is no text"),
            (json.dumps({}).encode(), "a pack begins with"),
        ):
            self.assertContains(self.bring(data), said)
        answer = self.client.post(reverse("pack-in"), follow=True)
        self.assertContains(answer, "Choose a pack of exercises")
        self.assertFalse(own_pieces(self.teacher).exists())
