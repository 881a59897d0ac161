"""A private link cannot be guessed by trying, and a flood through one holds up nobody else."""

import io
import logging
import time
import unittest
from types import SimpleNamespace
from unittest import mock

from django.core.cache import cache
from django.test import override_settings
from django.urls import reverse

from tests.studio.base import StudioTest, make_piece, make_plan, make_student
from wren_ladder.studio.climb.models import Attempt
from wren_ladder.studio.secret_addresses import NoSecretAddresses
from wren_ladder.studio.settings import LOGGING
from wren_ladder.studio.students.links import open_link, path_of
from wren_ladder.studio.students.models import Student


@override_settings(RATELIMIT_ENABLE=True)
class Limits(StudioTest):
    def setUp(self):
        super().setUp()
        cache.clear()
        self.addCleanup(cache.clear)
        now = int(time.time())  # a busy machine's minute is as long as any other
        clock = mock.patch("django_ratelimit.core.time", SimpleNamespace(time=lambda: now))
        clock.start()
        self.addCleanup(clock.stop)
        self.links = []
        for name in ("Ines", "Ola"):
            student = make_student(self.teacher, name)
            self.plan = make_plan(make_piece(self.teacher, title=name), student)
            open_link(student)
            self.links.append(path_of(student))
        self.client.logout()

    def send(self, link: str) -> int:
        sent = {"step": 0, "tempo": 90, "passes": 8, "clean_try": "yes"}
        return self.client.post(f"{link}entries/", sent).status_code

    def test_a_flood_through_one_link_is_stopped_and_the_other_goes_on(self):
        codes = [self.send(self.links[0]) for _ in range(120)]
        self.assertEqual(set(codes[:90]), {302})
        self.assertEqual(set(codes[90:]), {429})
        self.assertEqual(self.send(self.links[1]), 302)
        self.assertEqual(self.client.get(self.links[0]).status_code, 200)

    def test_the_teacher_is_told_quietly_on_that_students_page(self):
        for _ in range(92):
            self.send(self.links[0])
        self.client.force_login(self.teacher)
        for name, told in (("Ines", True), ("Ola", False)):
            page = self.client.get(Student.objects.get(name=name).get_absolute_url())
            self.assertEqual(
                "more was sent through this address" in page.content.decode(), told
            )

    def test_a_teachers_try_is_not_counted(self):
        for _ in range(120):
            self.send(self.links[0])
        self.client.force_login(self.teacher)
        sent = {"tempo": 90, "passes": 8, "clean_try": "yes"}
        self.client.post(reverse("step-log", args=[self.plan.steps.first().pk]), sent)
        self.assertEqual(Attempt.objects.count(), 1)

    def test_guessing_is_stopped_and_who_knows_the_address_is_not(self):
        codes = [self.client.get(f"/s/guess-{n}/").status_code for n in range(60)]
        self.assertEqual(set(codes[:30]), {404})
        self.assertEqual(set(codes[31:]), {429})
        said = self.client.get("/s/guess-again/")
        self.assertContains(said, "Too many at once", status_code=429)
        self.assertEqual(said["Retry-After"], "60")
        self.assertEqual(self.client.get(self.links[0]).status_code, 200)


class Logs(unittest.TestCase):
    def test_no_line_holds_an_address_that_opens_something(self):
        handler = logging.StreamHandler(io.StringIO())
        handler.addFilter(NoSecretAddresses())
        logger = logging.getLogger("a test of secret addresses")
        logger.propagate = False
        logger.addHandler(handler)
        logger.warning("%s: %s", "Not Found", "/s/eyJhIjoxfQ:1abc:Xyz_-9/pieces/4/")
        logger.warning("Bad Request: /calendar/0f3c2f1e-9a1b-4c55-8d9e-3f2b1a0c9d8e.ics")
        logger.warning("Not Found: /students/4/")
        self.assertEqual(
            handler.stream.getvalue().splitlines(),
            [
                "Not Found: /s/…/pieces/4/",
                "Bad Request: /calendar/…",
                "Not Found: /students/4/",
            ],
        )

    def test_the_studios_own_log_has_it(self):
        console = LOGGING["handlers"]["console"]
        (name,) = console["filters"]
        self.assertTrue(LOGGING["filters"][name]["()"].endswith("NoSecretAddresses"))
