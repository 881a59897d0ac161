"""The first log-in of a new studio, and another password."""

from django.contrib.auth.models import User
from django.test import TestCase, override_settings
from django.urls import reverse

from tests.studio.base import StudioTest

NEW = {
    "username": "ada",
    "password1": "four small wrens",
    "password2": "four small wrens",
}
HERE = {"headers": {"host": "127.0.0.1:8000"}}


class FirstLogIn(TestCase):
    def test_a_studio_without_a_log_in_asks_for_one_and_opens(self):
        page = self.client.get(reverse("login"), follow=True, **HERE)
        self.assertContains(page, "Nobody has a log-in here yet")
        page = self.client.post(reverse("first-log-in"), NEW, follow=True, **HERE)
        self.assertContains(page, "This is your studio")
        self.assertTrue(User.objects.get(username="ada").check_password("four small wrens"))

    def test_a_short_password_is_told_and_makes_nobody(self):
        wrong = {**NEW, "password1": "wren", "password2": "wren"}
        page = self.client.post(reverse("first-log-in"), wrong, **HERE)
        self.assertContains(page, "This password is too short", status_code=422)
        self.assertContains(page, 'value="ada"', status_code=422)
        self.assertFalse(User.objects.exists())

    def test_there_is_no_second_first(self):
        User.objects.create_user("bo")
        page = self.client.post(reverse("first-log-in"), NEW, **HERE)
        self.assertRedirects(page, reverse("login"), fetch_redirect_response=False)
        self.assertFalse(User.objects.filter(username="ada").exists())

    def test_only_at_the_machine_itself(self):
        elsewhere = (
            {"REMOTE_ADDR": "192.0.2.7", **HERE},  # RFC 5737: for examples
            {"headers": {"host": "127.0.0.1", "x-forwarded-for": "192.0.2.7"}},
            {"headers": {"host": "testserver"}},
        )
        for sent in elsewhere:
            with self.subTest(sent):
                page = self.client.post(reverse("first-log-in"), NEW, **sent)
                self.assertEqual(page.status_code, 403)
                self.assertContains(self.client.get(reverse("login"), **sent), "Log in")
        with override_settings(HTTPS=True):  # served to others, through a proxy
            page = self.client.post(reverse("first-log-in"), NEW, **HERE)
            self.assertEqual(page.status_code, 403)
        self.assertFalse(User.objects.exists())


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
