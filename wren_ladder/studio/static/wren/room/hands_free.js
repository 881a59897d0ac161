// A lesson hands free: the step listens to a kit or a microphone, and what the studio makes of it
// stands in the two keys, to be accepted by one. Nothing is logged by itself; no sound is kept.
(function () {
  "use strict";
  const place = document.querySelector("[data-hands-free]");
  const root = document.getElementById("entries");
  const ears = window.wrenEars;
  if (!place || !(ears.kits || ears.microphones)) return;
  const { setUp, keep } = ears;
  const ASKED = 700; // milliseconds from one question to the next
  const KEYS = { accept: "to accept", other: "for the other key" };
  const find = (what) => place.querySelector(what);
  const told = find("[data-heard]");
  let way = null; // what is listened to
  let context = null; // whose clock a microphone's onsets are told in
  let strokes = [], asking = false, timer = 0;
  let teaches = null; // which key the next pad or pedal becomes

  const card = () => root.querySelector(".lesson-card:not([hidden])");
  const busy = () => Boolean(window.wren.playing); // the player sounds, or a take is recorded
  const say = (text) => { told.textContent = text; };

  function show() {
    place.hidden = false;
    for (const one of place.querySelectorAll("[data-listen]")) {
      one.hidden = !(one.dataset.listen === "kit" ? ears.kits : ears.microphones);
      one.setAttribute("aria-pressed", String(one.dataset.listen === way));
    }
    find("[data-pads]").hidden = !ears.kits;
    const lit = root.querySelector("[data-listening]");
    lit.hidden = !way;
    const { keys } = setUp();
    for (const one of place.querySelectorAll("[data-teach-key]")) {
      const name = one.dataset.teachKey;
      one.textContent = `${keys[name] ? "Another" : "A"} pad or pedal ${KEYS[name]}`;
    }
  }

  async function begin(chosen) {
    const problem = chosen === "kit" ? await ears.plug() : await ears.open();
    if (problem) { say(problem); return; }
    way = chosen;
    clear();
    if (way === "microphone") {
      context = new AudioContext();
      await context.resume();
      await ears.hear(context, (at, level) => heard(["", level], at * 1000));
    }
    timer = setInterval(ask, ASKED);
    show();
    card().querySelector(".said").textContent = "Listening: count in with your sticks, then play.";
    root.querySelectorAll(".stand-more[open]").forEach((more) => { more.open = false; });
  }

  function end() {
    clearInterval(timer);
    ears.deaf();
    if (context) context.close();
    context = way = null;
    withdraw();
    show();
  }

  const now = () => (context ? context.currentTime * 1000 : performance.now());
  const clear = () => { strokes = []; };
  function heard([drum, strength], stamp) {
    if (busy()) { clear(); return; }
    const row = [Math.round(stamp * 10) / 10, drum, strength];
    strokes.push(way === "kit" && ears.pedal !== null ? [...row, ears.pedal] : row);
  }

  async function ask() {
    const open = card();
    if (asking || !strokes.length || busy() || !open) return;
    asking = true;
    const before = strokes.length, kit = setUp();
    const [[zero]] = strokes;
    const form = new FormData();
    const sent = {
      way,
      strokes: JSON.stringify(strokes.map(([at, ...rest]) => [at - zero, ...rest])), now: now() - zero,
      layout: kit.layout, curve: kit.curve,
      own: JSON.stringify(kit.own), latency: (kit.delays[way] || { latency: 0 }).latency,
      tempo: open.querySelector("[name=tempo]").value,
      csrfmiddlewaretoken: open.querySelector("[name=csrfmiddlewaretoken]").value,
    };
    for (const [name, value] of Object.entries(sent)) form.append(name, value);
    try {
      const answer = await fetch(open.querySelector("[data-record]").dataset.listens, { method: "POST", body: form });
      if (open === card()) follow(open, await answer.json(), before);
    } catch (error) {
      open.querySelector(".said").textContent = "No connection: what is played cannot be heard now.";
    } finally { asking = false; }
  }

  function follow(open, { state, said, error, try: proposed }, before) {
    const quiet = now() - strokes.at(-1)[0];
    if (state === "waiting" && quiet < 4000 && strokes.length < 400) return; // not told at every stroke
    open.querySelector(".said").textContent = error || said;
    if (state === "waiting" || state === "done" || error) strokes = strokes.slice(before);
    if (state === "counted") withdraw();
    if (proposed) propose(open, proposed);
  }

  function propose(open, { clean, passes, tempo }) {
    withdraw();
    const form = open.querySelector("[data-entry]");
    form.elements.tempo.value = tempo;
    form.elements.tempo.dispatchEvent(new Event("input", { bubbles: true }));
    form.elements.passes.value = passes;
    const key = form.querySelector(`[name=clean_try][value=${clean ? "yes" : "no"}]`);
    key.classList.add("is-proposed");
    key.dataset.proposed = "";
  }

  function withdraw() {
    for (const one of root.querySelectorAll("[data-proposed]")) {
      one.classList.remove("is-proposed");
      delete one.dataset.proposed;
    }
  }

  // Spare pads and pedals: one accepts what is proposed, one presses the other key.
  function pressed({ detail: { key } }) {
    if (teaches) {
      keep({ keys: { ...setUp().keys, [teaches]: key } });
      say("Learned, and kept on this device.");
      teaches = null;
      show();
      return true;
    }
    const { keys } = setUp();
    const what = Object.keys(KEYS).find((name) => keys[name] === key);
    if (!way || !what) return false;
    const proposed = root.querySelector("[data-proposed]");
    if (!proposed) return true;
    const other = [...proposed.form.querySelectorAll("[name=clean_try]")].find((one) => one !== proposed);
    (what === "accept" ? proposed : other).click();
    return true;
  }

  document.addEventListener("wren:pedal", pressed);
  document.addEventListener("wren:note", (event) => {
    const { note, strength, stamp } = event.detail;
    if (!pressed(event) && way === "kit") heard([note, strength], stamp);
  });
  root.addEventListener("submit", () => { withdraw(); clear(); });
  root.addEventListener("click", async (event) => {
    const { listen, teachKey } = event.target.dataset;
    if (listen && listen === way) end();
    else if (listen) { if (way) end(); await begin(listen); }
    if (teachKey) {
      const problem = await ears.plug();
      teaches = problem ? null : teachKey;
      say(problem || `Hit the pad or press the pedal ${KEYS[teachKey]} now.`);
    }
    if (event.target.closest("[data-listening]")) end();
    if (event.target.closest("[data-move], [data-go], [data-whose]")) { withdraw(); clear(); }
  });
  addEventListener("pagehide", () => { if (way) end(); });
  show();
})();
