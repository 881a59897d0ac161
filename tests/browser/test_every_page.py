"""Every page of the demo studio, at a desk and on a phone: accessible by axe-core, inside its
width and its budget by ruler, quiet when it is opened and when something is put into it.
"""

from django.urls import reverse
from playwright.sync_api import expect

from bench.surface import SIZES
from tests.browser.base import AXE, BrowserTest
from tests.browser.budgets import over_budget
from tests.browser.demo_pages import by_room
from tests.demo_once import load_demo
from wren_ladder.demo import studio
from wren_ladder.studio.pieces.models import Piece
from wren_ladder.studio.plans.models import Plan

# Only what may come of a narrower page.
OF_ROOM = (
    "{runOnly: ['scrollable-region-focusable', 'target-size', 'label', 'link-name',"
    " 'button-name', 'select-name', 'aria-hidden-focus', 'skip-link', 'bypass']}"
)
OF_COLOUR = "{runOnly: ['color-contrast']}"
SWAPPING = "a[hx-get], button[hx-get], select[hx-get]"
MOST_SWAPS = 4  # a page; its parts are made alike
# WCAG 2.2, success criterion 2.5.5: 44 px, but for links within a sentence or a table.
TOO_LOW = """() => {
  const all = "a, button, input:not([type=hidden]), select, textarea, summary";
  const unseen = "svg, .visually-hidden, .visually-hidden-focusable";
  const inText = (one) => one.matches("a") && one.closest("p, td, th, h1, h2, .head > span")
    && getComputedStyle(one).display === "inline";
  const tick = "[type=checkbox], [type=radio]";
  const height = (one) =>
    (one.matches(tick) ? one.labels[0] || one : one).getBoundingClientRect().height;
  return [...document.querySelectorAll(all)]
    .filter((one) => one.checkVisibility() && !one.closest(unseen) && !inText(one))
    .filter((one) => height(one) < 43.5)
    .map((one) => `${one.outerHTML.slice(0, 120)}: ${height(one)}`);
}"""


