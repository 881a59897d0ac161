"""What follows from a try is worked out after it is stored, and never from an older log."""

from unittest import mock
from uuid import uuid4

from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.urls import reverse
from django.utils import timezone

from tests.studio.base import StudioTest, make_piece, make_plan, make_student
from wren_ladder.studio.changes.attempts import log_attempts
from wren_ladder.studio.climb import standings
from wren_ladder.studio.climb.models import Attempt, PlanStanding


class Follow(StudioTest):
    def setUp(self):
        super().setUp()
        self.plan = make_plan(make_piece(self.teacher), make_student(self.teacher))
        self.step = self.plan.steps.first()

    def attempt(self, tempo=90, **fields):
        today = timezone.localdate()
        return Attempt(
            step=self.step, day=today, tempo=tempo, was_clean=True, passes=8, **fields
        )

    def standing(self) -> PlanStanding:
        return PlanStanding.objects.get(plan=self.plan)

    def held(self):
        return self.fresh(self.step).standing.held

    def test_a_studio_that_stops_before_it_is_worked_out_catches_up(self):
        stopped = mock.patch(
            "wren_ladder.studio.changes.attempts.follow", side_effect=SystemExit
        )
        with stopped, self.assertRaises(SystemExit):
            log_attempts([self.attempt()])
        self.assertEqual(Attempt.objects.count(), 1)  # what was acknowledged is there
        self.assertIsNone(self.held())
        self.assertLess(self.standing().worked_out, self.standing().changes)
        self.assertEqual(standings.catch_up(), 1)
        self.assertEqual(self.held(), 90)
        self.assertEqual(standings.catch_up(), 0)

    def test_a_log_that_goes_on_meanwhile_is_worked_out_anew(self):
        folded, times = standings._folded, []

        def slowly(pk, tried=None):
            found = folded(pk, tried)
            times.append(pk)
            if len(times) == 1:  # another try comes in between reading and writing
                log_attempts([self.attempt(95)])
            return found

        with mock.patch.object(standings, "_folded", slowly):
            log_attempts([self.attempt(90)])
        self.assertEqual(len(times), 3)
        self.assertEqual(self.held(), 95)
        self.assertEqual(self.standing().worked_out, self.standing().changes)

    def test_where_it_never_stands_still_it_is_worked_out_under_the_lock(self):
        numbers = iter(range(1, 1000))
        with mock.patch.object(standings, "_changes", lambda pk: next(numbers)):
            log_attempts([self.attempt()])
        self.assertEqual(self.held(), 90)

    def test_the_database_is_not_locked_while_it_is_reckoned(self):
        locked, reckon = [], standings.forecast_fields

        def reckoned(*given):
            # The test itself is one transaction; those inside it are its savepoints.
            locked.append(len(connection.savepoint_ids))
            return reckon(*given)

        outside = len(connection.savepoint_ids)
        with mock.patch.object(standings, "forecast_fields", reckoned):
            sent = {"tempo": 90, "passes": 8, "clean_try": "yes"}
            self.client.post(reverse("step-log", args=[self.step.pk]), sent)
            entry = {**sent, "step": self.step.pk, "key": str(uuid4())}
            address = reverse("lesson-entries", args=[self.plan.student_id])
            self.client.post(address, [entry], content_type="application/json")
            self.client.post(reverse("attempt-log", args=[self.step.pk]), sent)
        self.assertEqual(Attempt.objects.count(), 3)
        self.assertEqual(locked, [outside] * 3)

    def test_a_key_that_comes_twice_at_once_is_one_try(self):
        key = uuid4()
        log_attempts([self.attempt(key=key)])
        log_attempts([self.attempt(key=key)])
        self.assertEqual(Attempt.objects.count(), 1)

    def test_a_try_for_a_step_that_is_gone_is_told(self):
        attempt = self.attempt()
        self.step.delete()
        self.assertEqual(log_attempts([attempt]), [])
        self.assertEqual(Attempt.objects.count(), 0)

    def test_a_try_asks_little_of_the_database(self):
        with CaptureQueriesContext(
            connection,
        ) as asked:
            log_attempts([self.attempt()])
        written = [one["sql"] for one in asked if one["sql"].startswith(("INSERT", "UPDATE"))]
        # The try and its note; where its plan, its step and the open steps stand; the rungs.
        self.assertLessEqual(len(written), 6, written)
