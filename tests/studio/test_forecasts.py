"""Forecasts kept beside plans, and the pages that tell them."""

from datetime import date, timedelta
from statistics import median

from django.urls import reverse

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from wren_ladder.drumming.breakdown import Learner, effort
from wren_ladder.drumming.forecast import Status
from wren_ladder.studio.changes.attempts import log_attempts
from wren_ladder.studio.changes.exercises import send_drill
from wren_ladder.studio.climb.forecasts import learner_of, levers_of, outlook_of, tracks_for
from wren_ladder.studio.climb.models import Attempt, HomeMinutes, PlanStanding, Where
from wren_ladder.studio.climb.standings import catch_up
from wren_ladder.studio.pages.rudiments.shelf import drill_named
from wren_ladder.studio.plans.models import Plan


def practise(plan: Plan, days: int = 6, gain: int = 5, every: int = 2) -> None:
    """Every step climbs a rung on each practice day, after a try that fails."""
    tries, today = [], date.today()
    for number in range(days):
        day = today - timedelta(days=every * (days - number - 1))
        tempo = plan.start + gain * number
        for step in plan.steps.all():
            failed = Attempt(step=step, day=day, tempo=tempo + 5, was_clean=False, passes=1)
            tries += [
                failed,
                Attempt(step=step, day=day, tempo=tempo, was_clean=True, passes=8),
            ]
    log_attempts(tries)


class ForecastTest(StudioTest):
    def setUp(self):
        super().setUp()
        self.today = date.today()
        exam = self.today + timedelta(days=60)
        self.student = make_student(self.teacher, exam_date=exam)
        self.plan = make_plan(make_piece(self.teacher), self.student)

    def seen(self, plan=None):
        plan = Plan.objects.select_related("student", "piece").get(pk=(plan or self.plan).pk)
        return outlook_of(plan, self.today)


class Kept(ForecastTest):
    def test_without_practice_it_says_that_it_does_not_know(self):
        self.assertEqual(self.seen().status, Status.UNKNOWN)
        self.assertIn("0 practice days so far; 3 are needed", self.seen().spoken)

    def test_practice_gives_a_date_a_window_and_a_chance(self):
        practise(self.plan)
        seen = self.seen()
        self.assertEqual(seen.status, Status.SAFE)
        low, high = seen.forecast.window
        self.assertTrue(self.today < low <= seen.forecast.median <= high)
        self.assertEqual(seen.by, self.today + timedelta(days=60 - 14))

    def test_the_buffer_is_the_students(self):
        practise(self.plan)
        self.student.buffer = 60
        self.student.save()
        self.assertEqual(self.seen().by, self.today)
        self.assertEqual(self.seen().status, Status.BEHIND)

    def test_a_deleted_attempt_takes_its_part_of_the_forecast_with_it(self):
        practise(self.plan, days=2)
        self.assertEqual(self.seen().status, Status.UNKNOWN)
        attempt = log(self.plan.steps.first(), 100, days_ago=1)
        self.assertTrue(self.seen().forecast.known)
        self.client.post(reverse("attempt-delete", args=[attempt.pk]))
        self.assertEqual(self.seen().status, Status.UNKNOWN)

    def test_plans_of_an_older_version_are_caught_up_with(self):
        practise(self.plan)
        PlanStanding.objects.update(forecast={}, gain=None)
        self.assertEqual(self.seen().status, Status.UNKNOWN)
        self.assertEqual(catch_up(), 1)
        self.assertEqual(self.seen().status, Status.SAFE)
        self.assertEqual(catch_up(), 0)

    def test_what_is_not_for_the_exam_has_no_risk(self):
        practise(self.plan)
        Plan.objects.update(for_exam=False)
        self.assertEqual(self.seen().status, Status.OPEN)

    def test_minutes_are_reckoned_by_ones_own_log_and_else_by_the_grade(self):
        practise(self.plan)
        other = make_plan(self.plan.piece, make_student(self.teacher, "Kofi", grade=2))
        # 5 BPM a day for all of its steps; what the joins win says less of a new bar.
        efforts = [effort(step.step_kind, step.rank) for step in self.plan.steps.all()]
        self.assertEqual(learner_of(self.fresh(self.plan)).gain, 5 * median(efforts))
        # What one child wins says nothing of another.
        self.assertEqual(learner_of(self.fresh(other)), Learner(2))

    def test_the_tolerance_and_a_steps_own_target_count(self):
        practise(self.plan, days=5)  # 110 of 120
        self.assertEqual(self.fresh(self.plan).standing.ready, 110)
        Plan.objects.filter(pk=self.plan.pk).update(tolerance=10)
        self.plan.refresh_from_db()
        log(self.plan.steps.first(), 110)
        self.assertEqual(self.seen().status, Status.READY)

    def test_a_step_at_its_own_target_holds_nothing_back(self):
        practise(self.plan, days=7)
        step = self.plan.steps.first()
        form = {"name": step.name, "repeats": 4, "start": "", "target": 100, "why": ""}
        self.client.post(reverse("step-edit", args=[step.pk]), form)
        self.assertEqual(self.fresh(step).target, 100)
        self.assertEqual(self.fresh(self.plan).standing.ready, 120)

    def test_a_start_above_a_steps_own_target_is_refused(self):
        step = self.plan.steps.first()
        form = {"name": step.name, "repeats": 4, "start": 105, "target": 100, "why": ""}
        response = self.client.post(reverse("step-edit", args=[step.pk]), form)
        self.assertContains(response, "The start 105 is above the target 100", status_code=422)


