"""What stays where it is: the place on a page, the page itself while paper is made, the sound
only as long as its step is seen."""

from django.urls import reverse
from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.studio.base import make_piece, make_plan, make_student, make_teacher


class Places(BrowserTest):
    def setUp(self):
        super().setUp()
        teacher = make_teacher()
        self.student = make_student(teacher, "Ines Okafor")
        self.plan = make_plan(make_piece(teacher), self.student)
        self.log_in()

    def test_a_page_that_comes_back_from_its_form_stands_where_it_stood(self):
        self.page.set_viewport_size({"width": 390, "height": 400})
        page = self.go(f"/students/{self.student.pk}/")
        for fold in page.locator("main details").all():
            fold.evaluate("e => e.open = true")
        page.get_by_role("button", name="Give a link").scroll_into_view_if_needed()
        before = page.evaluate("scrollY")
        self.assertGreater(before, 500)
        page.get_by_role("button", name="Pause", exact=True).evaluate("e => e.click()")
        expect(page.get_by_role("button", name="Here again")).to_be_attached()
        for _ in range(20):  # the policy allows no waiting for an expression
            if page.evaluate("scrollY") > 300:
                break
            page.wait_for_timeout(100)
        most = page.evaluate("document.documentElement.scrollHeight - innerHeight")
        self.assertLess(abs(page.evaluate("scrollY") - min(before, most)), 120)

    def test_paper_is_made_while_the_page_stays_and_says_so(self):
        page = self.go(reverse("week", args=[self.student.pk]))
        address = page.url
        with self.context.expect_page():  # it opens in a tab of its own
            page.get_by_role("link", name="The sheet (PDF)").click()
            note = page.locator("#status-note")
            expect(note).to_have_text("The paper is being made …")
        expect(note.get_by_role("link", name="open it")).to_be_visible()
        self.assertEqual(page.url, address)

    def test_paper_that_cannot_be_made_is_told(self):
        page = self.go(reverse("week", args=[self.student.pk]))
        page.route("**/week.pdf", lambda route: route.fulfill(status=500, body="no"))
        page.get_by_role("link", name="The sheet (PDF)").click()
        expect(page.locator("#status-note")).to_contain_text("could not be made; try again")
        self.complaints.clear()

    def test_the_ladder_page_shows_and_plays_the_step_that_is_chosen(self):
        page = self.go(f"/plans/{self.plan.pk}/")
        for name in ("Bar 4", "Bar 1"):
            page.get_by_label("Step", exact=True).select_option(label=f"{name} · not begun")
            expect(page.get_by_label(f"Staff of {name}")).to_be_visible()
        start = page.locator(".room-start")
        start.click()
        expect(page.get_by_role("button", name="Stop")).to_be_visible()
        page.get_by_role("button", name="Stop").click()
        expect(start).to_have_attribute("aria-pressed", "false")

    def test_the_sound_stops_when_its_step_leaves_the_screen(self):
        page = self.go(reverse("lesson-mode", args=[self.student.pk]))
        page.keyboard.press("p")
        stop = page.get_by_role("button", name="Stop")
        expect(stop).to_be_visible()
        page.keyboard.press("]")
        expect(page.locator("[aria-pressed=true]")).to_have_count(0)

    def test_one_switch_for_the_click_wherever_it_is_pressed(self):
        page = self.go(reverse("lesson-mode", args=[self.student.pk]))
        page.keyboard.press("m")
        page.locator(".room-more:visible summary").click()
        page.get_by_label("Where it clicks").locator("visible=true").select_option("no click")
        page.keyboard.press("]")
        page.keyboard.press("m")
        page.locator(".room-more:visible summary").click()
        chosen = page.get_by_label("Where it clicks").locator("visible=true")
        expect(chosen).to_have_value("")
        page.reload()
        expect(page.get_by_label("Where it clicks").first).to_have_value("")
