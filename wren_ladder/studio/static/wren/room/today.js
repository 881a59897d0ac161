// The student's day: the clocks of the thing and of the day, what was practised as an offer for the
// log, and a page that works without a network. Nothing is logged without a press.
(function () {
  "use strict";
  const page = document.querySelector("main[data-today]");
  const { today, link } = page.dataset;
  const store = `wren-today-${link}-${today}`;
  const queue = `wren-minutes-${link}`;
  const DAYS = 3; // that a day's own record is kept on the device

  const { read, write, fresh, alone } = window.wrenStore;
  const day = { played: {}, logged: 0, ...read(store, {}) };
  const keep = () => write(store, day);
  const card = (step) => page.querySelector(`.lesson-card[data-step="${CSS.escape(step)}"]`);

  // ---- clocks -----------------------------------------------------------------------------
  let going = null; // { step, since } while something sounds

  function played(step) {
    const before = day.played[step] ? day.played[step].seconds : 0;
    return before + (going && going.step === step ? (Date.now() - going.since) / 1000 : 0);
  }

  function total(loud) {
    const steps = new Set([...Object.keys(day.played), ...(going ? [going.step] : [])]);
    return [...steps].filter((step) => !loud || !(card(step) && "pad" in card(step).dataset))
      .reduce((sum, step) => sum + played(step), 0);
  }

  function show() {
    for (const one of page.querySelectorAll(".lesson-card")) {
      const seconds = played(one.dataset.step), lasts = 60 * Number(one.dataset.minutes || 0);
      one.classList.toggle("has-played", seconds > 0);
      one.classList.toggle("time-is-up", lasts > 0 && seconds >= lasts);
      const dash = page.querySelector(`[data-dash="${CSS.escape(one.dataset.step)}"]`);
      if (!dash) continue;
      dash.classList.toggle("is-here", !one.hidden);
      dash.style.setProperty("--done", lasts ? Math.min(1, seconds / lasts) : 0);
    }
    const all = total(false) / 60;
    const said = page.querySelector("[data-day-minutes]");
    const clock = page.querySelector("[data-day-clock]");
    if (said) said.textContent = Math.floor(all);
    if (clock) clock.value = Math.min(clock.max, all);
    page.querySelector("[data-ears-note]").hidden = total(true) / 60 < Number(page.dataset.ears);
    offer();
  }

  // What was practised, ready to be logged by a press.
  function offer() {
    const fresh = Math.round(total(false) / 60) - day.logged;
    const told = page.querySelector("[data-offer]");
    told.hidden = fresh < 1;
    if (fresh < 1 || going) return;
    const form = page.querySelector("form[data-minutes]");
    const lines = Object.entries(day.played).filter(([, one]) => one.seconds >= 30).map(([step, one]) => {
      const speed = one.low === one.high ? one.low : `${one.low} to ${one.high}`;
      const name = card(step) ? card(step).dataset.name : "";
      return `${name} at ${speed}, ${one.rounds} rounds`;
    });
    told.textContent = `You played ${fresh} minute${fresh > 1 ? "s" : ""} here: ${lines.join("; ")}.`;
    if (!form.elements.minutes.dataset.typed) form.elements.minutes.value = fresh;
  }

  page.addEventListener("input", (event) => { if (event.target.name === "minutes") event.target.dataset.typed = "1"; });
  page.addEventListener("practising", (event) => {
    going = { step: event.target.dataset.room, since: Date.now() };
  });
  page.addEventListener("practised", (event) => {
    const { step, seconds, rounds, low, high } = event.detail;
    const before = day.played[step] || { seconds: 0, rounds: 0, low, high };
    day.played[step] = {
      seconds: before.seconds + (going ? seconds : 0), rounds: before.rounds + rounds,
      low: Math.min(before.low, low), high: Math.max(before.high, high),
    };
    going = null;
    keep();
    show();
  });
  setInterval(() => { if (going) show(); }, 1000);
  page.addEventListener("click", () => setTimeout(show)); // another thing may be shown now

  // ---- minutes that wait for the network ----------------------------------------------------
  const send = (done) => alone(queue, () => sendAll(done));

  async function sendAll(done) {
    let fault = "";
    const sentSome = read(queue, []).length > 0;
    for (let one = read(queue, [])[0]; one; one = read(queue, [])[0]) {
      const token = page.querySelector("[name=csrfmiddlewaretoken]").value;
      const body = new URLSearchParams({ ...one, csrfmiddlewaretoken: token });
      const form = page.querySelector("form[data-minutes]");
      let answer;
      try { answer = await fetch(form.action, { method: "POST", body }); } catch (error) {
        fault = "until there is a network";
        break;
      }
      if (answer.status >= 500 || answer.status === 429) {
        fault = "until your teacher's studio is well again";
        break;
      }
      const { form_key: sent } = one;
      write(queue, read(queue, []).filter((other) => other.form_key !== sent));
      if (answer.ok) continue;
      page.querySelector("[data-said]").textContent = "These minutes could not be kept. Write how many, from 1 up.";
      return;
    }
    const many = read(queue, []).reduce((sum, one) => sum + Number(one.minutes), 0);
    const said = page.querySelector("[data-said]");
    if (many) said.textContent = `${many} minutes wait here ${fault}.`;
    else if (sentSome) said.textContent = done || "The minutes that waited here are logged.";
  }

  page.addEventListener("submit", async (event) => {
    const form = event.target.closest("form[data-minutes]");
    if (!form) return;
    event.preventDefault();
    const fields = Object.fromEntries(new FormData(form));
    const many = Number(fields.minutes);
    if (!(many >= 1)) { page.querySelector("[data-said]").textContent = "Write how many minutes, from 1 up."; return; }
    delete fields.csrfmiddlewaretoken;
    if (!write(queue, [...read(queue, []), fields])) {
      page.querySelector("[data-said]").textContent = "This device stores nothing more: leave this page open.";
    }
    form.elements.form_key.value = fresh();
    form.elements.minutes.value = "";
    form.elements.note.value = "";
    delete form.elements.minutes.dataset.typed;
    day.logged += many;
    keep();
    show();
    await send(`${many} minutes are logged.`);
  });

  addEventListener("online", () => send());

  // ---- without a network -----------------------------------------------------------------------
  async function store_week() {
    if (!window.caches || !navigator.serviceWorker) return;
    const { serviceWorker: worker } = navigator;
    await worker.register(page.dataset.worker, { scope: location.pathname });
    await Promise.race([
      worker.controller || new Promise((then) => {
        worker.addEventListener("controllerchange", then, { once: true });
      }),
      new Promise((then) => { setTimeout(then, 3000); }),
    ]);
    const cache = await caches.open(`wren-link-${link}`);
    const loaded = performance.getEntriesByType("resource").map(({ name }) => name);
    const timer = new URL(document.querySelector("script[data-timer]").dataset.timer, location).href;
    const files = [...loaded.filter((name) => name.startsWith(`${location.origin}/static/`)), timer];
    const voices = [...page.querySelectorAll("[data-hear]")].map(({ dataset }) => new URL(dataset.hear, location).href);
    // What is asked for, the worker keeps; kept from here as well, an entry would be away while it is written twice.
    const keepOne = worker.controller ? fetch : (name) => cache.add(name);
    const there = new Set((await cache.keys()).map(({ url }) => url));
    const missing = [...files, ...voices].filter((name) => !there.has(name));
    await Promise.all(missing.map((name) => keepOne(name).catch(() => {})));
    for (const one of page.querySelectorAll("a[data-offline]")) await keepPage(cache, one.href);
    page.dataset.kept = "all"; // from now on the device needs no network
  }
  // A page that is linked, and the sounds that it asks for.
  async function keepPage(cache, address) {
    const answer = await fetch(address).catch(() => null);
    if (!answer || !answer.ok) return;
    await cache.put(address, answer.clone());
    const there = new DOMParser().parseFromString(await answer.text(), "text/html");
    for (const one of there.querySelectorAll("script[type='application/json']")) {
      const score = JSON.parse(one.textContent);
      if (score.voices) await window.wren.gather(score, false);
    }
    for (const link of there.querySelectorAll("a[data-offline]")) {
      if (!await cache.match(link.href)) await keepPage(cache, link.href);
    }
  }

  addEventListener("load", () => {
    setTimeout(() => store_week().catch(() => {}), 1500); // the sounds have been asked for by then
  });

  for (const name of Object.keys(localStorage)) {
    const old = name.startsWith(`wren-today-${link}-`) && name.slice(-10);
    if (old && Date.parse(today) - Date.parse(old) > DAYS * 86400000) localStorage.removeItem(name);
  }
  show();
  send();
})();
