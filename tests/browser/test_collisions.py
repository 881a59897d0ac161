"""What is drawn of a chart does not stand on something else: words, numbers, signs, heads."""

from parameterized import parameterized

from tests.browser.base import BrowserTest
from tests.demo_once import load_demo
from wren_ladder.demo import studio
from wren_ladder.studio.pieces.models import Piece

ROOM = 1  # pixels that two boxes may share
# Every pair of words, or of a word and a note's head, whose boxes lie over each other.
COLLIDING = """room => {
    const found = [];
    for (const svg of document.querySelectorAll("svg.staff-svg")) {
        const boxes = one => [...svg.querySelectorAll(one)].map(
            element => [element, element.getBoundingClientRect()]);
        // A letter's box reaches from its line to the next: the ink is the middle of it.
        const inked = ({left, right, top, bottom, height}) => (
            {left, right, top: top + height * 0.22, bottom: bottom - height * 0.24});
        const words = boxes("text").filter(([element, box]) => element.textContent.trim())
            .map(([element, box]) => [element, inked(box)]);
        const signs = boxes("use");
        const over = (a, b) => Math.min(a.right, b.right) - Math.max(a.left, b.left) > room &&
            Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top) > room;
        words.forEach(([one, box], place) => {
            for (const [other, there] of words.slice(place + 1))
                if (over(box, there)) found.push(one.textContent + " on " + other.textContent);
            for (const [, there] of signs)
                if (over(box, there)) found.push(one.textContent + " on a sign");
        });
    }
    return found;
}"""


class Charts(BrowserTest):
    tests_apart = True

    def setUp(self):
        super().setUp()
        load_demo()
        self.log_in(studio.USER)

    def test_the_ruler_finds_what_stands_on_something(self):
        piece = Piece.objects.filter(kind="piece").first()
        page = self.go(f"/pieces/{piece.pk}/score/?shown=1&counts=on")
        page.evaluate("""() => {
            const [one, other] = document.querySelectorAll("svg.staff-svg text");
            for (const name of ["x", "y"]) one.setAttribute(name, other.getAttribute(name));
        }""")
        self.assertNotEqual(page.evaluate(COLLIDING, ROOM), [])

    @parameterized.expand(["", "?shown=1&counts=on&hands=on", "?shown=1"])
    def test_nothing_stands_on_anything_else_in_the_demo_charts(self, shown):
        for piece in Piece.objects.filter(kind="piece"):
            page = self.go(f"/pieces/{piece.pk}/score/{shown}")
            with self.subTest(piece.title):
                self.assertEqual(page.evaluate(COLLIDING, ROOM), [])
