"""What may stand in the first view of a page: the budgets of the stand
(`docs/architecture.md`), and what a page has over them."""

from playwright.sync_api import Page

from bench.surface import surface

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
    "breakdown, a step": (18, 18, 200, 160),
    "breakdown, a bar": (18, 18, 200, 160),
}
OTHER = (25, 25, 250, 250)
WORKSHOP = (8, 2, 30, 8)  # controls, and for each card; words, and for each card
TO_BE_READ = ("what is kept",)  # a text, in words that the law wants
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


def over_budget(page: Page, name: str, size: str) -> list[str]:
    """What is too much in the first view of this page, as it stands in the browser now."""
    if name in TO_BE_READ:
        return []
    found, budget = surface(page), BUDGETS.get(name, OTHER)
    controls, words = budget[size == "phone"], budget[2 + (size == "phone")]
    if found.cards > 1:
        few, more, said, each = WORKSHOP
        controls, words = few + more * found.cards, said + each * found.cards
    over = []
    if found.controls > controls or found.words > words:
        over.append(f"{name}, {size}: {found}, at most {controls} and {words}")
    if name in WITH_A_KEY and found.filled != 1:
        over.append(f"{name}, {size}: {found}, one filled key in view")
    if page.evaluate("document.documentElement.scrollWidth > innerWidth"):
        over.append(f"{name}, {size}: wider than the screen")
    return over
