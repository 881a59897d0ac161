"""The first log-in of a new studio, and another password."""

from threading import Barrier, Thread

from django.conf import settings
from django.contrib.auth.models import User
from django.core.cache import cache
from django.db import connection
from django.test import Client, TestCase, TransactionTestCase, override_settings
from django.urls import reverse

from tests.studio.base import StudioTest
from wren_ladder.studio.accounts.start_up import FILE, start_up_code
from wren_ladder.studio.house.models import Member

NEW = {
    "username": "ada",
    "password1": "four small wrens",
    "password2": "four small wrens",
}


class FirstLogIn(TestCase):
    def send(self, client=None, **changed):
        sent = {**NEW, "code": start_up_code(), **changed}
        return (client or self.client).post(reverse("first-log-in"), sent, follow=True)

    def test_a_studio_without_a_log_in_asks_for_one_and_opens(self):
        page = self.client.get(reverse("login"), follow=True)
        self.assertContains(page, "Nobody has a log-in here yet")
        self.assertContains(page, "Start-up code")
        page = self.send()
        self.assertContains(page, "This is your studio")
        self.assertTrue(User.objects.get(username="ada").check_password("four small wrens"))

    def test_a_short_password_is_told_and_makes_nobody(self):
        page = self.send(password1="wren", password2="wren")
        self.assertContains(page, "This password is too short", status_code=422)
        self.assertContains(page, 'value="ada"', status_code=422)
        self.assertFalse(User.objects.exists())

    def test_there_is_no_second_first(self):
        code = start_up_code()
        User.objects.create_user("bo")
        page = self.send(code=code)
        self.assertRedirects(page, reverse("login"), fetch_redirect_response=False)
        self.assertFalse(User.objects.filter(username="ada").exists())

    def test_without_the_code_of_the_terminal_nobody_makes_it_from_wherever(self):
        """A plain proxy adds no header, so that everybody seems to sit at the machine."""
        for code in ("", "wrong", "é", "0" * 41):
            for sent in ({}, {"headers": {"x-forwarded-for": "127.0.0.1"}}):
                with self.subTest(code=code, sent=sent):
                    page = self.client.post(
                        reverse("first-log-in"), {**NEW, "code": code}, **sent
                    )
                    self.assertEqual(page.status_code, 422)
        self.assertFalse(User.objects.exists())
        self.send(code=f" {start_up_code().upper()} ")
        self.assertTrue(User.objects.exists())

    def test_the_code_stays_the_same_for_its_owner_alone_until_somebody_has_a_log_in(self):
        code = start_up_code()
        self.assertEqual(code, start_up_code())
        self.assertEqual((settings.DATA / FILE).stat().st_mode & 0o777, 0o600)
        self.send()
        self.assertEqual(start_up_code(), "")
        self.assertFalse((settings.DATA / FILE).exists())

    def test_the_demo_asks_for_none(self):
        with override_settings(DEMO=True):
            self.assertEqual(start_up_code(), "")
            self.assertNotContains(self.client.get(reverse("first-log-in")), 'name="code"')

    @override_settings(RATELIMIT_ENABLE=True)
    def test_guessing_is_slowed_down(self):
        cache.clear()
        for _ in range(10):
            self.send(code="wrong")
        page = self.send()
        self.assertContains(page, "Too many codes were tried", status_code=422)
        self.assertFalse(User.objects.exists())


class SeveralAtOnce(TransactionTestCase):
    def test_one_owner_and_one_log_in(self):
        code = start_up_code()
        waiting = Barrier(4)

        def make(number: int) -> None:
            waiting.wait()
            sent = {**NEW, "username": f"ada{number}", "code": code}
            Client().post(reverse("first-log-in"), sent)
            connection.close()

        threads = [Thread(target=make, args=[number]) for number in range(4)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(User.objects.count(), 1)
        self.assertEqual(Member.objects.filter(role=Member.Role.OWNER).count(), 1)


class Password(StudioTest):
    def change(self, old):
        new = {"new_password1": "five small wrens", "new_password2": "five small wrens"}
        return self.client.post(reverse("password"), {"old_password": old, **new}, follow=True)

    def test_it_is_changed_on_a_page_and_the_log_in_stays(self):
        self.assertContains(self.client.get(reverse("desk")), reverse("account"))
        self.assertContains(self.client.get(reverse("account")), reverse("password"))
        page = self.change("a-long-password")
        self.assertContains(page, "Your new password holds from now on")
        self.teacher.refresh_from_db()
        self.assertTrue(self.teacher.check_password("five small wrens"))

    def test_the_old_one_is_wanted(self):
        page = self.change("wrong")
        self.assertContains(page, "Your old password was entered incorrectly", status_code=422)
        self.teacher.refresh_from_db()
        self.assertTrue(self.teacher.check_password("a-long-password"))

    def test_nobody_changes_one_without_a_log_in(self):
        self.client.logout()
        self.assertIn("/log-in/", self.client.get(reverse("password"))["location"])
