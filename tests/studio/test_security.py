"""What docs/security.md promises of headers, log-ins and the second factor.

Outside: django-otp's own TOTP, which keeps to RFC 6238, shows the codes that are typed here.
"""

import os
import sqlite3
import subprocess
import sys
import tempfile
import time
from contextlib import closing
from datetime import datetime
from functools import partial
from pathlib import Path
from unittest import mock

from django.contrib.staticfiles import finders
from django.core.cache import cache
from django.test import Client, RequestFactory, SimpleTestCase, TestCase, override_settings
from django.urls import reverse
from django_otp.oath import TOTP
from django_otp.plugins.otp_totp.models import TOTPDevice

from tests.studio.base import StudioTest, make_piece, make_plan, make_student, make_teacher
from tests.studio.test_odd_numbers import PART, addresses
from wren_ladder.studio.accounts.teachers import set_password
from wren_ladder.studio.keeping.backup import Place, back_up
from wren_ladder.studio.keeping.starting import owner_alone
from wren_ladder.studio.pages.accounts import idle
from wren_ladder.studio.pages.client_address import forwarded_for
from wren_ladder.studio.students.links import open_link, path_of

PASSWORD = "a-long-password"
RIGHT = {"username": "ada", "password": PASSWORD}


class Headers(StudioTest):
    def setUp(self):
        super().setUp()
        self.student = make_student(self.teacher)
        self.plan = make_plan(make_piece(self.teacher), self.student)
        open_link(self.student)

    def every_answer(self):
        """Pages, parts, downloads, refusals and files: one of every address, and two more."""
        known = {"signed": self.student.link_key}
        for route in sorted(set(addresses())):
            address = PART.sub(lambda part: str(known.get(part[2], 1)), route)
            yield address, self.client.get(address)
        yield "nowhere", self.client.get("/nowhere/")
        yield "a file", self.client.get("/static/wren/wren.css")

    def test_every_answer_carries_them(self):
        kinds = set()
        for address, answer in self.every_answer():
            with self.subTest(address):
                kinds.add((answer.status_code, answer.get("Content-Type", "").split(";")[0]))
                policy = answer["Content-Security-Policy"]
                self.assertIn("default-src 'none'", policy)
                self.assertNotIn("unsafe", policy)
                self.assertIn("camera=()", answer["Permissions-Policy"])
                self.assertEqual(answer["X-Content-Type-Options"], "nosniff")
                if not address.endswith("file"):
                    self.assertIn("private", answer["Cache-Control"])
                self.assertEqual(answer["Referrer-Policy"], "same-origin")
                self.assertEqual(answer["Cross-Origin-Opener-Policy"], "same-origin")
        self.assertLessEqual(
            {
                (200, "text/html"),
                (404, "text/html"),
                (200, "application/pdf"),
                (200, "text/css"),
            },
            kinds,
        )

    def test_only_where_takes_are_recorded_a_microphone_may_be_asked_for(self):
        step = self.plan.steps.first()
        recording = {
            reverse("step", args=[step.pk]),
            reverse("lesson-mode", args=[self.student.pk]),
            path_of(self.student),
        }
        for address in recording:
            with self.subTest(address):
                policy = self.client.get(address)["Permissions-Policy"]
                self.assertIn("microphone=(self), midi=(self)", policy)
        for name in ("desk", "students", "in-and-out"):
            with self.subTest(name):
                policy = self.client.get(reverse(name))["Permissions-Policy"]
                self.assertIn("microphone=(), midi=()", policy)

    def test_no_other_page_has_the_recorder(self):
        for address, answer in self.every_answer():
            if answer.get("Content-Type", "").startswith("text/html") and not answer.streaming:
                with self.subTest(address):
                    asked = b"room/ears.js" in answer.content
                    allowed = "microphone=(self)" in answer["Permissions-Policy"]
                    self.assertTrue(allowed or not asked)

    def test_the_scripts_that_ship_ask_for_nothing_else(self):
        script = Path(finders.find("wren/room/ears.js")).read_text()
        self.assertIn("audio: {", script)
        self.assertNotIn("video", script)


