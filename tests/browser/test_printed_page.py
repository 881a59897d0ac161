"""From a picture to a printed chart, as a teacher who has never done it does it."""

from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.printed_pages import HERE, PHOTOGRAPHS, made_worse, printed_pages
from tests.studio.base import make_teacher
from tests.studio.test_scans import PRINTED, TYPED
from wren_ladder.drumming.notation.counts import read_chart
from wren_ladder.drumming.page_reading.picture import pack
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.scans.models import Scan


class PrintedPage(BrowserTest):
    def setUp(self):
        super().setUp()
        make_teacher()
        self.log_in()

    def upload(self, name: str, data: bytes):
        page = self.go("/pieces/")
        page.get_by_role("link", name="From a printed page").click()
        file = {"name": name, "mimeType": "image/png", "buffer": data}
        page.locator("input[type=file]").set_input_files(file)
        page.get_by_role("button", name="Read the page").click()
        page.locator(".staff-key, #by-hand").wait_for(timeout=60_000)
        if page.locator(".staff-key").count():
            page.get_by_role("button", name="Right, read the bars").click()
            page.wait_for_url("**/look/")
        return page

    def test_from_a_picture_to_a_chart_on_paper(self):
        page = self.upload("weir_lane.png", (HERE / "weir_lane.png").read_bytes())
        page.get_by_role("link", name="go on bar by bar").click()
        for place, text in TYPED.items():
            expect(page.get_by_role("heading", level=1)).to_have_text(f"Bar {place + 1}")
            if place % 2:  # as it was read
                expect(page.locator("#text")).not_to_have_value("")
            else:
                page.locator("#text").fill(text)
            expect(page.locator("#drawn svg")).to_be_visible()
            page.locator("#text").press("Control+Enter")
        page.wait_for_url("**/look/")
        for _ in range(4):
            keys = page.get_by_role("button", name="This line is right")
            left = keys.count()
            keys.first.click()
            expect(keys).to_have_count(left - 1)
        expect(page.get_by_role("status").first).to_contain_text("every bar was called right")
        page.get_by_label("Title").fill("Weir Lane")
        page.get_by_role("button", name="Keep as a piece").click()
        page.wait_for_url("**/pieces/*/")
        piece = Piece.objects.get()
        self.assertEqual(piece.bar_count, 16)
        printed = page.request.get(f"{self.live_server_url}/pieces/{piece.pk}/score.pdf")
        self.assertTrue(printed.body().startswith(b"%PDF"))

    def test_a_page_that_was_read_is_a_piece_in_a_press_a_line(self):
        page = self.upload("weir_lane.png", (HERE / "weir_lane.png").read_bytes())
        keys = page.get_by_role("button", name="This line is right")
        expect(keys).to_have_count(4)
        expect(page.locator(".looked .btn-primary")).to_have_count(1)
        for left in (3, 2, 1, 0):
            keys.first.click()
            expect(keys).to_have_count(left)
        page.get_by_label("Title").fill("Weir Lane")
        page.get_by_role("button", name="Keep as a piece").click()
        page.wait_for_url("**/pieces/*/")
        kept = Piece.objects.get().chart().bars
        printed = read_chart(PRINTED.read_text()).bars
        self.assertEqual([bar.hits for bar in kept], [bar.hits for bar in printed])

    def test_a_photograph_is_corrected_by_hand_by_mouse_and_by_keys(self):
        weir = next(one for one in printed_pages() if one.name == "weir_lane")
        photograph = pack(made_worse(weir.picture, PHOTOGRAPHS["on a table"], 2))
        page = self.upload("photo.jpg", photograph)
        page.get_by_role("link", name="the page", exact=True).click()
        edges = page.locator(".bar-edge")
        expect(edges).to_have_count(20)
        edge = page.get_by_label("line 1, bar line 2", exact=True)
        edge.focus()
        page.keyboard.press("Delete")
        expect(edges).to_have_count(19)
        page.get_by_role("button", name="undo").click()
        expect(edges).to_have_count(20)
        page.get_by_label("line 1, bar line 2", exact=True).focus()
        page.keyboard.press("ArrowRight")
        bar = page.locator("#by-hand .printed").first
        bar.click(position={"x": bar.bounding_box()["width"] / 2, "y": 10})
        expect(edges).to_have_count(21)
        # All bars are read anew: on a busy machine that takes as long as a page does.
        page.get_by_role("button", name="Keep these bars").click(timeout=60_000)
        page.wait_for_url("**/printed/*/")
        self.assertEqual(len(Scan.objects.get().bars), 17)

    def test_a_page_without_a_staff_is_drawn_by_hand(self):
        words = pack(
            255 * (printed_pages()[0].picture[:700, :2000] > 300).astype("uint8") + 255
        )
        page = self.upload("white.png", words)
        expect(page.locator("#by-hand")).to_be_visible()
        box = page.locator("#by-hand").bounding_box()
        page.mouse.move(box["x"] + 100, box["y"] + 100)
        page.mouse.down()
        page.mouse.move(box["x"] + 500, box["y"] + 140)
        page.mouse.up()
        expect(page.locator(".bar-edge")).to_have_count(2)
        page.get_by_role("button", name="Keep these bars").click(timeout=60_000)
        page.locator("#text").fill("kick 1")
        page.get_by_role("button", name="Right, next").click()
        page.wait_for_url("**/look/")


class OnATelephone(BrowserTest):
    width, height, by_touch = 390, 844, True

    def test_a_bar_is_typed_under_its_picture(self):
        make_teacher()
        self.log_in()
        page = self.go("/printed/new/")
        file = {"name": "a.png", "mimeType": "image/png"}
        file["buffer"] = (HERE / "weir_lane.png").read_bytes()
        page.locator("input[type=file]").set_input_files(file)
        page.get_by_role("button", name="Read the page").tap()
        page.get_by_role("button", name="Right, read the bars").tap(timeout=60_000)
        page.get_by_role("link", name="go on bar by bar").tap()
        page.locator("#text").wait_for()
        page.locator("#text").fill("kick 1")
        page.get_by_role("button", name="Right, next").tap()
        expect(page.get_by_role("heading", level=1)).to_have_text("Bar 2")
        wide = page.evaluate("document.documentElement.scrollWidth")
        self.assertLessEqual(wide, 390)