class EveryPage(BrowserTest):
    """A room of the studio in each test, so that several processes share them."""

    tests_apart = True

    def setUp(self):
        super().setUp()
        load_demo()

    def faults(self, options: str) -> list[str]:
        """What axe-core calls serious or critical: WCAG 2.1 A and AA."""
        if not self.page.evaluate("'axe' in window"):
            # Staves are hidden from screen readers and said in words beside them; emptied, for
            # they are very many paths, all of which would be walked over.
            staves = "document.querySelectorAll('.staff-svg')"
            self.page.evaluate(f"for (const one of {staves}) one.replaceChildren()")
            self.page.evaluate(AXE.read_text())
        found = self.page.evaluate(f"axe.run({{exclude: ['.staff-svg']}}, {options})")
        return [
            f"{fault['id']}: {node['html'][:160]}: {node['any'][0]['message'][:160]}"
            if node["any"]
            else f"{fault['id']}: {node['html'][:160]}"
            for fault in found["violations"]
            if fault["impact"] in ("serious", "critical")
            for node in fault["nodes"][:3]
        ]

    def check(self, room: str) -> None:
        self.log_in(studio.USER)
        pages = by_room()[room]
        for size, (width, height) in SIZES.items():
            self.page.set_viewport_size({"width": width, "height": height})
            for name, address in pages.items():
                with self.subTest(name, size=size):
                    self.go(address)
                    self.assertRegex(self.page.title(), r"^\S.+ · Wren Ladder$")
                    self.assertEqual(over_budget(self.page, name, size), [])
                    if size == "laptop":
                        self.at_a_desk()
                    else:
                        self.on_a_phone(address)
                    self.assertEqual(self.complaints, [])

    def at_a_desk(self) -> None:
        self.assertEqual(self.faults("{resultTypes: ['violations']}"), [])
        self.page.emulate_media(color_scheme="dark", reduced_motion="reduce")
        self.assertEqual(self.faults(OF_COLOUR), [])
        self.page.emulate_media(color_scheme="light", reduced_motion="no-preference")
        self.swap()

    def swap(self) -> None:
        """What is put into a page later obeys the content policy too."""
        many = self.page.locator(SWAPPING).count()
        for place in range(min(many, MOST_SWAPS)):
            one = self.page.locator(SWAPPING).nth(place)
            if one.is_visible():
                is_choice = one.evaluate("e => e.tagName") == "SELECT"
                one.dispatch_event("change" if is_choice else "click")
                self.page.wait_for_load_state("networkidle")

    def on_a_phone(self, address: str) -> None:
        for width in (390, 360):
            self.page.set_viewport_size({"width": width, "height": SIZES["phone"][1]})
            wide = self.page.evaluate("document.documentElement.scrollWidth")
            self.assertLessEqual(wide, width)
        self.page.set_viewport_size(dict(zip(("width", "height"), SIZES["phone"], strict=True)))
        if address.startswith(("/students/", "/lessons/", "/s/")):
            self.assertEqual(self.page.evaluate(TOO_LOW), [])
        self.assertEqual(self.faults(OF_ROOM), [])

    def test_the_log_in(self):
        self.go("/log-in/")
        self.assertEqual(self.faults("{resultTypes: ['violations']}"), [])

    def test_lists_and_uploads(self):
        self.check("lists and uploads")

    def test_a_piece(self):
        self.check("a piece")

    def test_playing_and_writing(self):
        self.check("playing and writing")

    def test_printed_pages(self):
        self.check("printed pages")

    def test_the_workshop(self):
        self.check("the workshop")

    def test_exercises(self):
        self.check("exercises")

    def test_students(self):
        self.check("students")

    def test_lessons(self):
        self.check("lessons")

    def test_the_day(self):
        self.check("the day")

    def test_exams(self):
        self.check("exams")

    def test_the_phone(self):
        self.check("the phone")

    def test_plans(self):
        self.check("plans")

    def test_plans_changed(self):
        self.check("plans changed")

    def test_steps(self):
        self.check("steps")

    def test_takes(self):
        self.check("takes")

    def test_log_ins_and_words(self):
        self.check("log-ins and words")

    def test_the_house(self):
        self.check("the house")


class Whole(BrowserTest):
    """What only a browser can tell of the drawings."""

    def setUp(self):
        super().setUp()
        load_demo()
        self.log_in(studio.USER)

    def test_every_id_on_the_wall_is_there_once_and_every_reference_is_kept(self):
        for piece in Piece.objects.filter(owner__username=studio.USER):
            page = self.go(piece.get_absolute_url())
            with self.subTest(piece.title):
                twice, lost = page.evaluate(
                    """() => {
                      const ids = [...document.querySelectorAll('[id]')].map((e) => e.id);
                      const uses = [...document.querySelectorAll('use')].map(
                        (e) => e.getAttribute('href').slice(1));
                      return [ids.filter((id, i) => ids.indexOf(id) !== i),
                              uses.filter((id) => !ids.includes(id))];
                    }"""
                )
                self.assertEqual((twice, lost), ([], []))
                first = page.locator(".house").bounding_box()
                self.assertEqual(first["y"], 0)  # the glyphs in front of it take no room

    def test_the_count_stands_under_its_notes(self):
        plan = Plan.objects.get(student__name="Tobi Marsh")
        step = plan.steps.filter(first__isnull=False).first()
        page = self.go(reverse("step", args=[step.pk]))
        staff = page.locator("figure.score svg").first
        expect(staff).to_be_visible()
        heads = staff.locator("g.note")
        first = heads.nth(0).locator("use").first.bounding_box()
        one = staff.locator("text", has_text="1").first.bounding_box()
        self.assertLess(abs(first["x"] - one["x"]), 14)
        self.assertGreater(one["y"], first["y"])
