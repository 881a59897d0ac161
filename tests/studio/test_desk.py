"""The Desk: today's lessons in order, everybody by risk, exams ahead."""

from datetime import date, time, timedelta

from django.urls import reverse

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from tests.studio.test_forecasts import practise
from wren_ladder.studio.climb.models import HomeMinutes
from wren_ladder.studio.lessons.models import Lesson


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

    def test_each_says_what_to_hear_was_set_was_done_and_to_decide(self):
        student, plan = self.pupil("Ada", exam_in=90, at=time(16))
        Lesson.objects.create(
            student=student,
            day=self.today - timedelta(days=7),
            was_set=[{"step": 1, "name": "Bar 4", "piece": "Quay", "tempo": 90}],
        )
        log(plan.steps.first(), 90, days_ago=9)  # before the last lesson
        log(plan.steps.first(), 95, days_ago=3)
        HomeMinutes.objects.create(student=student, day=self.today, minutes=12)
        page = self.desk()
        self.assertContains(page, "16:00")
        self.assertContains(page, "Bar 4 at 90")
        self.assertContains(page, "1 day, 1 try, 12 minutes")
        self.assertContains(page, "Too little data: agree on days to practise")
        self.assertContains(page, reverse("lesson-mode", args=[student.pk]))

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


class Risk(DeskTest):
    def test_students_at_most_risk_come_first(self):
        """Safe, behind, without an exam, and one whose second piece is behind."""
        _, safe = self.pupil("Ada", exam_in=200)
        _, behind = self.pupil("Bo", exam_in=15)
        _, free = self.pupil("Cy")
        for plan in (safe, behind, free):
            practise(plan)
        names = [climb.plan.student.name for climb in self.desk().context["climbs"]]
        self.assertEqual(names, ["Bo", "Ada", "Cy"])
        self.assertContains(self.desk(), "1 behind")

    def test_exams_of_the_next_months_are_ahead(self):
        self.pupil("Ada", exam_in=30)
        self.pupil("Bo", exam_in=10)
        self.pupil("Cy", exam_in=400)
        exams = self.desk().context["exams"]
        self.assertEqual([one["student"].name for one in exams], ["Bo", "Ada"])
        self.assertEqual(exams[0]["days"], 10)

    def test_the_number_of_queries_is_fixed(self):
        for name in ("Ada", "Bo"):
            _, plan = self.pupil(name, exam_in=40)
            practise(plan, days=3)
        self.desk()  # the first of the day lets go what is over
        with self.assertNumQueries(18):
            self.desk()
        for n in range(6):
            _, plan = self.pupil(f"Pupil {n}", exam_in=40)
            practise(plan, days=3)
        with self.assertNumQueries(18):
            self.desk()


class Others(DeskTest):
    def test_a_climb_says_who_where_and_what_next(self):
        _, plan = self.pupil("Ines", exam_in=40)
        log(plan.steps.first(), 90)
        for said in ("Ines", "Quay", "of 120", "in 40 days", "3 steps without a rung"):
            self.assertContains(self.desk(), said)

    def test_a_student_without_a_piece_is_not_forgotten(self):
        self.pupil("Ada")
        make_student(self.teacher, "Kofi")
        self.assertContains(self.desk(), "Without a piece yet")


class EmptyDesk(StudioTest):
    def test_it_says_the_next_step(self):
        self.assertContains(self.client.get(reverse("desk")), "Start with a piece")
        make_piece(self.teacher)
        self.assertContains(self.client.get(reverse("desk")), "Add the student")
        make_student(self.teacher)
        self.assertContains(self.client.get(reverse("desk")), "give it to a student")
