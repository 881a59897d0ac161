"""The rudiment shelf, a piece's vocabulary, and drills sent to students."""

import io

from django.urls import reverse
from pypdf import PdfReader

from tests.studio.base import StudioTest, log, make_piece, make_student
from wren_ladder.drumming.rudiments import RUDIMENTS
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan, Step

PADDLES = "bar 1\nsnare 16ths 1-2, accent 1 2\nhands RLRRLRLL\nbar 2\nhat triplets"


class Shelf(StudioTest):
    def test_all_forty_and_the_drills_are_drawn(self):
        page = self.client.get(reverse("rudiments"))
        for one in RUDIMENTS:
            self.assertContains(page, f">{one.name}</a>")
        self.assertContains(page, "panel drill", count=40 + 16)

    def test_where_a_rudiment_occurs(self):
        piece = make_piece(self.teacher, PADDLES)
        address = reverse("bar-page", args=[piece.pk, 0])
        self.assertContains(self.client.get(reverse("rudiments")), "grade 2, in 1 bar of yours")
        page = self.client.get(reverse("rudiment", args=["single-paradiddle"]))
        self.assertContains(page, f'href="{address}"')
        self.assertContains(page, "Quay, bar 1")

    def test_a_rudiment_has_its_heights_and_its_grade(self):
        page = self.client.get(reverse("rudiment", args=["flam-paradiddle"]))
        self.assertContains(page, ">down<", count=2)
        self.assertContains(page, "grade 5")

    def test_a_counted_roll_shows_its_skeleton_and_its_speed(self):
        page = self.client.get(reverse("rudiment", args=["seven-stroke-roll"]))
        self.assertContains(page, "3 notes first")
        self.assertContains(page, "8 strokes a second at crotchet = 60")
        plain = self.client.get(reverse("rudiment", args=["flam"]))
        self.assertNotContains(plain, "How it is learned")

    def test_what_is_not_on_the_shelf_is_not_there(self):
        address = reverse("rudiment", args=["moonwalk"])
        self.assertEqual(self.client.get(address).status_code, 404)


class Sending(StudioTest):
    def send(self, student, slug="single-paradiddle", tempo=100):
        data = {"student": student.pk, "tempo": tempo}
        return self.client.post(reverse("rudiment", args=[slug]), data)

    def test_a_drill_becomes_an_exercise_that_is_climbed(self):
        student = make_student(self.teacher)
        response = self.send(student)
        plan = Plan.objects.get(student=student)
        self.assertRedirects(response, plan.get_absolute_url())
        step = plan.steps.get()
        self.assertEqual((step.name, plan.start, plan.target), ("single paradiddle", 70, 100))
        self.assertEqual(plan.piece.kind, "hands")
        self.assertNotContains(self.client.get(reverse("pieces")), "single paradiddle")
        page = self.client.get(student.get_absolute_url())
        self.assertContains(page, "single paradiddle")
        self.assertEqual([row["plan"] for row in page.context["rows"]], [])

    def test_each_drill_is_an_exercise_of_its_own_and_shared_by_students(self):
        one, two = (make_student(self.teacher, name) for name in ("Ines", "Bo"))
        self.send(one)
        self.send(one, "flam-drag", 120)
        self.send(two)
        self.assertEqual(Piece.objects.count(), 2)
        self.assertEqual(Plan.objects.filter(student=one).count(), 2)
        shared = Piece.objects.get(title="single paradiddle")
        self.assertEqual({plan.student for plan in shared.plans.all()}, {one, two})

    def test_one_drill_goes_to_several_students_at_once(self):
        one, two = (make_student(self.teacher, name) for name in ("Ines", "Bo"))
        address = reverse("rudiment", args=["flam"])
        page = self.client.post(
            address, {"student": [one.pk, two.pk], "tempo": 90}, follow=True
        )
        self.assertContains(page, "Ines climbs the flam now.")
        self.assertContains(page, "Bo climbs the flam now.")
        self.assertEqual(Plan.objects.filter(target=90).count(), 2)
        page = self.client.post(address, {"tempo": 90})
        self.assertContains(page, "Choose a student at least.", status_code=422)

    def test_the_same_drill_again_goes_on_where_it_stands(self):
        student = make_student(self.teacher)
        self.send(student)
        log(Step.objects.get(), 75)
        self.send(student, tempo=130)
        self.assertEqual(Step.objects.get().standing.held, 75)
        self.assertEqual(Plan.objects.get(student=student).target, 130)

    def test_a_left_handed_student_gets_it_mirrored(self):
        self.send(make_student(self.teacher, lead="L"))
        hits = Piece.objects.get().chart().bars[0].hits
        self.assertEqual("".join(hit.hand for hit in hits), "LRLLRLRR")

    def test_a_drill_is_not_told_as_a_place_in_a_piece(self):
        self.send(make_student(self.teacher))
        page = self.client.get(reverse("rudiment", args=["single-paradiddle"]))
        self.assertContains(page, "In none of them")

    def test_a_tempo_nobody_plays_is_refused(self):
        response = self.send(make_student(self.teacher), tempo=4000)
        self.assertContains(response, "less than or equal to 400", status_code=422)

    def test_another_teachers_student_cannot_be_sent_anything(self):
        stranger = make_student(self.other_teacher(), "Zed")
        self.assertEqual(self.send(stranger).status_code, 422)


class Vocabulary(StudioTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.teacher, PADDLES)

    def groups(self, **asked):
        page = self.client.get(reverse("piece-vocabulary", args=[self.piece.pk]), asked)
        return {
            status: [line.item.name for line in lines]
            for status, lines in page.context["groups"]
        }

    def test_known_due_and_new_for_a_grade(self):
        groups = self.groups(grade=2)
        self.assertIn("triplet", groups["new"])
        self.assertIn("single paradiddle", groups["due"])
        self.assertIn("four semiquavers", groups["known"])

    def test_for_a_student_by_their_grade(self):
        student = make_student(self.teacher, grade=5)
        groups = self.groups(student=student.pk)
        self.assertIn("triplet", groups["known"])
        self.assertEqual(groups["new"], [])

    def test_bars_lead_to_their_page(self):
        page = self.client.get(reverse("piece-vocabulary", args=[self.piece.pk]))
        self.assertContains(
            page, f'href="{reverse("bar-page", args=[self.piece.pk, 1])}">2</a>'
        )

    def test_it_prints(self):
        address = reverse("piece-vocabulary-pdf", args=[self.piece.pk])
        answer = self.client.get(address, {"grade": 2, "paper": "Letter"})
        page = PdfReader(io.BytesIO(answer.content)).pages[0]
        self.assertEqual(round(page.mediabox.width), 612)
        self.assertIn("single paradiddle", page.extract_text())

    def test_nonsense_asks_for_the_pieces_own_grade(self):
        self.assertEqual(self.groups(grade="x", student="y"), self.groups())