class Deployed(SimpleTestCase):
    """``check --deploy`` has nothing to say of a studio behind HTTPS."""

    CHECK = """
import django; django.setup()
from django.conf import settings
from django.core.management import call_command
call_command("check", deploy=True, fail_level="WARNING")
assert settings.SESSION_COOKIE_SECURE and settings.CSRF_COOKIE_SECURE
assert settings.SESSION_COOKIE_NAME.startswith("__Host-")
assert settings.SECURE_HSTS_SECONDS >= 31_536_000
"""

    def test_it_is_clean(self):
        with tempfile.TemporaryDirectory() as data:
            told = {
                **os.environ,
                "WREN_DATA": data,
                "WREN_HTTPS": "1",
                "DJANGO_SETTINGS_MODULE": "wren_ladder.studio.settings",
            }
            told.pop("DJANGO_ALLOW_ASYNC_UNSAFE", None)  # the browser tests' own
            ran = [sys.executable, "-c", self.CHECK]
            done = subprocess.run(ran, env=told, capture_output=True, text=True)
        self.assertEqual(done.returncode, 0, done.stderr[-600:])


class Idle(StudioTest):
    def test_a_log_in_that_nobody_uses_ends_and_says_why(self):
        self.assertEqual(self.client.get(reverse("desk")).status_code, 200)
        later = time.time() + 12 * 3600 + 60
        with mock.patch.object(idle, "time", lambda: later):
            page = self.client.get(reverse("desk"), follow=True)
        self.assertContains(page, "nothing was opened for 12 hours")
        self.assertIn("/log-in/", self.client.get(reverse("desk"))["location"])

    def test_one_that_is_used_goes_on(self):
        for hours in (0, 11, 22, 33):
            then = time.time() + hours * 3600
            with mock.patch.object(idle, "time", lambda then=then: then):
                self.assertEqual(self.client.get(reverse("desk")).status_code, 200)

    def test_it_writes_once_in_five_minutes(self):
        self.client.get(reverse("desk"))
        with mock.patch("django.contrib.sessions.backends.db.SessionStore.save") as save:
            self.client.get(reverse("desk"))
        save.assert_not_called()


class Elsewhere(StudioTest):
    def test_log_ins_in_other_browsers_are_ended_and_this_one_stays(self):
        other, stranger = Client(), Client()
        other.force_login(self.teacher)
        stranger.force_login(make_teacher("bo"))
        page = self.client.get(reverse("account"))
        self.assertContains(page, "Here, and in 1 other browser.")
        page = self.client.post(reverse("log-out-elsewhere"), follow=True)
        self.assertContains(page, "1 other log-in was ended")
        self.assertContains(page, "Only in this browser.")
        self.assertIn("/log-in/", other.get(reverse("desk"))["location"])
        self.assertEqual(stranger.get(reverse("desk")).status_code, 200)
        self.assertEqual(self.client.get(reverse("desk")).status_code, 200)


class Journal(StudioTest):
    """Who logged in is in the log; what was typed is not."""

    def told(self, name: str, password: str) -> str:
        with self.assertLogs("wren.log_ins", "INFO") as told:
            sent = {"username": name, "password": password}
            self.client.post(reverse("login"), sent)
        return told.output[-1]

    def test_log_ins_and_refusals_with_the_name_and_the_address(self):
        said = self.told("ada", "a-long-password")
        self.assertIn("ada logged in from 127.0.0.1", said)
        self.assertIn("a log-in of ada was refused", self.told("ada", "another-password"))

    def test_a_password_in_the_field_of_the_name_is_not_written(self):
        said = self.told("correct horse battery", "x")
        self.assertIn("a log-in of nobody known was refused", said)
        self.assertNotIn("horse", said)