class Told(ForecastTest):
    def setUp(self):
        super().setUp()
        practise(self.plan, gain=2)
        self.student.exam_date = self.today + timedelta(days=26)
        self.student.save()

    def test_the_progress_page_tells_pace_share_and_what_would_change_it(self):
        HomeMinutes.objects.create(student=self.student, day=self.today, minutes=20)
        page = self.client.get(reverse("progress", args=[self.plan.pk]))
        self.assertContains(page, "Pace: needs")
        self.assertContains(page, "BPM a week")
        self.assertContains(page, "83 % of exam speed")
        self.assertContains(page, "6 practice days, 20 minutes logged on them")
        self.assertContains(page, 'class="ahead"')
        self.assertContains(page, "A target of")

    def test_another_piece_less_is_a_lever(self):
        """Where a day holds one step of a piece, the other piece's minutes are two more."""
        gates = make_plan(make_piece(self.teacher, title="Gates"), self.student)
        steps = list(gates.steps.all())
        for number in range(8):
            step, rung = steps[number % len(steps)], 90 + 5 * (number // len(steps))
            log(step, rung + 5, clean=False, days_ago=2 * (8 - number))
            log(step, rung, days_ago=2 * (8 - number))
        self.student.exam_date = self.today + timedelta(days=75)
        self.student.save()
        plan = Plan.objects.select_related("student", "piece").get(pk=gates.pk)
        seen = outlook_of(plan, self.today)
        said = [lever.what for lever in levers_of(plan, tracks_for(plan), seen, self.today)]
        self.assertIn("without Quay", said, seen)

    def test_the_ladder_says_the_outlook_and_leads_to_why(self):
        page = self.client.get(self.plan.get_absolute_url())
        self.assertContains(page, f'state-{self.seen().status.name.lower()}"')
        self.assertContains(page, reverse("progress", args=[self.plan.pk]))


class StudentPage(ForecastTest):
    def test_it_shows_everything_of_the_student(self):
        practise(self.plan)
        HomeMinutes.objects.create(student=self.student, day=self.today, minutes=25)
        Attempt.objects.update(where=Where.HOME)
        page = self.client.get(self.student.get_absolute_url())
        for said in (
            "Quay",
            "at target about",
            "at home since then: ",
            "25 minutes",
            "100 dBA, unprotected: 15 minutes a day, by NIOSH",
            "rock beat",
            "None kept yet",
            "Give a link",
        ):
            with self.subTest(said):
                self.assertContains(page, said)

    def test_the_piece_that_was_asked_for_is_opened(self):
        other = make_plan(make_piece(self.teacher, title="Gates"), self.student, target=110)
        page = self.client.get(f"{self.student.get_absolute_url()}?plan={other.pk}")
        self.assertEqual(page.context["plan"], other)

    def test_two_pieces_side_by_side(self):
        address = reverse("student-compare", args=[self.student.pk])
        self.assertContains(self.client.get(address), "One piece is not enough")
        other = make_plan(make_piece(self.teacher, title="Gates"), self.student)
        practise(self.plan)
        page = self.client.get(address, {"one": other.pk, "other": self.plan.pk})
        self.assertContains(page, "Quay; of Gates too little is known")
        self.assertEqual([side["plan"] for side in page.context["sides"]], [other, self.plan])

    def test_the_number_of_queries_does_not_grow_with_the_attempts(self):
        practise(self.plan, gain=2, days=4)
        with self.assertNumQueries(25):
            self.client.get(self.student.get_absolute_url())
        practise(self.plan, gain=1, days=12, every=1)
        with self.assertNumQueries(25):
            self.client.get(self.student.get_absolute_url())

    def test_everything_of_a_deleted_student_goes_their_drills_too(self):
        send_drill(drill_named("flam paradiddle"), self.student, 90)
        self.client.post(reverse("student-delete", args=[self.student.pk]))
        self.assertFalse(Plan.objects.filter(student__isnull=False).exists())
        titles = {piece.title for piece in self.teacher.pieces.all()}
        self.assertEqual(titles, {"Quay", "flam paradiddle"})  # the chart is the studio's
