"""The workshop as a new user has it: nothing typed, heard at once, given in two clicks."""

import re

from django.urls import reverse
from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.studio.base import make_student, make_teacher
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan


class Workshop(BrowserTest):
    def setUp(self):
        super().setUp()
        self.student = make_student(make_teacher(), "Ines Okafor", grade=1)
        self.log_in()

    def choose(self):
        page = self.page
        page.keyboard.press("g")
        page.keyboard.press("w")
        page.locator(".whom > summary").click()
        page.locator("#whom").select_option(label="Ines Okafor, grade 1")
        page.get_by_role("button", name="Choose").click()

    def give(self):
        self.page.get_by_role("button", name="Give to Ines").click()

    def test_from_an_empty_studio_a_groove_its_variations_the_walk_and_a_fill(self):
        page = self.page
        self.choose()
        first = page.locator(".exercise", has_text="Hat in quavers, one and three")
        first.get_by_role("button", name="Play").click()
        expect(first.get_by_role("button", name="Stop")).to_be_visible()
        first.get_by_role("button", name="Take").click()
        expect(first.get_by_role("button", name="On the tray")).to_be_visible()

        # Hat variations and the kick walk under it, from the board, as one exercise each.
        page.get_by_role("link", name="Grooves", exact=True).click()
        page.get_by_label("hat in quavers, kick three twice: 1 3 3&: not yet").click()
        expect(page.locator("#cell")).to_contain_text("kick three twice")
        page.locator("#cell").get_by_role("button", name="Take").first.click()
        page.get_by_text("A whole row or column as one exercise").click()
        row = page.locator("li", has_text="hat in quavers").first
        row.get_by_role("button", name="Take the row").click()
        column = page.locator("li", has_text="kick one and three: 1 3")
        column.get_by_role("button", name="Take the column").click()
        expect(page.locator(".tray-things li")).to_have_count(4)

        # A two-bar fill phrase, another three first; then all by one press.
        page.get_by_role("link", name="Fills", exact=True).click()
        page.get_by_role("link", name="Three others").click()
        page.locator(".exercise").first.get_by_role("button", name="Take").click()
        self.give()
        first = page.get_by_text("Ines Okafor climbs Hat in quavers, one and three")
        expect(first).to_be_visible()
        expect(page.get_by_text("Ines Okafor climbs kick one and three")).to_be_visible()
        page.get_by_text("Ines Okafor's book of fills").click()
        expect(page.get_by_role("link", name="Print the book")).to_be_visible()
        kinds = sorted(piece.kind for piece in Piece.objects.all())
        self.assertEqual(kinds, ["fill", "groove", "groove", "phrase", "phrase"])
        self.assertEqual(Plan.objects.filter(student=self.student).count(), 5)

    def test_what_is_on_the_tray_is_put_back_ordered_given_in_turn_and_taken_back(self):
        page = self.page
        self.choose()
        titles = ("Half-time", "Three twice", "Opening on 4 and")
        lying = page.locator(".tray-name")
        for many, title in enumerate(titles, 1):
            page.locator(".exercise", has_text=title).get_by_role("button", name="Take").click()
            expect(lying).to_have_text(list(titles[:many]))  # a swap is on its way till then
        page.get_by_role("button", name="Put Half-time back").click()
        expect(lying).to_have_text(list(titles[1:]))
        expect(
            page.locator(".exercise", has_text="Half-time").get_by_role("button", name="Take")
        ).to_be_visible()
        page.get_by_role("button", name="Opening on 4 and earlier").click()
        expect(lying).to_have_text([titles[2], titles[1]])
        page.get_by_label("Three twice, target").fill("66")
        page.get_by_label("How").select_option(label="in turn, as one")
        self.give()
        expect(
            page.get_by_text("climbs Opening on 4 and in turn with Three twice to 66")
        ).to_be_visible()
        expect(lying).to_have_count(0)
        page.get_by_role("button", name="undo").click()
        expect(lying).to_have_text([titles[2], titles[1]])
        self.assertFalse(Plan.objects.exists())

    def test_five_exercises_of_three_kinds_for_two_students_in_under_twelve_clicks(self):
        make_student(self.student.owner, "Bo Hart")
        page, clicks = self.go("/workshop/"), 0
        for press in (
            page.locator(".whom > summary"),
            page.locator("#whom"),  # opened, and chosen in the same press
            page.get_by_text("and for others"),
            page.locator("label:has([name=also])", has_text="Bo Hart"),
            page.get_by_role("button", name="Choose"),
            page.locator(".exercise").nth(0).get_by_role("button", name="Take"),
            page.locator(".exercise").nth(1).get_by_role("button", name="Take"),
            page.get_by_label("Kinds").get_by_role("link", name="Hands"),
            page.locator(".exercise").nth(0).get_by_role("button", name="Take"),
            page.locator(".exercise").nth(1).get_by_role("button", name="Take"),
            page.get_by_role("button", name="Give to Ines"),
        ):
            if press.evaluate("one => one.tagName") == "SELECT":
                press.select_option(label="Ines Okafor, grade 1")
            else:
                press.click()
            clicks += 1
        expect(page.get_by_text("Bo Hart climbs")).to_have_count(4)
        self.assertLess(clicks, 12)
        self.assertEqual(Plan.objects.count(), 8)

    def test_a_study_is_looked_at_for_a_minute_counted_in_and_recorded(self):
        self.choose()
        page = self.page
        page.get_by_label("Workshop", exact=True).get_by_role("link", name="Reading").click()
        page.get_by_role("button", name="Read it: a minute to look").click()
        waits = page.get_by_role("button", name="Begin now")
        expect(waits).to_contain_text("60 s to look")
        waits.click()
        key = page.locator("[data-look]")
        expect(key).to_have_attribute("aria-pressed", "true")
        key.click()
        expect(key).to_have_text("Read it: a minute to look, then counted in")
        page.get_by_role("button", name="Give it and record").click()
        page.get_by_role("button", name="Record", exact=True).click()
        expect(page.get_by_role("button", name="Record by keys or touch")).to_be_visible()

    def test_versions_of_a_phrase_are_walked_by_arrows_and_heard_in_turn(self):
        page = self.go(reverse("accents"))
        large = page.locator(".exercise:visible")
        expect(large).to_have_count(1)
        at = page.locator("[data-family-at]")
        expect(at).to_have_text(re.compile("^1 of "))
        page.keyboard.press("ArrowRight")
        expect(at).to_have_text(re.compile("^2 of "))
        page.keyboard.press("ArrowLeft")
        page.keyboard.press("ArrowLeft")
        many = page.locator(".exercise").count()
        expect(at).to_have_text(re.compile(f"^{many} of {many}"))
        page.get_by_role("button", name="Hear them in turn").click()
        expect(at).to_have_text(re.compile("^1 of "))
        page.wait_for_function("() => wren.playing && wren.playing.marks.length")
        page.evaluate("() => wren.stop()")  # as if the first were over
        expect(at).to_have_text(re.compile("^2 of "))
        page.wait_for_function("() => wren.playing")
        page.get_by_role("button", name="Stop", exact=True).click()
        page.wait_for_function("() => !wren.playing")
        page.get_by_role("button", name="all at once").click()
        expect(large).to_have_count(many)

    def test_a_fill_is_put_on_the_kit_by_touch_heard_taken_and_put_back(self):
        page = self.go("/workshop/fills/?length=half")
        bench = page.locator("#bench")
        bench.get_by_text("Put one on the drums").click()
        for drum in ("snare", "high tom", "mid tom", "floor tom"):
            bench.get_by_role("link", name=drum, exact=True).click()
            expect(bench.locator(".bench-notes").first).to_contain_text(drum)
        expect(bench.get_by_role("status")).to_have_text("All 4 notes are on the drums.")
        bench.get_by_role("button", name="Play").click()
        page.wait_for_function("() => wren.playing && wren.playing.marks.length")
        bench.get_by_role("button", name="Take").click()
        expect(page.locator("#tray")).to_contain_text("Snare, high tom, mid tom")
        bench.get_by_role("link", name="one back").click()
        expect(bench.get_by_role("status")).to_contain_text("for the note on 4&")
        page.go_back()
        expect(page.locator("#bench").get_by_role("status")).to_contain_text("All 4 notes")

    def test_the_board_is_walked_by_keys(self):
        self.choose()
        page = self.page
        page.get_by_role("link", name="Grooves", exact=True).click()
        cell = page.get_by_label("hat in crotchets, kick one and three: 1 3: not yet")
        cell.focus()
        page.keyboard.press("ArrowRight")
        page.keyboard.press("ArrowDown")
        expect(
            page.get_by_label("hat in quavers, kick four on the floor: 1 2 3 4: not yet")
        ).to_be_focused()
        page.keyboard.press("Enter")
        expect(page.locator("#cell")).to_contain_text("four on the floor")
