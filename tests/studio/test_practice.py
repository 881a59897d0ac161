"""Logging attempts, and everything that follows from one."""

from datetime import date, timedelta

from django.urls import reverse

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from wren_ladder.studio.changes.plans import model_plan
from wren_ladder.studio.climb.models import Attempt, HomeMinutes
from wren_ladder.studio.plans.models import Step


class PracticeTest(StudioTest):
    def setUp(self):
        super().setUp()
        exam = date.today() + timedelta(days=40)
        self.student = make_student(self.teacher, exam_date=exam)
        self.plan = make_plan(make_piece(self.teacher), self.student)
        self.steps = {step.name: step for step in self.plan.steps.all()}
        self.bar4 = self.steps["Bar 4"]

    def send(self, step=None, htmx=True, **fields):
        form = {"tempo": 90, "passes": 8, "clean_try": "yes", "note": "", "day": "", **fields}
        headers = {"HX-Request": "true"} if htmx else {}
        address = reverse("attempt-log", args=[(step or self.bar4).pk])
        return self.client.post(address, form, headers=headers)


class Logging(PracticeTest):
    def test_a_clean_try_earns_the_rung_and_the_next_is_proposed_with_its_reason(self):
        response = self.send()
        self.assertContains(response, "Logged: 90 clean")
        self.assertContains(response, "Next: <b>crotchet = 95</b>")
        self.assertContains(response, "90 earned by 8 clean times through; next rung 95")
        self.assertEqual(self.fresh(self.bar4).standing.held, 90)

    def test_two_failed_tries_propose_a_drop(self):
        log(self.bar4, 90)
        self.send(tempo=95, clean_try="no", passes=1)
        response = self.send(tempo=95, clean_try="no", passes=1)
        self.assertContains(response, "2 failed tries at 95: drop to 90 and come back")

    def test_the_wall_follows_in_the_same_answer(self):
        response = self.send()
        self.assertContains(response, 'hx-swap-oob="true"', count=4)
        self.assertContains(response, 'id="shade-3" class="shade shade-middle"')
        self.assertContains(response, "75%")

    def test_without_script_the_page_comes_back_with_a_message(self):
        response = self.send(htmx=False)
        self.assertEqual(response.url, f"{self.plan.get_absolute_url()}?step={self.bar4.pk}")
        self.assertContains(self.client.get(response.url), "Bar 4: 90 clean is logged.")

    def test_wrong_input_is_told_keeps_what_was_typed_and_logs_nothing(self):
        tomorrow = date.today() + timedelta(days=1)
        for fields, said in (
            ({"tempo": "fast"}, "Tempo: Enter a whole number."),
            ({"tempo": 900}, "Tempo: Ensure this value is less than or equal to 400"),
            ({"passes": 0}, "Times through: Ensure this value is greater than or equal to 1"),
            ({"day": tomorrow}, "Day: This day has not come yet."),
        ):
            for htmx in (True, False):
                with self.subTest(said, htmx=htmx):
                    response = self.send(htmx=htmx, note="rushed", **fields)
                    self.assertContains(response, said, status_code=200 if htmx else 422)
                    self.assertContains(
                        response, 'value="rushed"', status_code=200 if htmx else 422
                    )
        self.assertFalse(Attempt.objects.exists())

    def test_the_day_is_today_unless_said(self):
        self.send()
        self.send(day=date.today() - timedelta(days=3))
        days = [(date.today() - attempt.day).days for attempt in Attempt.objects.order_by("pk")]
        self.assertEqual(days, [0, 3])


class Following(PracticeTest):
    def test_the_slowest_needed_step_is_the_piece(self):
        for tempo, step in zip((110, 95, 95, 95), self.steps.values(), strict=True):
            log(step, tempo)
        plan = self.fresh(self.plan)
        self.assertEqual((plan.standing.ready, plan.standing.held_by.name), (95, "Bar 4"))
        page = self.client.get(plan.get_absolute_url())
        self.assertContains(page, "</dfn> 95")
        self.assertContains(page, "held back by <b>Bar 4</b>")

    def test_a_step_not_begun_leaves_no_ready_speed(self):
        log(self.bar4, 100)
        plan = self.fresh(self.plan)
        self.assertEqual(
            (plan.standing.ready, plan.standing.slowest, plan.standing.waiting), (None, 100, 3)
        )
        page = self.client.get(plan.get_absolute_url())
        self.assertContains(page, "3 of 4 steps without a rung; the slowest begun holds 100")

    def test_a_corrected_attempt_recomputes_everything(self):
        attempt = log(self.bar4, 100)
        form = {"tempo": 90, "passes": 8, "day": attempt.day, "clean_try": "yes", "note": ""}
        response = self.client.post(reverse("attempt-edit", args=[attempt.pk]), form)
        self.assertRedirects(response, reverse("progress", args=[self.plan.pk]))
        self.assertEqual(self.fresh(self.bar4).standing.held, 90)

    def test_a_deleted_attempt_is_forgotten_after_asking(self):
        attempt = log(self.bar4, 100)
        address = reverse("attempt-delete", args=[attempt.pk])
        self.assertContains(self.client.get(address), "at 100?")
        self.assertEqual(self.fresh(self.bar4).standing.held, 100)
        self.client.post(address)
        self.assertIsNone(self.fresh(self.bar4).standing.held)

    def test_removing_an_attempt_and_adding_it_again_changes_nothing(self):
        log(self.bar4, 90, days_ago=2)
        last = log(self.bar4, 95, days_ago=1)
        before = Step.objects.select_related("standing").get(pk=self.bar4.pk)
        self.client.post(reverse("attempt-delete", args=[last.pk]))
        log(self.bar4, 95, days_ago=1)
        after = self.fresh(self.bar4)
        self.assertEqual(
            (before.standing.held, before.standing.reason),
            (after.standing.held, after.standing.reason),
        )


