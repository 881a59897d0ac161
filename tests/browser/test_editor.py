"""The chart editor in a browser: by mouse, by keys, typed, and back again tomorrow."""

import re

from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.studio.base import QUAY, make_piece, make_teacher
from wren_ladder.drumming.chart import Drum
from wren_ladder.studio.pieces.models import Piece


class Editor(BrowserTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(make_teacher(), QUAY)
        self.log_in()
        self.open()

    def open(self):
        self.go(f"/pieces/{self.piece.pk}/edit/")

    @property
    def lines(self):
        return self.page.get_by_label("Typed")

    def keys(self, *keys):
        for key in keys:
            self.page.keyboard.press(key)

    def strokes(self, drum):
        return self.page.locator(f'#grid .stroke[data-drum="{drum}"]')

    def test_by_keys_alone(self):
        self.keys("l", "ArrowRight", "d", " ")  # its own drums first: snare, then kick
        expect(self.page.locator("#grid-said")).to_have_text("1&: hat and kick")
        expect(self.strokes("kick")).to_have_count(3)
        expect(self.lines).to_have_value(
            "meter 4/4\nsection A Verse\ntempo crotchet = 120\nhat 8ths\nsnare 2 4\nkick 1 1& 3"
        )
        self.keys("ArrowUp")
        expect(self.lines).to_have_value(re.compile("kick 1 3, accent 1&"))
        self.keys("Delete")
        expect(self.strokes("kick")).to_have_count(2)
        self.keys("Control+z")
        expect(self.strokes("kick")).to_have_count(3)
        expect(self.page.locator("#bar-said")).to_contain_text("undone: a stroke in bar 1")

    def test_keys_faster_than_the_answers(self):
        self.keys("l", "Home")
        for _ in range(8):
            self.keys(" ", "ArrowRight")
        expect(self.lines).to_have_value(re.compile("snare 1 1& 2& 3 3& 4&"))

    def test_by_mouse(self):
        slot = self.page.locator('.slot[data-at="1/2"][data-limb="right foot"]')
        slot.click()
        expect(self.strokes("kick")).to_have_count(3)
        stroke = self.strokes("snare").first
        box = stroke.locator("use").bounding_box()
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x, y - 20)
        self.page.mouse.up()
        expect(self.lines).to_have_value(re.compile("snare 4, accent 2"))
        self.page.mouse.click(x, y)
        expect(self.strokes("snare")).to_have_count(1)

    def test_a_click_takes_a_stroke_away_and_one_on_the_lane_puts_it_back(self):
        stroke = self.strokes("snare").first.locator("use")
        box = stroke.bounding_box()
        at = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        self.page.mouse.click(*at)
        expect(self.strokes("snare")).to_have_count(1)
        self.page.get_by_label("snare", exact=True).check(force=True)
        self.page.mouse.click(*at)
        expect(self.strokes("snare")).to_have_count(2)
        self.page.keyboard.down("Shift")  # takes it in hand, for the letters
        self.page.mouse.click(*at)
        self.page.keyboard.up("Shift")
        self.keys("n")
        expect(self.lines).to_have_value(re.compile("flam 2"))
        expect(self.strokes("snare")).to_have_count(2)

    def test_a_finger_beside_a_stroke_meant_the_stroke_and_the_drum_in_hand_stays(self):
        kick = self.page.get_by_label("kick", exact=True)
        kick.check(force=True)
        box = self.strokes("snare").first.locator("use").bounding_box()
        self.page.mouse.click(box["x"] - 4, box["y"] + box["height"] / 2)
        expect(self.strokes("snare")).to_have_count(1)
        expect(kick).to_be_checked()
        self.page.locator('.slot[data-at="1/2"][data-limb="right foot"]').click()
        expect(self.strokes("kick")).to_have_count(3)
        expect(self.lines).to_have_value(re.compile("kick 1 1& 3"))

    def test_the_drums_of_the_piece_stand_first_and_the_others_behind_one_word(self):
        expect(self.page.get_by_label("floor tom", exact=True)).to_be_hidden()
        self.page.get_by_text("other drums").click()
        self.page.get_by_label("floor tom", exact=True).check(force=True)
        self.page.locator('.slot[data-at="1/2"][data-limb="left hand"]').click()
        expect(self.lines).to_have_value(re.compile("floor 1&"))

    def test_the_lanes_stay_where_they_are_whatever_is_typed(self):
        def places():
            # In one step: between finding and measuring the grid may have been drawn anew.
            return self.page.evaluate(
                """() => [...document.querySelectorAll("#grid .lane")].map(
                (lane) => Math.round(lane.getBoundingClientRect().y))"""
            )

        before = places()
        for lines in ("crash 1 2\nhat 8ths\nsnare 1 3\nhat foot 2 4", "floor 1 2", "floor zz"):
            self.lines.fill(f"meter 4/4\n{lines}")
            expect(self.page.locator("#edit-card-0")).to_be_visible()
            self.page.wait_for_timeout(400)
            self.assertEqual(places(), before)

    def test_without_a_connection_it_is_said_and_nothing_typed_is_lost(self):
        self.go(f"/pieces/{self.piece.pk}/edit/?as=text")
        text = self.page.get_by_label("Bars, as you say them")
        self.context.set_offline(True)
        text.fill(QUAY.replace("kick 1 3", "kick 1 2 3"))
        expect(self.page.locator("#status-note")).to_contain_text(
            "What you typed is still here"
        )
        self.complaints.clear()  # the browser tells of the lost connection itself
        self.context.set_offline(False)
        self.page.evaluate("window.dispatchEvent(new Event('online'))")
        expect(self.page.locator("#status-note")).to_have_count(0)
        self.page.keyboard.press("Control+s")
        self.page.wait_for_url(f"**/pieces/{self.piece.pk}/")
        kicks = [hit for hit in self.piece.bars.first().bar.hits if hit.drum.value == "kick"]
        self.assertEqual(len(kicks), 3)

    def test_typed_lines_and_limbs_stay_in_step(self):
        self.page.keyboard.press("t")
        self.lines.fill("meter 4/4\nfloor 1 2 3")
        expect(self.strokes("tom-floor")).to_have_count(3)
        expect(self.lines).to_be_focused()
        self.lines.fill("meter 4/4\nflor 1")
        expect(self.page.locator("#bar-error mark")).to_have_text("flor")
        self.page.get_by_role("button", name="Go to the word").click()
        self.page.keyboard.type("floor")
        expect(self.strokes("tom-floor")).to_have_count(1)
        expect(self.page.locator("#bar-error mark")).to_have_count(0)
        self.page.keyboard.press("Escape")
        expect(self.page.locator("#grid")).to_be_focused()

    def test_the_wall_is_worked_by_keys_and_choices(self):
        page = self.page
        page.locator("#edit-card-1").click()
        expect(page.get_by_role("heading", name="Bar 2")).to_be_visible()
        page.locator("#edit-card-2").click(modifiers=["Shift"])
        expect(page.locator(".edit-card.chosen")).to_have_count(2)
        self.keys("c")
        expect(page.locator("#bar-said")).to_have_text("2 bars copied")
        page.locator("#edit-card-3").click()
        self.keys("v")
        expect(page.locator(".edit-card")).to_have_count(5)
        self.keys("x")
        expect(page.locator(".edit-card")).to_have_count(3)
        self.keys("z")
        expect(page.locator(".edit-card")).to_have_count(5)
        page.locator("#edit-card-1").click()
        self.keys("w")
        expect(page.locator("#edit-card-1 .signs")).to_have_text("repeat sign")
        page.get_by_text("Marks of the bar").click()
        page.get_by_label("section").fill("B Chorus")
        page.get_by_label("section").press("Tab")
        expect(page.locator(".edit-section").nth(1)).to_have_text("B Chorus")
        expect(self.lines).to_have_value("section B Chorus\nrepeat bar")

    def test_bars_chosen_while_an_answer_is_on_its_way_stay_chosen(self):
        self.page.evaluate(
            """() => { const send = XMLHttpRequest.prototype.send;
            XMLHttpRequest.prototype.send = function (sent) {
              setTimeout(() => send.call(this, sent), 400); }; }"""
        )
        # The answer to the stroke knows nothing of the choice.
        with self.page.expect_event("requestfinished"):
            self.page.locator('.slot[data-at="5/2"][data-limb="right foot"]').click()
            self.page.get_by_label("selected up to").select_option("3")
        self.page.get_by_role("button", name="fill down").click()
        expect(self.page.locator("#bar-said")).to_contain_text("filled down")
        self.page.get_by_role("button", name="Keep the piece").click()
        expect(self.page.get_by_role("heading", name="Quay", exact=True)).to_be_visible()
        kept = Piece.objects.get().chart().bars
        kicks = [sum(hit.drum is Drum.KICK for hit in bar.hits) for bar in kept]
        self.assertEqual(kicks, [3, 3, 3, 3])

    def test_a_closed_tab_loses_nothing(self):
        self.lines.fill("meter 4/4\nfloor 1 2 3")
        expect(self.strokes("tom-floor")).to_have_count(3)
        self.lines.fill("meter 4/4\nflor 1 2")
        expect(self.page.locator("#bar-error mark")).to_have_text("flor")
        self.page.close()
        self.page = self.context.new_page()
        self.open()
        expect(self.lines).to_have_value("meter 4/4\nflor 1 2")
        self.page.get_by_role("button", name="Put the lines back").click()
        expect(self.lines).to_have_value("meter 4/4\nfloor 1 2 3")
        self.page.get_by_role("button", name="Keep the piece").click()
        expect(self.page.get_by_role("heading", name="Quay", exact=True)).to_be_visible()
        self.assertEqual(len(Piece.objects.get().chart().bars[0].hits), 3)