@override_settings(OTP_TOTP_SYNC=False)  # a code sent late by the test is no slow clock
class SecondFactor(StudioTest):
    def code(self, steps: int = 0) -> str:
        """What the app shows now, or some steps of thirty seconds later."""
        device = TOTPDevice.objects.get(user=self.teacher)
        shown = TOTP(device.bin_key, device.step, device.t0, device.digits)
        shown.time = time.time() + steps * device.step
        return f"{shown.token():06d}"

    def turned_on(self) -> list[str]:
        self.client.get(reverse("second-factor"))
        page = self.client.post(reverse("second-factor"), {"code": self.code()})
        return page.context["codes"]

    def log_in(self, **sent):
        return Client().post(reverse("login"), {**RIGHT, **sent})

    def test_a_wrong_code_does_not_turn_it_on(self):
        page = self.client.get(reverse("second-factor"))
        secret = page.context["secret"]
        wrong = f"{(int(self.code()) + 1) % 10**6:06d}"
        page = self.client.post(reverse("second-factor"), {"code": wrong})
        self.assertContains(page, "not what the app should show", status_code=422)
        self.assertEqual(page.context["secret"], secret)
        self.assertEqual(self.log_in().status_code, 302)

    def test_then_the_password_alone_opens_nothing(self):
        other = Client()
        other.force_login(self.teacher)
        self.assertEqual(len(self.turned_on()), 8)
        self.assertEqual(other.get(reverse("desk")).status_code, 302)  # it was let in without
        self.assertContains(self.log_in(), "Your app shows a code")
        used = self.code()  # a code that was used once opens nothing again
        self.assertContains(self.log_in(code=used), "That code is not right")

    def test_with_the_next_code_one_is_in(self):
        self.turned_on()
        code = self.code(steps=1)
        self.assertEqual(self.log_in(code=f"{code[:3]} {code[3:]}").status_code, 302)

    def test_a_recovery_code_opens_once(self):
        code = self.turned_on()[0]
        self.assertEqual(self.log_in(code=code).status_code, 302)
        self.assertContains(self.client.get(reverse("account")), "7 recovery codes left")
        TOTPDevice.objects.update(throttling_failure_count=0)
        self.assertContains(self.log_in(code=code), "That code is not right")

    def test_it_is_turned_off_with_the_password(self):
        self.turned_on()
        page = self.client.post(reverse("second-factor-off"), {"password": "wrong"})
        self.assertContains(page, "That is not your password", status_code=422)
        page = self.client.post(
            reverse("second-factor-off"), {"password": PASSWORD}, follow=True
        )
        self.assertContains(page, "The password alone opens")
        self.assertEqual(self.log_in().status_code, 302)

    def test_a_new_password_at_the_machine_turns_it_off(self):
        self.turned_on()
        set_password("ada", "five small wrens")
        self.assertEqual(self.log_in(password="five small wrens").status_code, 302)


class BehindProxies(TestCase):
    """Locks, limits and the journal go by the client's address, as the trusted proxies heard
    it."""

    def setUp(self):
        make_teacher()

    def log_in(self, password: str, address: str, forwarded: str = ""):
        headers = {"x-forwarded-for": forwarded} if forwarded else {}
        return self.client.post(
            reverse("login"),
            {"username": "ada", "password": password},
            REMOTE_ADDR=address,
            headers=headers,
        )

    def test_a_guesser_locks_out_nobody_elsewhere(self):
        with override_settings(PROXIES=1):
            for _ in range(8):
                page = self.log_in("wrong", "127.0.0.1", "203.0.113.9")
            self.assertEqual(page.status_code, 429)
            page = self.log_in("a-long-password", "127.0.0.1", "198.51.100.4")
            self.assertRedirects(page, reverse("desk"), fetch_redirect_response=False)

    def test_what_a_client_writes_before_the_proxy_counts_for_nothing(self):
        with override_settings(PROXIES=1):
            for number in range(8):
                forged = f"10.0.0.{number}, 203.0.113.9"
                page = self.log_in("wrong", "127.0.0.1", forged)
            self.assertEqual(page.status_code, 429)

    def test_without_a_trusted_proxy_the_header_is_not_believed(self):
        with override_settings(PROXIES=0):
            for number in range(8):
                page = self.log_in("wrong", "203.0.113.9", f"10.0.0.{number}")
            self.assertEqual(page.status_code, 429)

    def test_how_many_are_trusted_says_which_address_it_is(self):
        for forwarded, proxies, told in (
            ("203.0.113.9", 0, ""),
            ("203.0.113.9", 1, "203.0.113.9"),
            ("a.b, 203.0.113.9, 192.0.2.1", 1, "192.0.2.1"),
            ("a.b, 203.0.113.9, 192.0.2.1", 2, "203.0.113.9"),
            ("192.0.2.1", 2, ""),
            ("2001:db8::7", 1, "2001:db8::7"),
            ("nonsense", 1, ""),
            ("", 1, ""),
        ):
            with self.subTest(forwarded, proxies=proxies):
                headers = {"x-forwarded-for": forwarded}
                request = RequestFactory().get("/", headers=headers)
                self.assertEqual(forwarded_for(request, proxies), told)

    def test_the_journal_has_the_clients_address(self):
        with override_settings(PROXIES=1), self.assertLogs("wren.log_ins") as kept:
            self.log_in("wrong", "127.0.0.1", "203.0.113.9")
        self.assertIn("203.0.113.9", kept.output[0])

    @override_settings(PROXIES=1, RATELIMIT_ENABLE=True)
    def test_one_who_guesses_links_stops_no_other(self):
        cache.clear()
        ask = partial(self.client.get, "/s/none/", REMOTE_ADDR="127.0.0.1")
        for _ in range(32):
            page = ask(headers={"x-forwarded-for": "203.0.113.9"})
        self.assertEqual(page.status_code, 429)
        self.assertEqual(ask(headers={"x-forwarded-for": "192.0.2.1"}).status_code, 404)


