"""A recording beside the notes, on a clock of its own: ten minutes pass at once, so that what
is asserted is the rule and not how busy the machine is. The browser's own: bench/room.py."""

from pathlib import Path

from tests.browser.base import BrowserTest

SCRIPT = (
    Path(__file__).parents[2] / "wren_ladder/studio/static/wren/room/along.js"
).read_text()

# A media element as browsers have them: late to start and to jump, off by a little all the
# time, slow to heed another rate.
SIMULATED = """({ rate, second, lasts, gap, minutes, slow, drift, change }) => {
  let now = 0;
  const due = [];
  const later = (seconds, act) => due.push({ at: now + Math.max(0, seconds), act });
  class Element {
    constructor() {
      Object.assign(this, { paused: true, place: 0, real: 1, wanted: 1, moves: 0, volume: 1 });
    }
    get currentTime() { return this.place; }
    set currentTime(to) { this.place = to; this.moves = now + (this.paused ? 0.03 : slow); }
    get playbackRate() { return this.wanted; }
    set playbackRate(to) { this.wanted = to; later(0.05, () => { this.real = to; }); }
    play() {
      if (this.paused) this.moves = now + slow;
      this.paused = false;
      return Promise.resolve();
    }
    pause() { this.paused = true; }
    step(by) { if (!this.paused && now >= this.moves) this.place += by * this.real * drift; }
  }
  const elements = [new Element(), new Element()];
  const along = new wren.Along(elements, { now: () => now, later }, () => 0.5);
  let begins = 2, round = null, speed = rate;
  const opens = (at) => {
    const again = at + (lasts + gap) / speed;
    round = { at, second, until: second + lasts, rate: speed, again };
    along.opens(at, round);
  };
  opens(begins);
  const worst = [], quiet = [];
  let opened = begins;
  for (now = 0; now < 60 * minutes; now += 0.004) {
    for (const one of elements) one.step(0.004);
    for (const one of due.splice(0)) if (one.at <= now) one.act(); else due.push(one);
    if (round && now > round.again - 0.2 && round.again !== opened) {
      opened = round.again;
      if (change) speed = speed === rate ? rate * change : rate;
      opens(opened);
    }
    if (Math.round(now / 0.004) % 6 === 0) along.tick();
    const { stretch, element } = along.sounding;
    if (!stretch || now < stretch.at + 0.03) continue;
    const ought = stretch.second + (now - stretch.at) * stretch.rate;
    if (ought < stretch.until - 0.03) worst.push(Math.abs(ought - element.place));
    quiet.push(along.waiting.element.paused || along.waiting.element.volume < 0.01
      || now > along.waiting.stretch.at - 0.1);
  }
  along.stop();
  worst.sort((one, other) => one - other);
  return { most: worst.at(-1), usual: worst[Math.floor(worst.length / 2)],
    heard: worst.length * 0.004, quiet: quiet.every(Boolean),
    stopped: elements.every((one) => one.paused) };
}"""
NEAR = 0.015  # seconds
USUAL = {
    "rate": 1,
    "second": 4.0,
    "lasts": 2.0,
    "gap": 0,
    "minutes": 10,
    "slow": 0.08,
    "drift": 1.0,
    "change": 0,
}


class Along(BrowserTest):
    def setUp(self):
        super().setUp()
        self.page.goto("about:blank")
        self.page.evaluate(f"window.wren = {{}}; {SCRIPT}")

    def played(self, **other):
        return self.page.evaluate(SIMULATED, {**USUAL, **other})

    def test_it_keeps_its_place_for_ten_minutes_at_every_speed(self):
        for rate in (0.5, 0.75, 1, 1.1):
            for drift in (0.999, 1.001):
                found = self.played(rate=rate, drift=drift, lasts=60)
                self.assertLess(found["most"], NEAR, (rate, drift))
                self.assertGreater(found["heard"], 550)

    def test_a_loop_of_a_bar_is_in_its_place_every_round(self):
        for rate in (0.5, 1, 1.1):
            for slow in (0.02, 0.15):
                found = self.played(rate=rate, slow=slow, minutes=2)
                self.assertLess(found["most"], NEAR, (rate, slow))
                self.assertTrue(found["quiet"], (rate, slow))

    def test_empty_bars_are_silent_and_a_start_at_the_very_beginning_is_near(self):
        found = self.played(gap=2.0, minutes=2)
        self.assertLess(found["most"], NEAR)
        self.assertLess(found["heard"], 62)  # of 120 seconds
        self.assertLess(self.played(second=0.2, minutes=2)["usual"], NEAR)

    def test_another_tempo_each_round_is_followed(self):
        found = self.played(change=1.05, rate=0.8, minutes=2)
        self.assertLess(found["usual"], NEAR)
        self.assertLess(found["most"], 0.05)

    def test_it_stops(self):
        self.assertTrue(self.played(minutes=0.2)["stopped"])