class Minutes(PracticeTest):
    def setUp(self):
        super().setUp()
        self.address = reverse("minutes", args=[self.student.pk])

    def test_they_are_added_listed_and_deleted_after_asking(self):
        day = date.today() - timedelta(days=1)
        self.client.post(self.address, {"day": day, "minutes": 25, "note": "pad"})
        practice = HomeMinutes.objects.get()
        self.assertEqual((practice.day, practice.minutes), (day, 25))
        self.assertContains(self.client.get(self.address), "pad")
        address = reverse("minutes-delete", args=[practice.pk])
        self.assertContains(self.client.get(address), "25 minutes on")
        self.assertRedirects(self.client.post(address), self.address)
        self.assertFalse(HomeMinutes.objects.exists())

    def test_wrong_ones_are_told_and_kept_as_typed(self):
        tomorrow = date.today() + timedelta(days=1)
        for fields, said in (
            ({"minutes": 0}, "greater than or equal to 1"),
            ({"day": tomorrow}, "This day has not come yet."),
        ):
            form = {"day": date.today(), "minutes": 20, "note": "pad", **fields}
            response = self.client.post(self.address, form)
            self.assertContains(response, said, status_code=422)
            self.assertContains(response, 'value="pad"', status_code=422)

    def test_another_teachers_are_not_there(self):
        practice = HomeMinutes.objects.create(student=self.student, day=date.today(), minutes=9)
        self.client.force_login(self.other_teacher())
        for address in (self.address, reverse("minutes-delete", args=[practice.pk])):
            self.assertEqual(self.client.get(address).status_code, 404)


class Progress(PracticeTest):
    def test_the_chart_has_a_stair_for_each_step_with_a_held_tempo(self):
        log(self.bar4, 90, days_ago=20)
        log(self.bar4, 100, days_ago=5)
        page = self.client.get(reverse("progress", args=[self.plan.pk]))
        self.assertContains(page, "Bar 4 from 90 to 100")
        self.assertContains(page, 'class="stair', count=1)
        self.assertContains(page, "target 120")
        self.assertContains(page, f"exam {self.student.exam_date:%-d %b}")

    def test_attempts_are_found_by_step_and_by_word(self):
        log(self.bar4, 90)
        self.send(self.steps["Bar 1"], note="rushed")
        address = reverse("progress", args=[self.plan.pk])
        for query, found in (
            ("bar 4", ["Bar 4"]),
            ("rush", ["Bar 1"]),
            ("", ["Bar 1", "Bar 4"]),
        ):
            with self.subTest(query):
                attempts = self.client.get(address, {"q": query}).context["attempts"]
                self.assertEqual([attempt.step.name for attempt in attempts], found)
        self.assertContains(self.client.get(address, {"q": "zz"}), "No try has “zz”")

    def test_the_step_at_hand_stands_out_on_the_ladder(self):
        address = self.plan.get_absolute_url()
        page = self.client.get(address, {"step": self.bar4.pk})
        self.assertContains(page, 'class="wren chosen"', count=1)
        self.assertContains(page, '<text class="chosen-name"', count=1)

    def test_without_attempts_it_says_so(self):
        page = self.client.get(reverse("progress", args=[self.plan.pk]))
        self.assertContains(page, "No tries yet")

    def test_the_model_plan_is_climbed_by_nobody(self):
        model = model_plan(self.plan.piece, self.teacher)
        self.assertEqual(self.client.get(reverse("plan", args=[model.pk])).status_code, 404)
        self.assertEqual(self.client.get(reverse("progress", args=[model.pk])).status_code, 404)
