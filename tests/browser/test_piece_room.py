"""The practice room of a whole piece, with the kit and along a recording."""

import re

from django.core.files.base import ContentFile
from django.urls import reverse
from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.studio.base import make_piece, make_teacher
from wren_ladder.demo.recording import made_up_recording
from wren_ladder.drumming.performance import perform
from wren_ladder.drumming.performance.recorded import from_the_first
from wren_ladder.studio.changes.recordings import attach, place
from wren_ladder.studio.pieces.models import Recording
from wren_ladder.studio.pieces.studies import study_of

OFF = 0.5  # seconds: another place of the music, and no question of how fast the machine is


class PieceRoom(BrowserTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(make_teacher())
        self.performance = perform(study_of(self.piece).road)
        self.log_in()
        self.address = reverse("piece-room", args=[self.piece.pk])

    def attach(self):
        data = made_up_recording(self.performance, 1.0, 1.0)
        return attach(self.piece, ContentFile(data, "mine.wav"), "audio/wav")

    def press_bar(self, index: int):
        box = self.page.locator(f"[id^='l0-b{index}h']").first.bounding_box()
        self.page.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)

    def test_a_bar_of_the_chart_is_pressed_and_looped_and_with_another_all_between(self):
        page = self.go(self.address)
        page.locator(".room-start").wait_for()
        self.press_bar(2)
        where = page.locator("[data-part=where]")
        expect(where).to_have_text(re.compile("^bar 3"))
        self.press_bar(3)
        expect(where).to_have_text("bars 3 to 4")
        page.keyboard.press("Space")
        expect(where).to_have_text(re.compile("bar 3 · round 1"))
        expect(where).to_have_text(re.compile("bar 4 · round 1"))
        expect(where).to_have_text(re.compile("bar 3 · round 2"))
        page.keyboard.press("Space")
        expect(where).to_have_text("")
        page.get_by_role("button", name="the whole piece").click()
        expect(where).to_have_text("the whole piece")
        expect(page.get_by_role("button", name="the whole piece")).to_be_hidden()

    def test_a_recording_is_tapped_and_played_along_at_another_speed(self):
        self.attach()
        page = self.go(self.address)
        tap = page.get_by_role("button", name="tap each bar")
        tap.click()
        for second in (1, 3, 5):
            page.wait_for_function(
                "(at) => document.getElementById('recording').currentTime >= at", arg=second
            )
            tap.click()
        expect(page.get_by_text("3 bars tapped")).to_be_visible()
        page.get_by_role("button", name="Place it by the taps").click()
        expect(page.get_by_text("The recording follows the notes now.")).to_be_visible()
        anchors = Recording.objects.get().anchors
        self.assertEqual([turn for turn, _ in anchors], [0, 1, 2])

    def test_it_runs_with_the_notes_and_stops_with_them(self):
        place(self.attach(), from_the_first(1.0, 1.0, self.performance))
        page = self.go(f"{self.address}?with=recording")
        page.get_by_label("Beats a minute").fill("90")
        page.evaluate(
            """() => { const { tick } = wren.Along.prototype;
            wren.Along.prototype.tick = function () {
              window.sounding = this.sounding;
              tick.call(this); }; }"""
        )
        page.locator(".room-start").click()
        where = page.locator("[data-part=where]")
        expect(where).to_have_text(re.compile("bar 2 · round 1"), timeout=10_000)
        late, speed, kept = page.evaluate(
            """() => { const { now } = wren, { stretch, element } = window.sounding;
            const at = stretch.second + (now - stretch.at) * stretch.rate;
            return [element.currentTime - at, stretch.rate, element.preservesPitch]; }"""
        )
        self.assertLess(abs(late), OFF)
        self.assertAlmostEqual(speed, 0.75)
        self.assertTrue(kept)
        page.get_by_label("Beats a minute").fill("300")  # 110 per cent at most
        self.assertAlmostEqual(page.evaluate("wren.playing.choice.bpm"), 132)
        page.locator(".room-start").click()
        paused = "() => window.sounding.element.paused"
        page.wait_for_function(paused)
