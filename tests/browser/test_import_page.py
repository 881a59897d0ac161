"""A file comes in by its page, as a teacher does it: looked at, heard, changed, kept."""

from django.urls import reverse
from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.drumming.test_midi_asked import ROCK, take
from tests.studio.base import make_teacher
from wren_ladder.studio.pieces.models import Import, Piece


class ImportPage(BrowserTest):
    def setUp(self):
        super().setUp()
        make_teacher()
        self.log_in()

    def upload(self, name: str, data: bytes):
        page = self.go(reverse("piece-upload"))
        file = {"name": name, "mimeType": "audio/midi", "buffer": data}
        page.locator("input[type=file]").set_input_files(file)
        page.get_by_role("button", name="Read it").click()
        page.locator("#reading").wait_for()
        return page

    def settled(self, page):
        expect(page.locator(".htmx-request, .htmx-swapping, .htmx-settling")).to_have_count(0)

    def test_a_take_off_the_click_is_looked_at_changed_undone_and_kept(self):
        page = self.upload("take.mid", take(ROCK, 97))
        expect(page.locator("#reading")).to_contain_text("read as they are played")
        cards = page.locator(".edit-card")
        expect(cards).to_have_count(16)
        page.get_by_label("Tempo").select_option("tempo half")
        expect(cards).to_have_count(8)
        page.get_by_label("Loudness").select_option("plain")
        self.until(lambda: "plain" in Import.objects.get().taken)
        self.settled(page)
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_label("Loudness")).to_have_value("levels")
        page.get_by_role("button", name="Undo").click()
        expect(cards).to_have_count(16)
        expect(page.get_by_role("button", name="Undo")).to_have_count(0)
        title = page.get_by_label("Title")
        title.fill("Rain on the quay")
        title.press("Tab")
        self.until(lambda: Import.objects.filter(title="Rain on the quay").exists())
        page.reload()
        expect(page.get_by_label("Title")).to_have_value("Rain on the quay")
        page.get_by_role("button", name="Keep as a piece").click()
        page.wait_for_url("**/pieces/*/")
        self.assertEqual(Piece.objects.get().title, "Rain on the quay")

    def test_it_is_heard_as_written_and_as_the_file_has_it_after_a_change_too(self):
        page = self.upload("take.mid", take(ROCK, 97))
        for name in ("written-sound", "file-sound"):
            key = page.locator(f"[data-play={name}]")
            key.click()
            expect(key).to_have_attribute("aria-pressed", "true")
            key.click()
            expect(key).to_have_attribute("aria-pressed", "false")
        page.get_by_label("Feel").select_option("feel straight")
        self.until(lambda: "feel straight" in Import.objects.get().taken)
        self.settled(page)
        key = page.locator("[data-play=written-sound]")
        key.click()
        expect(key).to_have_attribute("aria-pressed", "true")
        key.click()
