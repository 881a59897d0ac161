"""Takes the pictures of the README from a running demo, whose address is given.

Needs the test requirements (Playwright) and Debian's Chromium.
"""

import shutil
import sys
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

HERE = Path(__file__).parent
WIDE, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 800}


def main(address: str) -> None:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path=shutil.which("chromium"),
            args=["--no-sandbox", "--autoplay-policy=no-user-gesture-required"],
        )
        page = browser.new_page(viewport=WIDE)
        page.goto(f"{address}/log-in/")
        page.get_by_label("Username").fill("demo")
        page.get_by_label("Password").fill("wren-demo")
        page.get_by_role("button", name="Log in").click()
        take(page, "desk")
        students = f"{address}/students/"
        page.goto(students)
        page.get_by_role("link", name="Mirrorball Quay").click()
        take(page, "ladder")
        page.get_by_role("link", name="breakdown").click()
        take(page, "breakdown")
        page.locator(".row-step").get_by_role("link", name="Bar 5", exact=True).click()
        page.get_by_role("link", name="Open", exact=True).click()
        take(page, "step")
        page.goto(students)
        page.get_by_role("link", name="Ruben Vale").click()
        ruben = page.url
        take(page, "student")
        page.get_by_role("link", name="Begin the lesson").click()
        take(page, "lesson-mode")
        page.set_viewport_size(PHONE)
        page.reload()
        page.keyboard.press("]")
        take(page, "lesson-phone")
        page.set_viewport_size(WIDE)
        page.goto(f"{ruben}lesson/end/")
        take(page, "lesson-end")
        page.goto(f"{address}/lessons/")
        take(page, "timetable")
        page.goto(f"{address}/pieces/")
        page.get_by_role("link", name="Harbour Wall Shuffle").click()
        take(page, "piece")
        page.get_by_role("link", name="Road map").click()
        take(page, "road-map")
        page.goto(students)
        page.get_by_role("link", name="Long Pier Signals").click()
        page.get_by_role("link", name="breakdown").click()
        page.locator("#bar-16").click()
        page.get_by_role("link", name="Change what is written").click()
        page.goto(f"{address}/pieces/")
        page.get_by_role("link", name="Fernhill Street Cadence").click()
        piece = page.url
        page.goto(f"{piece}bars/0/all/?shown=1&sticking=rudiment")
        take(page, "bar")
        page.goto(f"{address}/workshop/")
        page.locator(".whom > summary").click()
        names = page.locator("#whom option").all_inner_texts()
        page.locator("#whom").select_option(next(n for n in names if "Wilma" in n))
        page.get_by_role("button", name="Choose").click()
        page.get_by_role("link", name="Grooves", exact=True).click()
        page.locator("#cell").get_by_role("button", name="Take").first.click()
        page.locator(".tray-things li").wait_for()
        take(page, "groove-board")
        page.get_by_role("button", name="back").click()  # from the tray
        page.goto(f"{address}/takes/1/")
        page.get_by_role("button", name="Hear the take").wait_for()
        take(page, "take")
        page.goto(f"{address}/pieces/")
        page.get_by_text("parts came in and are not kept").click()
        page.get_by_role("link", name="boathouse_take.mid", exact=True).click()
        take(page, "import")
        page.goto(f"{address}/pieces/")
        page.get_by_text("parts came in and are not kept").click()
        page.get_by_role("link", name="go on with it").click()
        take(page, "printed-page")
        page.goto(f"{address}/pieces/")
        page.get_by_role("link", name="Long Pier Signals").click()
        page.get_by_role("link", name="Edit").click()
        page.locator("#edit-card-10").click()
        page.get_by_role("heading", name="Bar 10").wait_for()
        page.locator("#grid").focus()
        page.keyboard.press("ArrowRight")
        page.keyboard.press("ArrowRight")
        take(page, "editor")
        page.goto(students)
        page.get_by_role("link", name="Ines Okafor").click()
        page.get_by_role("link", name="The exam is on").click()
        take(page, "exam")
        page.go_back()
        page.set_viewport_size(PHONE)
        page.locator("#more > summary").click()
        page.get_by_role("link", name="See it").click()
        things = page.locator(".lesson-way a")
        if things.count() > 1:  # today may be a day of rest
            things.nth(1).click()
        take(page, "link-phone")
        browser.close()


def take(page: Page, name: str) -> None:
    page.wait_for_load_state("networkidle")
    page.wait_for_timeout(300)
    page.screenshot(path=HERE / f"{name}.png")


if __name__ == "__main__":
    main(sys.argv[1].rstrip("/"))
