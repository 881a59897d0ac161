"""Figures of the practice room, in a real browser on a running demo whose address is given.

Needs the test requirements (Playwright) and Debian's Chromium. Prints; asserts nothing.
"""

import gzip
import shutil
import sys
from pathlib import Path
from statistics import stdev

from playwright.sync_api import Page, sync_playwright

STATIC = Path(__file__).parents[1] / "wren_ladder/studio/static/wren"
FIRST_SOUND = """async () => {
  const key = performance.now();
  const keys = [...document.querySelectorAll(".room-start")];
  keys.find((one) => one.offsetParent).click();
  const soon = () => new Promise((go) => setTimeout(go, 1));
  while (!wren.playing || !wren.playing.marks.length) await soon();
  const { audio } = wren.playing.marks[0];
  return performance.now() - key + 1000 * (audio - wren.playing.context.currentTime);
}"""
LONG = """() => { window.long = []; new PerformanceObserver((list) => long.push(
  ...list.getEntries().map((one) => one.duration))).observe({ type: "longtask" }); }"""
RESOURCES = """() => [...new Set([location.href,
  ...performance.getEntriesByType("resource").map((one) => one.name)])]"""
BESIDE = """() => { const { tick } = wren.Along.prototype;
  wren.Along.prototype.tick = function () { window.along = this; tick.call(this); }; }"""
OFF = """() => { window.off = []; window.watch = setInterval(() => {
  const { stretch, element } = window.along ? along.sounding : {}, { now } = wren;
  if (!stretch || stretch.at > now || element.paused) return;
  const at = stretch.second + (now - stretch.at) * stretch.rate;
  if (at < stretch.until) off.push(1000 * Math.abs(at - element.currentTime));
}, 1000); }"""
LOOP = """([first, last]) => {
  const of = (part) => document.querySelector(`[data-part=${part}]`);
  of("first").value = first;
  of("last").value = last ?? of("last").options.length - 1;
  of("last").dispatchEvent(new Event("input", { bubbles: true })); }"""
STAMPS = """async () => { const rows = [];
  for (let n = 0; n < 300; n += 1) {
    const stamp = performance.now();
    rows.push(wren.heardAt(stamp) - stamp / 1000);
    await new Promise((go) => setTimeout(go, 7 + (n % 13)));
  }
  return rows; }"""
SLOWER = 4  # times, by the browser's own throttling
LISTENED = 15  # seconds
BESIDE_FOR, LOOPED = 300, 60  # seconds that a recording is watched beside the notes


def main(address: str) -> None:
    weigh()
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path=shutil.which("chromium"),
            args=["--no-sandbox", "--autoplay-policy=no-user-gesture-required"],
        )
        page = browser.new_page(viewport={"width": 390, "height": 844})
        page.goto(f"{address}/log-in/")
        page.get_by_label("Username").fill("demo")
        page.get_by_label("Password").fill("wren-demo")
        page.get_by_role("button", name="Log in").click()
        page.goto(f"{address}/pieces/")
        page.get_by_role("link", name="Harbour Wall Shuffle").click()
        page.get_by_role("link", name="Practice room").click()
        measure(page, "the room of a whole piece")
        page.goto(f"{address}/pieces/")
        page.get_by_role("link", name="Mirrorball Quay").click()
        page.get_by_role("link", name="Practice room").click()
        page.get_by_role("link", name="With the recording").click()
        page.locator(".room-start").wait_for()
        beside(page)
        page.goto(f"{address}/students/")
        page.get_by_role("link", name="Ines Okafor").first.click()
        page.goto(f"{page.url.rstrip('/')}/link/")
        first_view(page)
        page.locator(".lesson-way a", has_text="Bar").first.click()
        measure(page, "the student's day")
        browser.close()


def beside(page: Page) -> None:
    """How far a recording is from the notes, asked every second; how even the stamps of live
    strokes are against the audio clock."""
    page.evaluate(BESIDE)
    bpm = int(page.get_by_label("Beats a minute").input_value())
    for share in (50, 100, 110):
        for first, last, said in (("0", None, "the whole piece"), ("4", "4", "a bar round")):
            page.get_by_label("Beats a minute").fill(str(round(bpm * share / 100)))
            page.evaluate(
                LOOP,
                [first, last],
            )
            seconds = BESIDE_FOR if share == 100 and last is None else LOOPED
            page.locator(".room-start").click()
            page.evaluate(OFF)
            page.wait_for_timeout(1000 * seconds)
            off = sorted(page.evaluate("() => { clearInterval(watch); return off; }"))
            page.evaluate("wren.stop()")
            print(
                f"a recording at {share} %, {said}, {len(off)} times in {seconds} s: "
                f"{off[len(off) // 2]:.0f} ms off in the middle, {off[-1]:.0f} at most"
            )
    page.locator(".room-start").click()
    page.wait_for_timeout(2000)
    print(f"stamps of live strokes: sd {1000 * stdev(page.evaluate(STAMPS)):.2f} ms")
    page.evaluate("wren.stop()")


def weigh() -> None:
    scripts = [*STATIC.glob("room/*.js"), STATIC / "entries.js"]
    sounds = [*STATIC.glob("sounds/*.flac"), *STATIC.glob("words/*.flac")]
    for name, files in (("scripts", scripts), ("sounds and words", sounds)):
        print(f"{name}: {sum(one.stat().st_size for one in files) / 1000:.0f} KB")
    packed = sum(len(gzip.compress(one.read_bytes())) for one in scripts)
    print(f"scripts as they are sent: {packed / 1000:.0f} KB")


def first_view(page: Page) -> None:
    """What a new visitor is sent before any sound, as it travels."""
    page.wait_for_load_state("networkidle")
    sent = 0
    seen = page.evaluate(RESOURCES)
    for address in seen:
        if "/sounds/" in address or "/words/" in address:
            continue
        body = page.request.get(address).body()
        packed = address.endswith(".woff2") or len(body) < 200
        sent += len(body) if packed else len(gzip.compress(body))
    print(f"the student's day, first view: {sent / 1000:.0f} KB in {len(seen)} files")


def measure(page: Page, name: str) -> None:
    page.wait_for_load_state("networkidle")
    print(f"-- {name}")
    for warm in range(3):
        print(f"first sound after the key, {warm + 1}: {page.evaluate(FIRST_SOUND):.0f} ms")
        page.wait_for_timeout(1000)
        page.evaluate("wren.stop()")
    throttled = page.context.new_cdp_session(page)
    throttled.send("Emulation.setCPUThrottlingRate", {"rate": SLOWER})
    page.evaluate(LONG)
    page.locator(".room-start:visible").first.click()
    page.wait_for_timeout(LISTENED * 1000)
    long = page.evaluate("window.long")
    said = ", ".join(f"{one:.0f} ms" for one in long) or "none"
    throttled.send("Emulation.setCPUThrottlingRate", {"rate": 1})
    page.evaluate("wren.stop()")
    print(f"long tasks in {LISTENED} s of playing, {SLOWER} times slower: {said}")


if __name__ == "__main__":
    main(sys.argv[1])
