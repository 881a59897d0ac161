"""The step page: one step's music, large, and two keys."""

from django.urls import reverse

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from wren_ladder.studio.changes.plans import model_plan
from wren_ladder.studio.climb.models import Attempt


class StepPage(StudioTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(self.teacher)
        self.plan = make_plan(self.piece, make_student(self.teacher))
        self.step = self.plan.steps.get(name="Bar 4")
        self.address = reverse("step", args=[self.step.pk])

    def press(self, **fields):
        form = {"tempo": 90, "passes": 8, "clean_try": "yes", **fields}
        return self.client.post(
            reverse("step-log", args=[self.step.pk]), form, headers={"HX-Request": "true"}
        )

    def test_it_has_the_music_the_count_in_the_rule_and_its_neighbours(self):
        response = self.client.get(self.address)
        self.assertContains(response, "step 2 of 4")
        self.assertContains(response, "staff-svg")
        self.assertContains(response, "<b>1 2 3 4</b>")
        self.assertContains(response, "8 clean times through in a row earn the tempo")
        self.assertContains(response, "Heights")
        before, after = (self.plan.steps.get(name=n).pk for n in ("Bar 1", "Bars 3 to 4"))
        self.assertContains(response, f'href="/steps/{before}/"')
        self.assertContains(response, f'href="/steps/{after}/"')
        self.assertContains(response, "Stop at pain")

    def test_a_key_logs_the_try_and_what_is_next_follows(self):
        response = self.press()
        self.assertContains(response, "Logged: 90 clean")
        self.assertContains(response, "next rung 95")
        self.assertEqual(Attempt.objects.get().passes, 8)
        self.assertContains(self.press(tempo=95, clean_try="no"), "not yet at 95")

    def test_a_plateau_is_told_with_what_to_do_about_it(self):
        log(self.step, 90, days_ago=9)
        for days_ago in (7, 5, 3):
            log(self.step, 95, clean=False, days_ago=days_ago)
        response = self.client.get(self.address)
        self.assertContains(response, "3 practice days without a new rung: two rungs down")
        self.assertContains(response, "(now)")
        page = self.client.get(f"{self.plan.get_absolute_url()}?step={self.step.pk}")
        self.assertContains(page, "3 practice days without a new rung")

    def test_a_wrong_tempo_is_told_and_nothing_is_logged(self):
        response = self.press(tempo=5)
        self.assertEqual(response.status_code, 422)
        self.assertContains(response, "Tempo: ", status_code=422)
        self.assertFalse(Attempt.objects.exists())

    def test_without_htmx_it_comes_back_to_the_step(self):
        form = {"tempo": 90, "passes": 8, "clean_try": "yes"}
        response = self.client.post(reverse("step-log", args=[self.step.pk]), form)
        self.assertRedirects(response, self.address)

    def test_a_step_of_every_kind_opens(self):
        for school in ("bar school", "phrase school", "layer school"):
            text = "tempo crotchet = 90\nbar 1\nrepeat start\nhat 8ths\nbar 2\n"
            text += (
                "snare flam 1, drag 2, ruff 3, accent 3e, ruff 4\nrepeat end 2\nbar 3\nkick 1"
            )
            piece = make_piece(self.teacher, text, school)
            plan = make_plan(piece, self.plan.student, target=90, start=60)
            self.client.post(reverse("plan-revise", args=[plan.pk]), {"school": school})
            for step in plan.steps.filter(dropped=False):
                with self.subTest(f"{school}: {step.name}"):
                    response = self.client.get(reverse("step", args=[step.pk]))
                    self.assertContains(response, "staff-svg")

    def test_a_model_plans_steps_and_other_teachers_are_not_climbed_here(self):
        model = model_plan(self.piece, self.teacher)
        step = model.steps.first()
        self.assertEqual(self.client.get(reverse("step", args=[step.pk])).status_code, 404)
        self.client.force_login(self.other_teacher())
        self.assertEqual(self.client.get(self.address).status_code, 404)
        self.assertEqual(self.press().status_code, 404)
