"""A form that arrives twice is done once, and leads to the same page."""

from uuid import uuid4

from django.urls import reverse

from tests.studio.base import NOTHING_SET, StudioTest, make_piece, make_plan, make_student
from tests.studio.test_lessons import RULE
from tests.studio.test_students import USUAL
from wren_ladder.studio.accounts.models import SentForm
from wren_ladder.studio.climb.models import Attempt, HomeMinutes
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.students.models import Student


class SentTwice(StudioTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.teacher)
        self.student = make_student(self.teacher)

    def test_what_it_makes_is_made_once(self):
        today = "2026-11-02"
        other = make_student(self.teacher, "Kofi")
        plan = make_plan(self.piece, other)
        row = self.piece.bars.first().pk
        for model, address, form in (
            (Student, reverse("student-new"), {**USUAL, "name": "Bo", "grade": 4, "lead": "R"}),
            (Plan, reverse("give", args=[self.piece.pk]),
             {**RULE, "students": self.student.pk, "target": 120, "school": "bar"}),
            (HomeMinutes, reverse("minutes", args=[self.student.pk]),
             {"day": today, "minutes": 20}),
            (Step, reverse("step-add", args=[plan.pk]),
             {"first": row, "last": row, "repeats": 4}),
            (Lesson, reverse("lesson-end", args=[self.student.pk]),
             {**NOTHING_SET, "note": "Fill first."}),
        ):  # fmt: skip
            with self.subTest(address):
                before = model.objects.count()
                form["form_key"] = str(uuid4())
                answers = [self.client.post(address, form) for _ in range(2)]
                self.assertEqual([answer.status_code for answer in answers], [302, 302])
                self.assertEqual(answers[0].url, answers[1].url)
                made = model.objects.count() - before
                self.assertEqual(made, 1)

    def test_the_same_words_sent_on_purpose_are_two(self):
        address = reverse("minutes", args=[self.student.pk])
        for _ in range(2):
            key = str(uuid4())
            form = {"day": "2026-11-02", "minutes": 20, "form_key": key}
            self.client.post(address, form)
        self.assertEqual(HomeMinutes.objects.count(), 2)

    def test_a_form_that_was_refused_can_be_sent_again(self):
        address, key = reverse("minutes", args=[self.student.pk]), str(uuid4())
        form = {"day": "2026-11-02", "form_key": key}
        self.assertEqual(self.client.post(address, {**form, "minutes": "x"}).status_code, 422)
        self.assertEqual(self.client.post(address, {**form, "minutes": 20}).status_code, 302)
        self.assertEqual(HomeMinutes.objects.count(), 1)

    def test_a_try_is_logged_once(self):
        step = make_plan(self.piece, self.student).steps.first()
        form = {"tempo": 90, "passes": 1, "clean_try": "yes", "day": "2026-11-02"}
        form["form_key"] = str(uuid4())
        for headers in ({"HX-Request": "true"}, {"HX-Request": "true"}, {}):
            self.client.post(reverse("attempt-log", args=[step.pk]), form, headers=headers)
        self.assertEqual(Attempt.objects.count(), 1)

    def test_every_page_that_makes_something_carries_a_key(self):
        for address in (
            reverse("student-new"),
            reverse("give", args=[self.piece.pk]),
            reverse("minutes", args=[self.student.pk]),
            reverse("lesson-end", args=[self.student.pk]),
            reverse("piece-upload"),
        ):
            with self.subTest(address):
                self.assertContains(self.client.get(address), 'name="form_key"')
        self.assertFalse(SentForm.objects.exists())
