"""The page of a bar by keys, and the teaching style's example, in a browser."""

from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.studio.base import make_piece, make_teacher

PADDLES = "bar 1\nsnare 16ths 1-2, accent 1 2\nkick 3\nbar 2\nsnare accent 1"


class BarPage(BrowserTest):
    def setUp(self):
        super().setUp()
        self.piece = make_piece(make_teacher(), PADDLES)
        self.log_in()
        self.go(f"/pieces/{self.piece.pk}/bars/0/all/")

    def hands(self):
        return "".join(self.page.locator(".flips b").all_text_contents())

    def test_schools_hands_and_parts_by_key(self):
        expect(self.page.locator(".spoken")).to_contain_text("1 e & a")
        self.page.keyboard.press("4")
        expect(self.page.locator(".facts-list")).to_contain_text("single paradiddle, 2 times")
        self.assertEqual(self.hands(), "RLRRLRLL")
        self.page.keyboard.press("l")
        expect(self.page.locator(".flips b").first).to_have_text("L")
        self.page.keyboard.press("t")
        expect(self.page.locator(".spoken")).to_contain_text("ta ka di mi")
        self.page.keyboard.press("f")
        expect(self.page.locator(".spoken")).to_have_text("ta ka di mi ta ka di mi")
        self.page.keyboard.press("x")
        expect(self.page.locator("section.wide-bar .note")).to_have_count(10)

    def test_a_stroke_is_flipped_by_a_press_and_flipped_back_by_a_key(self):
        self.assertEqual(self.hands()[:2], "RL")
        self.page.locator('#flip .stroke[data-at="1/4"]').click()
        expect(self.page.get_by_text("The hand is written on the page now")).to_be_visible()
        self.assertEqual(self.hands()[:2], "RR")
        self.page.keyboard.press("z")
        expect(self.page.get_by_text("The hand is as it was.")).to_be_visible()
        expect(self.page.locator(".flips b").nth(1)).to_have_text("L")
        self.assertIsNone(self.piece.chart().bars[0].hits[1].hand)

    def test_the_teaching_styles_example_follows_every_choice(self):
        page = self.go("/teaching/")
        example = page.locator("#example")
        expect(example).not_to_contain_text("ka")
        page.get_by_label("Counting").select_option("takadimi")
        expect(example).to_contain_text("ka")
        page.get_by_text("Another bar").click()
        page.get_by_label("Example bar").fill("hatt 8ths")
        page.get_by_label("Example bar").press("Tab")
        expect(example).to_contain_text("did you mean hat?")
        page.get_by_label("Example bar").fill("snare 1*")
        page.get_by_label("Example bar").press("Tab")
        page.get_by_label("Counting").select_option("words")
        expect(example).to_contain_text("yel")
        page.get_by_role("button", name="Keep", exact=True).click()
        expect(page.get_by_text("Every page counts and sticks that way")).to_be_visible()
