"""The breakdown in a browser: bars that light up, the keys of a step, a fill chosen by hand."""

import io

from playwright.sync_api import expect
from pypdf import PdfReader

from tests.browser.base import BrowserTest
from tests.studio.base import make_piece, make_plan, make_student, make_teacher
from tests.studio.test_own_bars import OPEN
from wren_ladder.studio.climb.models import Attempt


class Breakdown(BrowserTest):
    def setUp(self):
        super().setUp()
        teacher = make_teacher()
        self.plan = make_plan(
            make_piece(teacher, OPEN), make_student(teacher, grade=2), target=100, start=70
        )
        self.log_in()

    def test_equal_bars_light_up_together_and_say_what_will_catch(self):
        page = self.go(f"/plans/{self.plan.pk}/steps/")
        cards = page.locator(".card-bar")
        cards.nth(1).hover()  # bar 3 is bar 2 again, by its slashes
        expect(page.locator(".card-bar.kin")).to_have_count(2)
        expect(cards.nth(1).locator(".sentences")).to_be_visible()
        page.mouse.move(5, 5)
        expect(page.locator(".card-bar.kin")).to_have_count(0)
        cards.nth(2).focus()
        page.keyboard.press("Shift+Tab")  # focus by keyboard shows the same
        expect(cards.nth(1).locator(".sentences")).to_be_visible()
        page.keyboard.press("Enter")
        work = page.locator("#work")
        expect(work.get_by_role("heading", name="Bar 2", exact=True)).to_be_visible()
        expect(work).to_be_in_viewport()
        work.get_by_label("Your own rank").fill("4")
        work.get_by_role("button", name="Set").click()
        expect(page.get_by_text("Bar 2 ranks 4, by you")).to_be_visible()

    def test_a_sheet_of_the_steps_that_are_ticked(self):
        page = self.go(f"/plans/{self.plan.pk}/steps/")
        page.keyboard.press("h")
        page.get_by_label("Bar 1 on the sheet").check()
        page.get_by_label("Paper").select_option("Letter")
        asked = page.evaluate(
            "new URLSearchParams(new FormData(document.forms.paper)).toString()"
        )
        step = self.plan.steps.get(name="Bar 1")
        self.assertEqual(asked, f"paper=Letter&step={step.pk}")
        answer = self.context.request.get(
            f"{self.live_server_url}/plans/{self.plan.pk}/sheet.pdf?{asked}"
        )
        self.assertIn("Bar 1", PdfReader(io.BytesIO(answer.body())).pages[0].extract_text())

    def test_the_keys_of_the_step_page_log_and_lead_on(self):
        step = self.plan.steps.first()
        page = self.go(f"/steps/{step.pk}/")
        keys = page.locator("#keys-of-step")
        page.get_by_label("Times through").fill("8")
        page.get_by_role("heading").first.click()  # out of the field, so that keys are keys
        page.keyboard.press("c")
        expect(keys).to_contain_text("Logged: 70 clean")
        expect(page.get_by_label("Tempo")).to_have_value("75")
        page.keyboard.press("x")
        expect(keys).to_contain_text("Logged: 75 not yet")
        self.assertEqual(Attempt.objects.filter(step=step).count(), 2)
        page.keyboard.press("]")
        expect(page.get_by_text("step 2 of")).to_be_visible()

    def test_play_starts_stops_and_makes_way_for_another(self):
        page = self.go(f"/pieces/{self.plan.piece_id}/bars/1/chain/?bar=4")
        plays = page.locator("[data-play]")
        plays.nth(0).click()
        expect(plays.nth(0)).to_have_attribute("aria-pressed", "true")
        expect(plays.nth(0)).to_contain_text("Stop")
        plays.nth(1).click()
        expect(plays.nth(0)).to_have_attribute("aria-pressed", "false")
        expect(plays.nth(1)).to_have_attribute("aria-pressed", "true")
        plays.nth(1).click()
        expect(plays.nth(1)).to_have_attribute("aria-pressed", "false")

    def test_what_is_pressed_before_the_sounds_are_here_makes_way_too(self):
        self.go(f"/pieces/{self.plan.piece_id}/bars/1/chain/?bar=4")
        plays = self.page.locator("[data-play]")
        plays.evaluate_all("plays => [0, 1].forEach((number) => plays[number].click())")
        expect(plays.nth(0)).to_have_attribute("aria-pressed", "false")
        expect(plays.nth(1)).to_have_attribute("aria-pressed", "true")
        plays.nth(1).click()
        expect(plays.nth(1)).to_have_attribute("aria-pressed", "false")

    def test_a_fill_is_built_beat_by_beat_and_kept(self):
        page = self.go(f"/plans/{self.plan.pk}/bars/3/own/")
        three, four = (page.get_by_role("group", name=f"on {count}") for count in "34")
        three.get_by_text("two quavers", exact=True).click()
        drum = page.get_by_label("Drum on 3&", exact=True)
        expect(drum).to_have_attribute("aria-valuetext", "snare")
        drum.press("ArrowRight")
        expect(drum).to_have_attribute("aria-valuetext", "high tom")
        expect(drum).to_be_focused()  # the next key goes on from there
        four.get_by_text("crotchet", exact=True).click()
        page.get_by_label("Drum on 4", exact=True).press("End")
        expect(page.get_by_label("Drum on 4", exact=True)).to_have_attribute(
            "aria-valuetext", "kick"
        )
        expect(page.locator("#own")).to_contain_text("It starts on time")
        four.get_by_text("two quavers", exact=True).click()
        page.get_by_label("Drum on 4&", exact=True).press("End")
        expect(page.locator("#own")).to_contain_text("Two kicks in a row at the landing")
        # What was chosen before is still there.
        expect(drum).to_have_attribute("aria-valuetext", "high tom")
        page.get_by_role("button", name="Write it into the piece").click()
        expect(page.get_by_text("Written into Ines's version")).to_be_visible()
        expect(drum).to_have_attribute("aria-valuetext", "high tom")
        expect(page.get_by_role("heading", name="As stored")).to_be_visible()
