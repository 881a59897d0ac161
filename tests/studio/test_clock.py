"""A clock that jumps: nothing is lost, every page opens, and the look-over says so."""

from datetime import timedelta
from unittest import mock

from django.urls import reverse
from django.utils import timezone

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from wren_ladder.studio.climb.models import Attempt
from wren_ladder.studio.keeping.look_over import _clock


class Jumps(StudioTest):
    def setUp(self):
        super().setUp()
        self.student = make_student(self.teacher)
        self.plan = make_plan(make_piece(self.teacher), self.student)
        self.step = self.plan.steps.first()
        log(self.step, 90)

    def pages(self) -> dict[str, int]:
        addresses = [
            reverse("desk"),
            reverse("students"),
            self.student.get_absolute_url(),
            self.plan.get_absolute_url(),
            reverse("progress", args=[self.plan.pk]),
            reverse("lesson-mode", args=[self.student.pk]),
            reverse("week", args=[self.student.pk]),
        ]
        return {one: self.client.get(one).status_code for one in addresses}

    def test_years_back_and_weeks_ahead(self):
        real = timezone.now()
        for jump in (timedelta(days=-7300), timedelta(days=-1), timedelta(days=40)):
            there = mock.patch("django.utils.timezone.now", lambda jump=jump: real + jump)
            with self.subTest(jump), there:
                self.client.force_login(self.teacher)
                self.assertEqual(set(self.pages().values()), {200})
                kept = Attempt.objects.count()
                sent = {"tempo": 95, "passes": 8, "clean_try": "yes"}
                self.client.post(reverse("step-log", args=[self.step.pk]), sent)
                self.assertEqual(Attempt.objects.count(), kept + 1)
        self.client.force_login(self.teacher)
        self.assertEqual(set(self.pages().values()), {200})
        self.assertEqual(Attempt.objects.count(), 4)

    def test_the_look_over_says_that_it_is_behind(self):
        (said,) = _clock(timezone.localdate())
        self.assertFalse(said.is_wrong)
        (said,) = _clock(timezone.localdate() - timedelta(days=400))
        self.assertTrue(said.is_wrong)
