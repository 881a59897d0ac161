"""Exams from their entry to the next grade: planned, tried as a mock, told of."""

import io
from datetime import timedelta

from django.urls import reverse
from django.utils import timezone
from pypdf import PdfReader

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from wren_ladder.studio.changes.exams import exam_on
from wren_ladder.studio.exams.models import Exam, MockRun
from wren_ladder.studio.plans.models import Plan
from wren_ladder.studio.students.models import Student


class ExamTest(StudioTest):
    def setUp(self):
        super().setUp()
        self.today = timezone.localdate()
        self.student = make_student(self.teacher, "Ines", grade=3)
        self.plan = make_plan(make_piece(self.teacher), self.student)

    def keep(self, days=40, **fields):
        sent = {
            "day": f"{self.today + timedelta(days=days)}",
            "grade": 3,
            "plans": [self.plan.pk],
            "others": "unseen reading\n\n  unseen   reading\nplayback",
            **fields,
        }
        answer = self.client.post(reverse("exam-new", args=[self.student.pk]), sent)
        return answer, Exam.objects.first()

    def stored(self) -> Student:
        return Student.objects.get(pk=self.student.pk)


class Planned(ExamTest):
    def test_it_has_a_programme_a_day_and_who_is_ready_for_what(self):
        log(self.plan.steps.first(), 90)
        answer, exam = self.keep(entry_by=f"{self.today + timedelta(days=10)}")
        self.assertRedirects(answer, exam.get_absolute_url())
        names = [item.name for item in exam.items.all()]
        self.assertEqual(names, ["Quay", "unseen reading", "playback"])
        self.assertEqual(self.stored().exam_date, exam.day)
        page = self.client.get(exam.get_absolute_url())
        for said in ("in 40 days", "entry by", "of\n    120", "unseen reading", "Mock exam"):
            self.assertContains(page, " ".join(said.split()))
        page = self.client.get(self.student.get_absolute_url())
        self.assertContains(page, exam.get_absolute_url())

    def test_wrong_days_are_told_and_nothing_is_kept(self):
        answer, exam = self.keep(entry_by=f"{self.today + timedelta(days=50)}")
        self.assertContains(answer, "The entry comes before the exam.", status_code=422)
        self.assertIsNone(exam)

    def test_a_changed_programme_keeps_the_mock_runs_of_what_stays(self):
        _, exam = self.keep()
        kept = exam.items.get(name="playback")
        MockRun.objects.create(item=kept, day=self.today, was_clean=True)
        sent = {"day": f"{exam.day}", "grade": 3, "plans": [], "others": "playback"}
        self.client.post(reverse("exam-edit", args=[exam.pk]), sent)
        self.assertEqual([item.pk for item in exam.items.all()], [kept.pk])
        self.assertEqual(MockRun.objects.count(), 1)

    def test_the_day_as_it_is_said_elsewhere_moves_the_exam(self):
        day = self.today + timedelta(days=30)
        exam_on(self.student, day, self.today)
        exam = Exam.objects.get()
        self.assertEqual(
            (exam.day, [item.plan for item in exam.items.all()]), (day, [self.plan])
        )
        exam_on(self.student, day + timedelta(days=7), self.today)
        self.assertEqual(Exam.objects.get().day, day + timedelta(days=7))
        exam_on(self.student, None, self.today)
        self.assertFalse(Exam.objects.exists())

    def test_deleted_it_lies_in_the_bin_and_is_asked_for_no_more(self):
        _, exam = self.keep()
        self.client.post(reverse("exam-delete", args=[exam.pk]))
        self.assertFalse(Exam.objects.exists())
        self.assertIsNone(self.stored().exam_date)
        self.assertContains(self.client.get(reverse("bin")), "the exam, grade 3 of Ines")


