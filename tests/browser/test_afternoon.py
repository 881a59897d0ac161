"""A whole afternoon of six students, one ill and one moved, on a clock that goes on to next
week's Desk."""

from datetime import datetime, time, timedelta
from unittest import mock

from django.utils import timezone
from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.studio.base import make_piece, make_plan, make_student, make_teacher
from wren_ladder.studio.climb.models import Attempt
from wren_ladder.studio.lessons.models import Lesson

NAMES = ("Ada", "Bo", "Cy", "Di", "Ed", "Flo")
TUESDAY = datetime(2031, 3, 4, 14, 50)  # on the clock of the studio


class Afternoon(BrowserTest):
    def setUp(self):
        super().setUp()
        clock = mock.patch("django.utils.timezone.now", lambda: self.now)
        self.page.clock.install(time=timezone.make_aware(TUESDAY))
        self.set_clock(TUESDAY)
        clock.start()
        self.addCleanup(clock.stop)
        teacher = make_teacher()
        piece = make_piece(teacher)
        for number, name in enumerate(NAMES):
            begins = time(15 + number * 45 // 60, number * 45 % 60)
            student = make_student(teacher, name, lesson_day=1, lesson_time=begins)
            make_plan(piece, student)

    def set_clock(self, now: datetime) -> None:
        """Of the studio and of the browser: a try is of the day on which it was pressed."""
        self.now = timezone.make_aware(now)
        self.page.clock.set_system_time(self.now)

    def of(self, name):
        """Their lesson on the Desk."""
        heading = self.page.get_by_role("heading", name=name, exact=True)
        return self.page.locator(".desk-lesson").filter(has=heading)

    def give_the_lesson(self, name: str) -> None:
        """One clean try, a word for next time, what is proposed is set."""
        page = self.page
        expect(page).to_have_title(f"Lesson with {name} · Wren Ladder")
        page.get_by_role("button", name="Clean", exact=True).first.click()
        expect(page.locator(".lesson-card:not([hidden]) .said")).to_contain_text("90 clean")
        page.get_by_role("link", name="end the lesson").click()
        page.get_by_label("Note to yourself").fill(f"{name}: count aloud.")
        page.get_by_role("button", name="Keep", exact=True).click()
        expect(page.get_by_role("heading", name=f"{name}'s lesson")).to_be_visible()

    def test_six_students_one_ill_one_moved_and_the_week_after(self):
        self.log_in()
        page = self.page
        self.of("Bo").get_by_text("Not taking place").click()
        self.of("Bo").get_by_role("button", name="The student is ill").click()
        self.go("/")
        expect(self.of("Bo")).to_contain_text("Ill (the student)")
        self.of("Cy").get_by_text("Not taking place").click()
        self.of("Cy").get_by_role("link", name="Moved to").click()
        page.get_by_label("Day").fill("2031-03-06")
        page.get_by_label("Time").fill("17:00")
        page.get_by_role("button", name="Keep", exact=True).click()
        self.go("/")
        expect(self.of("Cy")).to_contain_text("Moved to 6 Mar")

        # From one student to the next, past who does not come.
        self.of("Ada").get_by_role("link", name="Begin").click()
        for number, name in enumerate(("Ada", "Di", "Ed", "Flo")):
            self.set_clock(TUESDAY + timedelta(minutes=40 * number + 15))
            self.give_the_lesson(name)
            following = page.locator(".next-lesson")
            if name == "Flo":
                expect(following).to_have_count(0)
            else:
                following.get_by_role("link", name="Begin").click()
        self.go("/")
        expect(page.locator(".desk-lesson.is-over")).to_have_count(6)
        expect(page.get_by_role("heading", name="To answer")).to_have_count(0)

        self.set_clock(TUESDAY + timedelta(days=2))
        self.go("/")
        expect(page.locator(".desk-lesson")).to_have_count(1)
        self.of("Cy").get_by_role("link", name="Begin").click()
        self.give_the_lesson("Cy")

        self.set_clock(TUESDAY + timedelta(days=7))
        self.go("/")
        expect(page.locator(".desk-lesson")).to_have_count(6)
        expect(page.get_by_role("heading", name="To answer")).to_have_count(0)
        for name in NAMES:
            if name == "Bo":
                expect(self.of(name).locator("blockquote")).to_have_count(0)
                expect(self.of(name)).to_contain_text("at 90")
            else:
                word = self.of(name).locator("blockquote")
                expect(word).to_have_text(f"{name}: count aloud.")
                expect(self.of(name)).to_contain_text("at 95")
        tried = Attempt.objects.values_list("step__plan__student__name", "day").order_by("pk")
        self.assertEqual(
            [(name, day.day) for name, day in tried],
            [("Ada", 4), ("Di", 4), ("Ed", 4), ("Flo", 4), ("Cy", 6)],
        )
        states = Lesson.objects.values_list("student__name", "state")
        self.assertIn(("Bo", Lesson.State.ILL), states)
