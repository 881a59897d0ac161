"""Whoever came to change a thing is brought back to where they were."""

from datetime import date

from django.urls import reverse
from lxml.html import fromstring

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from wren_ladder.studio.exams.models import Exam


class CameFrom(StudioTest):
    def setUp(self):
        super().setUp()
        self.student = make_student(self.teacher)
        self.plan = make_plan(make_piece(self.teacher), self.student)
        self.step = self.plan.steps.first()

    def kept(self, form: str, page: str, **changed):
        """Where the form leads that was opened on a page, and sent as it stood."""
        opened = self.client.get(form, headers={"referer": f"http://testserver{page}"})
        forms = fromstring(opened.content.decode()).forms
        (sent,) = (one for one in forms if "came_from" in one.fields)
        sent = dict(sent.form_values())
        answer = self.client.post(form, {**sent, **changed})
        wrong = answer.context["form"].errors if answer.context else ""
        self.assertEqual(answer.status_code, 302, wrong)
        return answer["Location"]

    def test_every_form_of_one_question_leads_back(self):
        attempt = log(self.step, 60)
        exam = Exam.objects.create(student=self.student, grade=3, day=date(2027, 3, 1))
        lesson = self.student.lessons.create(day=date(2027, 1, 4), minutes=30, state="planned")
        ladder, desk = self.plan.get_absolute_url(), reverse("desk")
        for form, page in (
            (reverse("plan-edit", args=[self.plan.pk]), f"{ladder}?step={self.step.pk}"),
            (reverse("plan-edit", args=[self.plan.pk]), desk),
            (reverse("student-edit", args=[self.student.pk]), reverse("students")),
            (reverse("attempt-edit", args=[attempt.pk]), ladder),
            (reverse("exam-edit", args=[exam.pk]), desk),
            (reverse("step-edit", args=[self.step.pk]), reverse("step", args=[self.step.pk])),
            (reverse("lesson-change", args=[lesson.pk]), reverse("timetable")),
        ):
            with self.subTest(form, page=page):
                self.assertEqual(self.kept(form, page), page)

    def test_where_nothing_led_to_it_or_another_site_did_it_goes_where_it_always_went(self):
        form, ladder = reverse("plan-edit", args=[self.plan.pk]), self.plan.get_absolute_url()
        for led in ("", form, "https://elsewhere.example/", "//elsewhere.example/x"):
            with self.subTest(led):
                opened = self.client.get(form, headers={"referer": led} if led else {})
                self.assertContains(opened, 'name="came_from" value=""')
        self.assertEqual(self.kept(form, form), ladder)
        self.assertEqual(
            self.kept(form, ladder, came_from="https://elsewhere.example/"), ladder
        )
        self.assertEqual(self.kept(form, ladder, came_from="//elsewhere.example/"), ladder)
