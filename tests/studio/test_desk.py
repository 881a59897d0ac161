"""The Desk: today's lessons in order, exams ahead, what waits for an answer."""

from datetime import date, time, timedelta

from django.urls import reverse

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from tests.studio.test_forecasts import practise
from wren_ladder.studio.changes.exams import exam_on
from wren_ladder.studio.climb.models import Attempt, HomeMinutes, Where
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.students.models import Student


class DeskTest(StudioTest):
    def setUp(self):
        super().setUp()
        self.today = date.today()
        self.piece = make_piece(self.teacher)

    def pupil(self, name, exam_in=None, at=None, day=None):
        student = make_student(
            self.teacher,
            name,
            exam_date=self.today + timedelta(days=exam_in) if exam_in else None,
            lesson_day=self.today.weekday() if day is None else day,
            lesson_time=at,
        )
        return student, make_plan(self.piece, student)

    def desk(self):
        return self.client.get(reverse("desk"))


class TodaysLessons(DeskTest):
    def test_they_stand_in_the_order_of_the_day(self):
        self.pupil("Zoe", at=time(9, 30))
        self.pupil("Ada", at=time(16))
        self.pupil("Bo")
        self.pupil("Tomorrow", day=(self.today.weekday() + 1) % 7)
        lessons = self.desk().context["lessons"]
        self.assertEqual([one.student.name for one in lessons], ["Zoe", "Ada", "Bo"])

    def test_each_says_the_last_word_what_to_hear_what_was_done_at_home_and_to_decide(self):
        student, plan = self.pupil("Ada", exam_in=90, at=time(16))
        Lesson.objects.create(
            student=student,
            day=self.today - timedelta(days=7),
            note="Fill first, while fresh.",
            message="Well done!",
        )
        log(plan.steps.first(), 90, days_ago=4)  # with the teacher, in between
        log(plan.steps.first(), 95, days_ago=3)
        Attempt.objects.filter(tempo=95).update(where=Where.HOME)
        for ago in (9, 2):  # before the last lesson, and after it
            HomeMinutes.objects.create(
                student=student, day=self.today - timedelta(days=ago), minutes=12
            )
        page = self.desk()
        self.assertContains(page, "16:00")
        self.assertContains(page, "Fill first, while fresh.")
        self.assertNotContains(page, "Well done!")
        self.assertContains(page, "at home: 2 days, 12 minutes")
        self.assertContains(page, "Too little data: agree on days to practise")
        self.assertContains(page, reverse("lesson-mode", args=[student.pk]))

    def test_one_key_is_filled_that_of_the_next_lesson(self):
        self.pupil("Ada", at=time(15))
        bo, _ = self.pupil("Bo", at=time(16))
        ada = Student.objects.get(name="Ada")
        self.assertEqual(self.desk().context["first"].student, ada)
        Lesson.objects.create(student=ada, day=self.today)
        page = self.desk()
        self.assertEqual(page.context["first"].student, bo)
        self.assertContains(page, 'class="btn btn-primary"', count=1)

    def test_a_day_without_lessons_is_quiet(self):
        self.pupil("Ada", day=(self.today.weekday() + 1) % 7)
        self.assertContains(self.desk(), "No lesson today. Nothing to do; enjoy the quiet.")

    def test_a_plateau_is_what_there_is_to_decide(self):
        _, plan = self.pupil("Ada")
        step = plan.steps.first()
        for other in plan.steps.all():
            log(other, 120 if other.name == "Bar 4" else 95, days_ago=9)  # the rest plays bar 1
        for ago in (4, 3, 2, 1):
            log(step, 100, clean=False, passes=1, days_ago=ago)
        self.assertContains(self.desk(), "A plateau: Bar 1, 4 practice days without a new rung")


class Exams(DeskTest):
    def test_exams_of_the_next_months_are_ahead(self):
        self.pupil("Ada", exam_in=30)
        self.pupil("Bo", exam_in=10)
        self.pupil("Cy", exam_in=400)
        make_student(
            self.teacher, "Zoe", exam_date=self.today + timedelta(days=5), lesson_day=None
        )
        exams = self.desk().context["exams"]
        self.assertEqual([one.student.name for one in exams], ["Zoe", "Bo", "Ada"])
        self.assertEqual(exams[1].days, 10)
        self.assertContains(self.desk(), "no piece for it yet")

    def test_the_number_of_queries_is_fixed(self):
        for name in ("Ada", "Bo"):
            _, plan = self.pupil(name, exam_in=40)
            practise(plan, days=3)
        self.desk()  # the first of the day lets go what is over
        with self.assertNumQueries(20):
            self.desk()
        for n in range(6):
            _, plan = self.pupil(f"Pupil {n}", exam_in=40)
            practise(plan, days=3)
        with self.assertNumQueries(20):
            self.desk()


class ToAnswer(DeskTest):
    def said(self):
        return [(one.said, one.ask) for one in self.desk().context["to_answer"]]

    def test_a_lesson_without_a_word_is_asked_about(self):
        yesterday = self.today - timedelta(days=1)
        student, plan = self.pupil("Ada", day=yesterday.weekday())
        self.assertEqual(self.said(), [])  # entered today: no lesson was missed
        log(plan.steps.first(), 90, days_ago=8)
        asked = [(f"Ada: no word about {yesterday:%A}'s lesson.", "What happened?")]
        self.assertEqual(self.said(), asked)
        Lesson.objects.create(student=student, day=yesterday)
        self.assertEqual(self.said(), [])

    def test_an_exam_that_is_over_is_asked_about(self):
        student, _ = self.pupil("Ada", day=(self.today.weekday() + 1) % 7)
        exam_on(student, self.today - timedelta(days=2), self.today)
        Lesson.objects.create(student=student, day=self.today - timedelta(days=6))
        self.assertIn("How did it go?", [ask for _, ask in self.said()])

    def test_a_student_without_a_piece_is_not_forgotten(self):
        make_student(self.teacher, "Kofi", lesson_day=None)
        self.assertEqual(self.said(), [("Kofi has no piece yet.", "Choose one")])

    def test_a_studio_just_entered_is_asked_in_one_line(self):
        for name in ("Bo", "Cy", "Di", "Ed"):
            make_student(self.teacher, name)
        self.assertEqual(self.said(), [("Bo and 3 others have no piece yet.", "See who")])


class EmptyDesk(StudioTest):
    def test_it_says_the_next_step(self):
        self.assertContains(self.client.get(reverse("desk")), "Start with a piece")
        make_piece(self.teacher)
        self.assertContains(self.client.get(reverse("desk")), "Add the student")
        make_student(self.teacher)
        self.assertContains(self.client.get(reverse("desk")), "has no piece yet")