@override_settings(OTP_TOTP_SYNC=False)
class WrongCodes(StudioTest):
    def setUp(self):
        super().setUp()
        self.client.get(reverse("second-factor"))
        device = TOTPDevice.objects.get(user=self.teacher)
        device.confirmed = True
        device.save()
        self.client.logout()

    def guess(self, code: str = "000000"):
        form = {"username": "ada", "password": "a-long-password", "code": code}
        return self.client.post(reverse("login"), form)

    def test_they_stand_in_the_log_and_lock_as_wrong_passwords_do(self):
        with self.assertLogs("wren.log_ins") as kept:
            self.guess()
        self.assertIn("a log-in of ada was refused", kept.output[0])
        for _ in range(6):
            page = self.guess()
        self.assertContains(page, "Too many wrong passwords or codes", status_code=429)

    def test_who_must_wait_is_told_so_and_how_long(self):
        self.guess()
        page = self.guess()
        self.assertContains(page, "Codes are looked at again in")
        self.assertRegex(page.content.decode(), r"again in \d+ seconds?\.")

    def test_the_password_without_a_code_is_no_wrong_code(self):
        for _ in range(8):
            page = self.guess("")
        self.assertContains(page, "Your app shows a code: type it.")


class OwnersEyes(SimpleTestCase):
    """Files of a studio are its owner's alone, what an earlier version made too."""

    def test_after_a_start_nobody_else_reads_anything(self):
        with tempfile.TemporaryDirectory() as folder:
            data = Path(folder) / "data"
            place = Place(data / "studio.sqlite3", data / "recordings", data)
            for name in (
                "studio.sqlite3", "studio.sqlite3-wal", "secret-key", "recordings/a.wav",
                "backups/wren-1.zip", "drawings/000/cache.db", "prints/a.djcache",
                "before-2027-01-01-000000/studio.sqlite3",
            ):  # fmt: skip
                path = data / name
                path.parent.mkdir(parents=True, exist_ok=True, mode=0o755)
                path.write_text("x")
                path.chmod(0o644)
            owner_alone(place)
            for path in (data, *data.rglob("*")):
                with self.subTest(path.name):
                    self.assertEqual(path.stat().st_mode & 0o077, 0)

    def test_a_backup_is_its_owners_alone_wherever_it_lies(self):
        with tempfile.TemporaryDirectory() as folder:
            to = Path(folder)
            database = to / "studio.sqlite3"
            with closing(sqlite3.connect(database)) as made:
                made.execute("CREATE TABLE django_migrations (id)")
                made.execute("CREATE TABLE students_student (id)")
            place = Place(database, to / "recordings", to)
            made = back_up(place, to / "kept", datetime(2027, 1, 1))
            self.assertEqual(made.stat().st_mode & 0o077, 0)
