"""What pages weigh on the way and when they are painted, on a slow phone's processor and line.

    python -m bench.travel http://127.0.0.1:8765

on a running demo; needs the test requirements (Playwright) and Debian's Chromium. Prints;
asserts nothing.
"""

import shutil
import sys

from playwright.sync_api import Browser, sync_playwright

from bench.points import text_of

SLOWER = 4  # times, by the browser's own throttling
LINE = 1.6e6 / 8  # bytes a second
LATENCY = 150  # milliseconds
SHIFTS = """() => { window.shift = 0; new PerformanceObserver((list) => {
  for (const one of list.getEntries()) if (!one.hadRecentInput) window.shift += one.value;
}).observe({ type: "layout-shift", buffered: true });
new PerformanceObserver((list) => { window.largest = list.getEntries().at(-1).startTime; })
  .observe({ type: "largest-contentful-paint", buffered: true }); }"""
PAINTED = """() => [performance.getEntriesByName("first-contentful-paint")[0]?.startTime,
  window.largest, window.shift]"""


def main(address: str) -> None:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path=shutil.which("chromium"), args=["--no-sandbox"]
        )
        for name, where, wide in places(browser, address):
            measure(browser, address, name, where, wide)
        browser.close()


def log_in(context, address: str):
    page = context.new_page()
    page.goto(f"{address}/log-in/")
    page.get_by_label("Username").fill("demo")
    page.get_by_label("Password").fill("wren-demo")
    page.get_by_role("button", name="Log in").click()
    page.locator(".desk-head h1").wait_for()
    return page


def places(browser: Browser, address: str) -> list[tuple[str, str, int]]:
    """(name, address, width) of what is measured, found as a teacher finds it."""
    context = browser.new_context()
    page = log_in(context, address)
    page.goto(f"{address}/students/")
    page.get_by_role("link", name="Ines Okafor").first.click()
    student = page.url.rstrip("/").removeprefix(address)
    page.goto(f"{address}{student}/link/")
    phone = page.url.removeprefix(address)
    page.goto(f"{address}/pieces/")
    long = page.locator("td a, li a", has_text="Harbour Wall").first.get_attribute("href")
    plans = [one.get_attribute("href") for one in page.locator("a[href^='/plans/']").all()]
    broken_down = break_down(page, address)
    context.close()
    found = [("Desk", "/", 1280), ("lesson mode", f"{student}/lesson/", 1280)]
    found += [("a long piece", long, 1280)]
    found += [("breakdown", f"{plans[0].split('?')[0]}steps/", 1280)] if plans else []
    found += [("breakdown of 100 different bars", broken_down, 1280)]
    return [*found, ("the student's phone", phone, 390)]


def break_down(page, address: str) -> str:
    """A piece of 100 different bars, typed and broken down as a teacher does it."""
    page.goto(f"{address}/pieces/new/")
    page.get_by_label("Title").fill("A hundred bars")
    page.get_by_label("Bars, as you say them").fill(text_of(100))
    page.get_by_role("button", name="Keep the piece").click()
    page.get_by_role("button", name="Break it down").click(timeout=60_000)
    page.wait_for_url("**/steps/**", timeout=60_000)
    return page.url.removeprefix(address)


def measure(browser: Browser, address: str, name: str, where: str, wide: int) -> None:
    """Of a first visit: nothing is kept in the browser but the log-in."""
    context = browser.new_context(viewport={"width": wide, "height": 800})
    log_in(context, address).close()
    page = context.new_page()
    line = context.new_cdp_session(page)
    line.send("Network.enable")
    line.send("Network.setCacheDisabled", {"cacheDisabled": True})
    line.send(
        "Network.emulateNetworkConditions",
        {"offline": False, "latency": LATENCY, "downloadThroughput": LINE,
         "uploadThroughput": LINE},
    )  # fmt: skip
    line.send("Emulation.setCPUThrottlingRate", {"rate": SLOWER})
    sent = []
    line.on("Network.loadingFinished", lambda one: sent.append(one["encodedDataLength"]))
    page.add_init_script(f"({SHIFTS})()")
    page.goto(address + where, wait_until="load")
    page.wait_for_timeout(1500)
    first, largest, shift = page.evaluate(PAINTED)
    print(
        f"{name}: painted after {first or 0:.0f} ms, largest {largest or 0:.0f} ms, shifted by "
        f"{shift:.3f}, {sum(sent) / 1000:.0f} KB in {len(sent)} files",
        flush=True,
    )
    context.close()


if __name__ == "__main__":
    main(sys.argv[1])
