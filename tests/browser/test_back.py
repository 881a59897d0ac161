"""Back never shows a state that is over, whether the browser remembers pages or not."""

from datetime import date

from django.urls import reverse
from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.studio.base import make_piece, make_plan, make_student, make_teacher
from wren_ladder.studio.climb.models import Attempt, HomeMinutes
from wren_ladder.studio.students.links import open_link, path_of, revoke
from wren_ladder.studio.students.models import Student


class Back(BrowserTest):
    def setUp(self):
        super().setUp()
        self.teacher = make_teacher()
        self.student = make_student(
            self.teacher, "Ines Okafor", lesson_day=date.today().weekday()
        )
        self.plan = make_plan(make_piece(self.teacher), self.student)

    def open_card(self):
        return self.page.locator(".lesson-card:not([hidden])")

    def test_after_the_log_out_nothing_of_a_student_is_shown(self):
        page = self.go("/log-in/")
        page.get_by_label("Username").fill("ada")
        page.get_by_label("Password").fill("a-long-password")
        page.get_by_role("button", name="Log in").click()
        page.locator(".desk-head h1").wait_for()
        page = self.go(self.student.get_absolute_url())
        expect(page.get_by_role("heading", name="Ines Okafor")).to_be_visible()
        page.get_by_role("button", name="log out").click()
        page.get_by_label("Password").wait_for()
        page.go_back(wait_until="commit")
        page.get_by_label("Password").wait_for()
        expect(page.get_by_text("Ines Okafor")).to_have_count(0)

    def test_a_lesson_that_is_returned_to_stands_where_it_was_left(self):
        self.log_in()
        page = self.go(reverse("lesson-mode", args=[self.student.pk]))
        page.keyboard.press("]")
        expect(self.open_card().get_by_role("heading")).to_have_text("Bar 4")
        page.wait_for_timeout(500)
        page.keyboard.press("c")
        expect(self.open_card().locator(".said")).to_contain_text("rung 90 earned")
        page.keyboard.press("m")
        page.get_by_role("link", name="The Desk").click()
        page.locator(".desk-head h1").wait_for()
        page.go_back(wait_until="commit")
        expect(self.open_card().get_by_role("heading")).to_have_text("Bar 4")
        expect(self.open_card().locator("[data-entry] [name=tempo]")).to_have_value("95")
        expect(self.open_card().locator(".said")).to_contain_text("rung 90 earned")
        page.wait_for_timeout(500)
        page.keyboard.press("c")
        expect(self.open_card().locator(".said")).to_contain_text("rung 95 earned")
        tries = list(Attempt.objects.order_by("pk").values_list("tempo", flat=True))
        self.assertEqual(tries, [90, 95])

    def test_a_form_that_was_sent_changed_and_sent_again_makes_a_second(self):
        self.log_in()
        page = self.go(reverse("student-new"))
        for name in ("Wilma Teal", "Otis Teal"):
            page.locator("[name=name]").fill(name)
            page.get_by_role("button", name="Keep").click()
            expect(page.get_by_role("heading", name=name)).to_be_visible()
            page.go_back(wait_until="commit")
            page.get_by_role("button", name="Keep").wait_for()
        self.assertEqual(Student.objects.filter(name__endswith="Teal").count(), 2)

    def test_a_link_that_was_closed_shows_nothing_of_the_student(self):
        open_link(self.student)
        page = self.go(path_of(self.student))
        page.get_by_role("heading", name="What shall I play?").wait_for()
        self.go("/privacy/")
        revoke(self.student)
        page.go_back(wait_until="commit")
        expect(page.get_by_text("This page is closed")).to_be_visible()

    def test_minutes_sent_from_a_page_that_came_back_count_again(self):
        self.log_in()
        page = self.go(reverse("minutes", args=[self.student.pk]))
        for _ in range(2):
            page.get_by_role("spinbutton", name="Minutes").fill("20")
            page.get_by_role("button", name="Log", exact=True).click()
            expect(page.get_by_text("20 minutes").first).to_be_visible()
            page.go_back(wait_until="commit")
            page.get_by_role("button", name="Log", exact=True).wait_for()
        self.assertEqual(HomeMinutes.objects.count(), 2)


class BackWithPageMemory(Back):
    page_memory = True

    def test_the_memory_is_on(self):
        """Else the other tests would say nothing: a page without anything of anybody comes
        back as it was."""
        page = self.go("/privacy/")
        remember = "sessionStorage.setItem('persisted', event.persisted)"
        page.evaluate(f"addEventListener('pageshow', (event) => {remember})")
        self.go("/log-in/")
        page.go_back(wait_until="commit")
        page.get_by_role("heading", name="What is kept, why, and how long").wait_for()
        page.wait_for_function("sessionStorage.getItem('persisted') === 'true'")
