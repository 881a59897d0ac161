"""What stands in the first view of every page, against the budgets of the stand
(`docs/architecture.md`): controls, words, one filled key, and where it is."""

from bench.surface import SIZES, surface
from tests.browser.base import BrowserTest
from tests.browser.test_every_page import addresses
from tests.demo_once import load_demo
from wren_ladder.demo import studio

# (controls on a laptop, on a phone; words on a laptop, on a phone)
BUDGETS = {
    "lesson mode": (12, 9, 60, 40),
    "desk": (6 + 3 * 4, 6 + 3 * 4, 40 + 45 * 4, 40 + 45 * 4),  # four lessons at the most
    "end of the lesson": (
        8 + 3 * 6,
        8 + 3 * 6,
        60 + 8 * 6,
        60 + 8 * 6,
    ),  # six lines at the most
    "student": (16, 16, 180, 180),
    "give to one": (8, 8, 70, 70),
    "another lesson": (8, 8, 70, 70),
    "tempos": (8, 8, 70, 70),
    "new student": (8, 8, 70, 70),
    "report": (8, 8, 70, 70),
    "bar": (18, 18, 160, 160),
    "plan": (18, 18, 200, 160),  # of a piece of sixteen bars
    "breakdown": (18, 18, 200, 160),
}
OTHER = (25, 25, 250, 250)
# Whose first view holds more than it should, to be made anew, and what is too much in it.
NOT_YET = {
    "edit piece": "the drums, the grid and the tools of a bar",
    "vocabulary": "the bars of every word",
    "workshop": "two keys under every card",
    "fills of the shelf": "two keys under every card",
    "groove board": "a hundred cells",
    "accents": "two keys under every card",
    "rules for takes": "a table of numbers",
    "step": "the practice room's keys",
    "week": "seven days in words",
    "two schools": "two plans in words",
    "revise": "every change in words",
    "what is kept": "it is to be read",
    "breakdown, a step": "the step's own fields",
    "breakdown, a bar": "the bar's own fields",
}
# Where one comes to press a key, one is filled, and it is seen at once.
WITH_A_KEY = (
    "lesson mode",
    "end of the lesson",
    "student",
    "new student",
    "give to one",
    "report",
    "tempos",
    "another lesson",
    "mock exam",
)


class FirstView(BrowserTest):
    def setUp(self):
        super().setUp()
        load_demo()

    def measured(self):
        self.log_in(studio.USER, studio.PASSWORD)
        for size, (width, height) in SIZES.items():
            self.page.set_viewport_size({"width": width, "height": height})
            for name, address in addresses().items():
                if name not in NOT_YET:
                    self.go(address)
                    yield name, size, surface(self.page)
        self.complaints.clear()  # one address is nowhere

    def test_every_page_keeps_its_budget(self):
        over = []
        for name, size, found in self.measured():
            budget = BUDGETS.get(name, OTHER)
            controls, words = budget[size == "phone"], budget[2 + (size == "phone")]
            if found.controls > controls or found.words > words:
                over.append((name, size, found, (controls, words)))
            if name in WITH_A_KEY and found.filled != 1:
                over.append((name, size, found, "one filled key in view"))
        self.assertEqual(over, [])
