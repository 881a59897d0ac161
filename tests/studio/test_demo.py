"""The demo studio: loaded, told apart from today, and kept."""

import re

from django.contrib.auth.models import User
from django.db.models import Max
from django.test import TestCase
from django.urls import reverse
from django.utils import timezone

from tests.reading_age import school_grade, sentences_on, words_in
from wren_ladder.demo import studio
from wren_ladder.demo.people import PUPILS
from wren_ladder.drumming.forecast import Status
from wren_ladder.studio.bin.models import Binned
from wren_ladder.studio.climb.forecasts import outlook_of
from wren_ladder.studio.climb.models import Attempt, StepStanding
from wren_ladder.studio.climb.standings import plateau_of
from wren_ladder.studio.lessons.models import Lesson, Period
from wren_ladder.studio.plans.models import Plan, Step
from wren_ladder.studio.plans.rules import climb_rule
from wren_ladder.studio.students.links import path_of
from wren_ladder.studio.students.models import Student


class Demo(TestCase):
    @classmethod
    def setUpTestData(cls):
        cls.teacher = studio.load()

    def test_the_room_is_full(self):
        self.assertEqual(self.teacher.pieces.filter(kind="piece").count(), 9)
        here = Student.objects.filter(status=Student.Status.HERE)
        self.assertEqual(here.count(), len(PUPILS))
        self.assertEqual(set(Student.objects.values_list("lead", flat=True)), {"R", "L"})
        grades = set(Student.objects.values_list("grade", flat=True))
        self.assertLessEqual(grades, {1, 2, 3, 4, 5})
        self.assertGreater(Attempt.objects.count(), 500)

    def test_no_attempt_lies_in_the_future_and_the_last_is_fresh(self):
        newest = Attempt.objects.aggregate(newest=Max("day"))["newest"]
        age = (timezone.localdate() - newest).days
        self.assertTrue(0 <= age <= 7, age)

    def test_one_exam_next_month_is_safe_and_one_is_at_risk(self):
        soon = [
            plan
            for plan in Plan.objects.filter(student__isnull=False)
            if plan.student.exam_date
            and (plan.student.exam_date - timezone.localdate()).days < 45
        ]
        shares = [plan.standing.ready / plan.target for plan in soon if plan.standing.ready]
        self.assertTrue(any(share >= 1 for share in shares), shares)
        self.assertTrue(any(share < 0.9 for share in shares), shares)

    def test_every_status_is_there_and_a_plateau_with_its_advice(self):
        plans = Plan.objects.filter(student__isnull=False).select_related("student", "piece")
        today = timezone.localdate()
        self.assertEqual({outlook_of(plan, today).status for plan in plans}, set(Status))
        steps = Step.objects.filter(plan__in=plans, dropped=False).select_related(
            "plan", "first", "last"
        )
        stuck = [plateau_of(one.plan, one, climb_rule(one.plan, one)) for one in steps]
        self.assertTrue(any(plateau and plateau.advice for plateau in stuck))

    def test_there_are_lessons_minutes_and_a_link_for_everybody(self):
        for student in Student.objects.filter(status=Student.Status.HERE):
            with self.subTest(student.name):
                self.assertTrue(student.lessons.filter(was_set__isnull=False).exists())
                self.assertTrue(student.logged_minutes.exists())
                self.assertTrue(student.link_key)

    def test_every_thing_that_can_become_of_a_lesson_a_piece_and_a_student_is_there(self):
        lessons = Lesson.objects.all()
        self.assertEqual({one.state for one in lessons}, set(Lesson.State))
        for told in (
            lessons.filter(instead_of__isnull=False, state="given"),  # made up
            lessons.filter(instead_of__isnull=False, state="planned"),  # moved
            lessons.filter(late__gt=0),
            lessons.filter(practised="no"),
            lessons.filter(company__isnull=False),
            lessons.exclude(message="").exclude(for_parents=""),
            Plan.objects.filter(status="paused"),
            Plan.objects.filter(status="passed"),
            Student.objects.filter(status="paused"),
            Student.objects.filter(status="left"),
            Student.objects.filter(home_earns=False, plans__isnull=False),
            Period.objects.filter(kind="term"),
            Period.objects.filter(kind="holiday"),
            Binned.objects.all(),
        ):
            self.assertTrue(told.exists(), told.query)
        self.assertTrue(any(one.is_double for one in lessons))

    def test_there_are_setbacks_to_talk_about(self):
        self.assertTrue(StepStanding.objects.filter(falling=True).exists())

    def test_every_page_of_a_piece_and_a_plan_opens(self):
        self.client.force_login(self.teacher)
        for piece in self.teacher.pieces.all():
            self.assertEqual(self.client.get(piece.get_absolute_url()).status_code, 200)
        for plan in Plan.objects.filter(student__isnull=False):
            for name in ("plan", "plan-steps", "progress"):
                with self.subTest(f"{plan} {name}"):
                    address = reverse(name, args=[plan.pk])
                    self.assertEqual(self.client.get(address).status_code, 200)

    def test_every_page_of_a_student_opens(self):
        self.client.force_login(self.teacher)
        for student in Student.objects.filter(status=Student.Status.HERE):
            for name in ("student", "lesson-mode", "lesson-end", "week", "link"):
                address = (
                    path_of(student) if name == "link" else reverse(name, args=[student.pk])
                )
                with self.subTest(f"{student} {name}"):
                    self.assertEqual(self.client.get(address).status_code, 200)

    def test_a_ten_year_old_reads_the_pages_at_home(self):
        for student in Student.objects.filter(status=Student.Status.HERE):
            home = path_of(student)
            found, todo = set(), [home, f"{home}held/"]
            done = set(todo)
            while todo:
                page = self.client.get(todo.pop()).content.decode()
                found |= sentences_on(page)
                further = rf'href="({re.escape(home)}(?:pieces|takes)/\d+/)"'
                links = set(re.findall(further, page))
                todo += links - done
                done |= links
            named = {piece.title for piece in self.teacher.pieces.all()}
            read = {one for one in found if one not in named}
            with self.subTest(student.name):
                self.assertGreater(len(read), 40)
                for sentence in read:
                    self.assertLessEqual(len(words_in(sentence)), 12, sentence)
                self.assertLess(school_grade(read), 5)

    def test_preparing_again_keeps_what_was_changed(self):
        User.objects.filter(username="demo").update(first_name="kept")
        studio.prepare()
        self.assertEqual(User.objects.get(username="demo").first_name, "kept")
        self.assertEqual(self.teacher.pieces.filter(kind="piece").count(), 9)