class FirstPiece(BrowserTest):
    """Sixteen bars of a first piece, with the mouse alone but for the title."""

    def setUp(self):
        super().setUp()
        make_teacher()
        self.log_in()
        self.clicks = 0

    def click(self, what, **more) -> None:
        self.clicks += 1
        what.click(**more)

    def put(self, limb: str, *places: str) -> None:
        for at in places:
            slot = self.page.locator(f'.slot[data-at="{at}"][data-limb="{limb}"]')
            self.click(slot)
            stroke = f'#grid .stroke[data-at="{at}"]'
            expect(self.page.locator(stroke).last).to_be_visible()

    def open_bar(self, number: int) -> None:
        self.click(self.page.locator("[data-bar]").nth(number - 1))
        heading = self.page.get_by_role("heading", name=f"Bar {number}", exact=True)
        expect(heading).to_be_visible()

    def fill_down_to(self, number: int) -> None:
        self.clicks += 2  # the list opened, and one chosen
        self.page.get_by_label("selected up to").select_option(f"{number - 1}")
        self.click(self.page.get_by_role("button", name="fill down"))
        expect(self.page.locator("#bar-said")).to_contain_text("filled down")

    def test_in_under_sixty_clicks(self):
        page = self.go("/pieces/new/")
        self.click(page.get_by_role("link", name="Bar by bar"))
        page.get_by_label("Title").fill("Lantern Row")
        snare, kick = (
            page.locator("label.drum", has_text=re.compile(rf"^\s*{drum}\s*$"))
            for drum in ("snare", "kick")
        )
        self.click(kick)
        self.put("right foot", "1/2")
        for bars in range(2, 17):
            self.click(page.get_by_role("button", name="insert after"))
            expect(page.locator("[data-bar]")).to_have_count(bars)
        self.open_bar(1)
        self.fill_down_to(16)
        self.open_bar(9)  # the second half has another kick
        self.put("right foot", "5/2")
        self.fill_down_to(16)
        for number in (8, 16):  # and each half ends on the snare
            self.open_bar(number)
            self.click(snare)
            self.put("left hand", "5/2", "7/2")
        self.click(page.get_by_role("button", name="Keep the piece"))
        expect(page.get_by_role("heading", name="Lantern Row")).to_be_visible()
        bars = Piece.objects.get().chart().bars
        kicks, snares = (
            [sum(hit.drum is drum for hit in bar.hits) for bar in bars]
            for drum in (Drum.KICK, Drum.SNARE)
        )
        self.assertEqual(kicks, [3] * 8 + [4] * 8)
        self.assertEqual(snares, ([2] * 7 + [4]) * 2)
        self.assertLess(self.clicks, 60)
