"""The student's private link: what it shows, what it takes, who gets in."""

import json
from datetime import date
from functools import partial
from unittest.mock import patch

from django.core import signing
from django.test import Client
from django.urls import reverse

from tests.studio.base import StudioTest, log, make_piece, make_plan, make_student
from wren_ladder.studio.climb.models import Attempt, HomeMinutes
from wren_ladder.studio.lessons.models import Lesson
from wren_ladder.studio.students.links import SALT, path_of


class LinkTest(StudioTest):
    def setUp(self):
        super().setUp()
        self.student = make_student(self.teacher, "Ines Okafor", notes="Shy. Rushes fills.")
        self.plan = make_plan(make_piece(self.teacher), self.student)
        self.step = self.plan.steps.first()
        self.client.post(reverse("link-open", args=[self.student.pk]))
        self.phone = Client()  # nobody is logged in there
        self.path = path_of(self.fresh(self.student))


class Getting(LinkTest):
    def test_it_opens_without_an_account(self):
        page = self.phone.get(self.path)
        self.assertContains(page, "Ines's practice")
        self.assertIn("no-store", page["cache-control"])

    def test_a_changed_address_opens_nothing(self):
        cut = self.path.rstrip("/")[:-2] + "xx/"
        signer = signing.Signer(salt=SALT)
        guesses = [
            reverse("link", args=[sign([self.student.pk, key])])
            for sign in (signer.sign_object, partial(signing.dumps, salt=SALT))
            for key in ("guess", "")
        ]
        no_pair = reverse("link", args=[signer.sign("e30:x")])
        for address in (cut, *guesses, no_pair, "/s/nothing/", "/s/a:b/", "/s/a:b:c/"):
            with self.subTest(address):
                self.assertEqual(self.phone.get(address).status_code, 404)

    def test_the_address_is_one_and_those_given_out_first_still_open(self):
        student = self.fresh(self.student)
        with patch("time.time", return_value=1.0):
            self.assertEqual(path_of(student), self.path)
        first = signing.dumps([student.pk, student.link_key], salt=SALT)
        self.assertEqual(first.count(":"), 2)
        self.assertEqual(self.phone.get(reverse("link", args=[first])).status_code, 200)

    def test_a_revoked_link_is_closed_a_new_one_has_another_address(self):
        self.client.post(reverse("link-revoke", args=[self.student.pk]))
        for address in (self.path, f"{self.path}entries/", f"{self.path}minutes/"):
            self.assertEqual(self.phone.post(address).status_code in (404, 405), True)
        self.assertEqual(self.phone.get(self.path).status_code, 404)
        self.client.post(reverse("link-open", args=[self.student.pk]))
        again = path_of(self.fresh(self.student))
        self.assertNotEqual(again, self.path)
        self.assertEqual(self.phone.get(self.path).status_code, 404)
        self.assertEqual(self.phone.get(again).status_code, 200)

    def test_nothing_else_opens_with_it(self):
        self.phone.get(self.path)
        for address in ("/", self.student.get_absolute_url(), self.plan.get_absolute_url()):
            response = self.phone.get(address)
            self.assertRedirects(response, f"/log-in/?next={address}")

    def test_it_shows_no_notes_no_other_students_and_no_way_into_the_studio(self):
        make_plan(self.plan.piece, make_student(self.teacher, "Kofi Mensah"))
        Lesson.objects.create(student=self.student, day=date.today(), note="Tell her mother.")
        log(self.step, 90)
        page = self.phone.get(self.path)
        for hidden in ("Shy", "Kofi", "Tell her", "Okafor", "/students/", "/plans/"):
            with self.subTest(hidden):
                self.assertNotContains(page, hidden)


class Showing(LinkTest):
    def test_the_steps_that_were_set_or_else_those_of_the_week(self):
        self.assertTrue(self.steps())
        last = self.plan.steps.last()
        one = {"step": last.pk, "name": last.name, "piece": "Quay", "tempo": 90}
        Lesson.objects.create(student=self.student, day=date.today(), was_set=[one])
        self.assertEqual(self.steps(), [last])

    def steps(self):
        page = self.phone.get(self.path)
        things = [*page.context["things"], *page.context["later"]]
        return [thing.card.step for thing in things if thing.card]

    def test_a_step_that_is_gone_is_passed_over(self):
        one = {"step": 999, "name": "Bar 9", "piece": "Quay", "tempo": 90}
        Lesson.objects.create(student=self.student, day=date.today(), was_set=[one])
        page = self.phone.get(self.path)
        self.assertContains(page, "Bar 9")
        self.assertNotContains(page, "Staff of Bar")


class Logging(LinkTest):
    def test_a_try_at_home_moves_the_ladder_and_is_told_apart(self):
        entry = {"key": "", "step": self.step.pk, "tempo": 90, "passes": 8, "clean_try": "yes"}
        response = self.phone.post(
            f"{self.path}entries/", json.dumps([entry]), "application/json"
        )
        self.assertEqual(response.json()["steps"][str(self.step.pk)]["held"], 90)
        self.assertEqual(Attempt.objects.get().where, "home")
        page = self.phone.get(self.path)
        self.assertContains(page, f"{self.step.name}: 90")

    def test_another_students_step_is_refused(self):
        other = make_plan(self.plan.piece, make_student(self.teacher, "Kofi"))
        entry = {"step": other.steps.first().pk, "tempo": 90, "passes": 8, "clean_try": "yes"}
        self.phone.post(f"{self.path}entries/", entry)
        self.assertFalse(Attempt.objects.exists())

    def test_minutes_are_logged_and_wrong_ones_told(self):
        self.phone.post(f"{self.path}minutes/", {"minutes": 20, "note": "before tea"})
        self.assertContains(self.phone.get(self.path), "20 minutes in the last seven days")
        response = self.phone.post(f"{self.path}minutes/", {"minutes": 2000, "note": "all day"})
        self.assertContains(response, "less than or equal to 600", status_code=422)
        self.assertContains(response, 'value="all day"', status_code=422)
        self.assertEqual(HomeMinutes.objects.count(), 1)

    def test_a_flood_is_stopped(self):
        entry = {"step": self.step.pk, "tempo": 90, "passes": 8, "clean_try": "yes"}
        with patch("wren_ladder.studio.pages.climb.entries.MOST_A_DAY", 2):
            for _ in range(4):
                self.phone.post(f"{self.path}entries/", entry)
        self.assertEqual(Attempt.objects.count(), 2)
        with patch("wren_ladder.studio.pages.link.views.MOST_A_DAY", 2):
            for _ in range(4):
                self.phone.post(f"{self.path}minutes/", {"minutes": 5, "note": ""})
        self.assertEqual(HomeMinutes.objects.count(), 2)