class Mock(ExamTest):
    def test_each_thing_is_marked_with_a_sentence_and_printed_for_the_parents(self):
        _, exam = self.keep()
        quay, reading, _ = exam.items.all()
        address = reverse("exam-mock", args=[exam.pk])
        page = self.client.get(address)
        self.assertContains(page, f'data-play="{quay.pk}"')  # counted in at its tempo
        sent = {
            f"run-{quay.pk}-went": "yes",
            f"run-{quay.pk}-words": "Like on the day.",
            f"run-{reading.pk}-went": "no",
        }
        self.client.post(address, sent)
        runs = [(run.item.name, run.was_clean, run.words) for run in MockRun.objects.all()]
        self.assertEqual(
            runs, [("Quay", True, "Like on the day."), ("unseen reading", False, "")]
        )
        self.client.post(address, sent)  # told again on the same day
        self.assertEqual(MockRun.objects.count(), 2)
        self.assertContains(self.client.get(exam.get_absolute_url()), "Like on the day.")
        sheet = self.client.get(reverse("mock-sheet", args=[exam.pk]))
        text = " ".join(PdfReader(io.BytesIO(sheet.content)).pages[0].extract_text().split())
        self.assertIn("Quay at 120: went well Like on the day.", text)

    def test_without_one_there_is_no_sheet(self):
        _, exam = self.keep()
        sheet = self.client.get(reverse("mock-sheet", args=[exam.pk]))
        self.assertEqual(sheet.status_code, 404)


class Over(ExamTest):
    def setUp(self):
        super().setUp()
        _, self.exam = self.keep(days=-2)

    def tell(self, **fields):
        return self.client.post(reverse("exam-result", args=[self.exam.pk]), fields)

    def test_the_desk_asks_how_it_went_until_it_is_told(self):
        desk = self.client.get(reverse("desk"))
        self.assertContains(desk, "How did it go?")
        self.assertContains(desk, self.exam.get_absolute_url())
        self.assertEqual(self.tell(mark="84").status_code, 422)  # passed or not is wanted
        self.tell(result="passed", mark="84 of 100", words="Steady.")
        self.assertNotContains(self.client.get(reverse("desk")), "How did it go?")
        page = self.client.get(self.exam.get_absolute_url())
        for said in ("Passed", "84 of 100", "Steady.", "Next grade"):
            self.assertContains(page, said)
        self.assertIsNone(self.stored().exam_date)

    def test_the_next_grade_puts_away_what_was_passed_and_deletes_nothing(self):
        log(self.plan.steps.first(), 90)
        address = reverse("exam-next-grade", args=[self.exam.pk])
        self.assertEqual(self.client.post(address).status_code, 404)
        self.tell(result="passed")
        self.client.post(address)
        self.assertEqual(self.stored().grade, 4)
        self.assertEqual(Plan.objects.get(pk=self.plan.pk).status, Plan.Status.PASSED)
        self.assertEqual(self.plan.steps.first().attempts.count(), 1)
        self.client.post(address)  # a second press raises nothing more
        self.assertEqual(self.stored().grade, 4)

    def test_one_that_was_put_off_leaves_the_grade_and_the_pieces(self):
        self.tell(result="put-off")
        self.assertNotContains(self.client.get(self.exam.get_absolute_url()), "Next grade")
        self.assertEqual(Plan.objects.get(pk=self.plan.pk).status, Plan.Status.CLIMBING)


class Strangers(ExamTest):
    def test_another_teacher_finds_nothing(self):
        _, exam = self.keep()
        self.client.force_login(self.other_teacher())
        for name in ("exam", "exam-edit", "exam-mock", "mock-sheet", "exam-delete"):
            self.assertEqual(self.client.get(reverse(name, args=[exam.pk])).status_code, 404)
        for name in ("exam-result", "exam-next-grade", "exam-mock", "exam-edit", "exam-delete"):
            self.assertEqual(self.client.post(reverse(name, args=[exam.pk])).status_code, 404)
        new = reverse("exam-new", args=[self.student.pk])
        self.assertEqual(self.client.get(new).status_code, 404)
