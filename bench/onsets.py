"""How well the microphone's onsets are found, over mixes made here: own and other drum sounds,
a click, noise, reverb, two sample rates.

    python -m bench.onsets ADDRESS

ADDRESS is that of a running demo.
"""

import re
import shutil
import sys

from playwright.sync_api import sync_playwright

from tests import mixes


def main(address: str) -> None:
    with sync_playwright() as tools:
        browser = tools.chromium.launch(
            executable_path=shutil.which("chromium"), args=["--no-sandbox"]
        )
        page = browser.new_page()
        page.goto(f"{address}/log-in/")
        page.get_by_label("Username").fill("demo")
        page.get_by_label("Password").fill("wren-demo")
        page.get_by_role("button", name="Log in").click()
        page.wait_for_url(f"{address}/")
        page.goto(f"{address}/workshop/")
        page.wait_for_function("() => window.wren && wren.rehearse")
        player = page.locator("script[src*='room/player.js']").get_attribute("src")
        worklet = address + re.sub(r"player\.js.*", "onsets.js", player)
        if len(sys.argv) > 2:
            worklet = address + sys.argv[2]
        print(f"{'sounds':8} {'drums':20} {'room':7}  rate  recall  nobody's")
        for whose, drums, room, rate in mixes.cases():
            found = mixes.heard(page, worklet, whose, drums, room, rate)
            shares = f"{found.recall:6.1%}  {found.false:6.1%}"
            print(f"{whose:8} {drums:20} {room:7} {rate:5}  {shares}")
        browser.close()


if __name__ == "__main__":
    main(sys.argv[1])
