"""How much stands in the first view of a page: controls, words, and where its main key is.

    python -m bench.surface ADDRESS [PATH ...]

ADDRESS is that of a running demo. What is meant by a control, a word and the budgets:
`docs/architecture.md`, "The stand". The house's navigation, drawings, the bars of a wall,
the steps of a plan and the cells of the groove board are not counted.
"""

import shutil
import sys
from dataclasses import dataclass

from playwright.sync_api import Page, sync_playwright

SIZES = {"laptop": (1280, 800), "phone": (390, 844)}
COUNT = """() => {
  const view = { width: innerWidth, height: innerHeight };
  const seen = (box) => box.width > 1 && box.height > 1 && box.bottom > 0 && box.right > 0
    && box.top < view.height && box.left < view.width;
  const out = ".rail, .rooms, svg, .skip, .visually-hidden, [hidden], script, style, template,"
    + "option";
  const apart = (one) => one.closest(out);
  const shown = (one) => one.checkVisibility({ checkOpacity: true, checkVisibilityCSS: true });
  const keys = "a[href], button, input:not([type=hidden]), select, textarea, summary";
  const things = ".card-bar, .edit-card, .row-step, .groove-cell"; // listed, not asked
  const controls = [...document.querySelectorAll(keys)].filter((one) =>
    !one.disabled && !one.closest(things) && !apart(one) && shown(one)
    && seen(one.getBoundingClientRect()));
  let words = 0;
  const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  while (texts.nextNode()) {
    const text = texts.currentNode;
    if (!text.data.trim() || apart(text.parentElement) || !shown(text.parentElement)) continue;
    const range = document.createRange();
    range.selectNodeContents(text);
    if (![...range.getClientRects()].some(seen)) continue;
    words += (text.data.match(/[\\p{L}\\p{N}]+/gu) || []).length;
  }
  const keyed = [...document.querySelectorAll(".btn-primary")];
  const main = keyed.filter((one) => !apart(one) && shown(one));
  const near = main.filter((one) => seen(one.getBoundingClientRect())).length;
  const key = main.length ? Math.round(main[0].getBoundingClientRect().bottom) : null;
  const cards = [...document.querySelectorAll(".exercise")].filter((one) =>
    seen(one.getBoundingClientRect())).length;
  return { controls: controls.length, words, filled: near, key, cards };
}"""


@dataclass(frozen=True, slots=True)
class Surface:
    """Of the first view; ``key`` is how far down the page its first filled key ends, in pixels,
    None where there is none; ``filled`` how many filled keys are in view, ``cards`` how many
    exercises of the workshop."""

    controls: int
    words: int
    filled: int
    key: int | None
    cards: int


def surface(page: Page) -> Surface:
    """Of a page that is open and not scrolled."""
    return Surface(**page.evaluate(COUNT))


def main(address: str, paths: list[str]) -> None:
    with sync_playwright() as tools:
        browser = tools.chromium.launch(
            executable_path=shutil.which("chromium"), args=["--no-sandbox"]
        )
        print(f"{'path':34} {'size':7} controls words filled  key ends at")
        for size, (width, height) in SIZES.items():
            context = browser.new_context(viewport={"width": width, "height": height})
            page = context.new_page()
            page.goto(f"{address}/log-in/")
            if page.get_by_label("Username").count():
                page.get_by_label("Username").fill("demo")
                page.get_by_label("Password").fill("wren-demo")
                page.get_by_role("button", name="Log in").click()
                page.wait_for_url(f"{address}/")
            for path in paths or ["/"]:
                page.goto(address + path)
                found = surface(page)
                print(
                    f"{path:34} {size:7} {found.controls:8} {found.words:5} {found.filled:6}"
                    f"  {found.key}"
                )
        browser.close()


if __name__ == "__main__":
    main(sys.argv[1].rstrip("/"), sys.argv[2:])
