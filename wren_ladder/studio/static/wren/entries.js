// Tries that survive a lost connection: each is kept in the page's store under a key of its
// own until the studio says that it has it. What is next is worked out by the studio.
(function () {
  "use strict";
  const root = document.getElementById("entries");
  if (!root) return;
  const store = "wren-" + root.dataset.store;
  const AGAIN = 4000; // milliseconds until the connection is tried again
  const SETTLED = 200; // milliseconds after which a page that was opened has been drawn
  const QUIET = 450; // milliseconds in which a second press is the same press
  let pressed = { at: 0, on: null };
  let leaveTo = ""; // where the teacher wants to go once everything is sent
  let sending = false;
  let timer = 0;

  const { read, write, fresh, today } = window.wrenStore;
  let safe = true; // does what waits outlive this page?

  const waiting = () => read(store, []).filter((one) => one && one.key);
  const keep = (entries) => { safe = write(store, entries); };
  const all = () => [...root.querySelectorAll(".lesson-card")];
  // Of those who are taught together the cards of one are walked.
  const cards = () => {
    const open = all().find((one) => !one.hidden);
    return all().filter((one) => !open || one.dataset.of === open.dataset.of);
  };
  const card = (step) => root.querySelector(`.lesson-card[data-step="${step}"]`);
  const current = () => cards().find((one) => !one.hidden);

  // Staves and sounds that the page came without: those of the step that is shown at once, the
  // others one after the other, so that a step can be played where the connection is lost.
  function want(target) {
    const music = target && target.querySelector("[data-wanted]");
    if (!music || !navigator.onLine) return false;
    music.removeAttribute("data-wanted");
    window.htmx.trigger(music, "wanted");
    return true;
  }
  const wantNext = () => all().some(want);
  root.addEventListener("htmx:afterSettle", wantNext);
  for (const failed of ["htmx:sendError", "htmx:responseError"]) {
    root.addEventListener(failed, (event) => {
      if (event.target.matches(".stand-music")) event.target.setAttribute("data-wanted", "");
    });
  }
  addEventListener("load", () => setTimeout(wantNext, SETTLED));

  function show(target) {
    if (!target) return;
    want(target);
    all().forEach((one) => { one.hidden = one !== target; });
    root.querySelectorAll("[data-whose]").forEach((key) => {
      key.setAttribute("aria-pressed", String(key.dataset.whose === target.dataset.of));
    });
    // Whoever goes away and comes back finds the step that was open.
    if (root.dataset.at !== undefined) history.replaceState(null, "", `?at=${target.dataset.step}`);
    root.querySelectorAll("[data-go]").forEach((link) => {
      if (link.dataset.go === target.dataset.step) link.setAttribute("aria-current", "step");
      else link.removeAttribute("aria-current");
    });
    root.querySelectorAll(".stand-more[open]").forEach((more) => { more.open = false; });
    const title = target.querySelector("h2");
    title.focus({ preventScroll: true });
    if (root.matches(".stand, .child-stand")) scrollTo(0, 0);
    else target.scrollIntoView({ block: "nearest" });
  }

  function move(by) {
    const mine = cards();
    const here = mine.indexOf(current());
    const there = mine[here + by];
    if (there) show(there);
    else if (by > 0) say(mine[here], root.dataset.last || "That was the last step. End the lesson, or go back to one.");
  }

  function say(target, text) {
    const said = target && target.querySelector(".said");
    if (said) said.textContent = text;
  }

  // The way back from the last try, on the spot where it was logged.
  function offerUndo(target, name) {
    const form = target.querySelector("[data-undo-form]");
    form.elements.undo.value = name;
    [...form.elements].find((one) => one.type === "submit").hidden = !name;
  }

  const NO_CONNECTION = "No connection.";
  const A_FAULT = "The studio had a fault.";
  const TOO_MANY = "That was a great deal at once.";

  // Why something waits, or why it was refused; nothing where nothing is to be told.
  function tell(why, refused) {
    const note = root.querySelector(".waiting");
    const count = waiting().length;
    note.hidden = !(count && why) && !refused;
    const many = count === 1 ? "1 try waits" : `${count} tries wait`;
    const until = safe ? "" : " This browser stores nothing more: leave this page open until then.";
    note.textContent = refused || `${why} ${many} in this page and will be sent again by itself.${until}`;
  }

  // ``did``: of each step, whether something of it was just taken back, or kept for its own day.
  function follow(steps, did) {
    for (const [step, told] of Object.entries(steps)) {
      const target = card(step);
      if (!target) continue;
      for (const name of ["next", "held", "reason"]) {
        const place = target.querySelector(`[data-show=${name}]`);
        if (place) place.textContent = told[name] ?? "nothing yet";
      }
      const tempo = target.querySelector("[data-entry] [name=tempo]");
      if (!waiting().some((one) => String(one.step) === step)) { // else what was pressed since moves it
        tempo.value = target.dataset.backTo || told.next;
        delete target.dataset.backTo;
        tempo.dispatchEvent(new Event("input", { bubbles: true })); // what plays goes on at it
      }
      const proposal = target.querySelector(".proposal");
      if (proposal) proposal.classList.toggle("is-falling", told.falling);
      const last = told.last ? `${told.last.said}.` : `${did.get(step) || "N"}othing logged here today.`;
      const there = cards()[cards().indexOf(target) + 1];
      const { goOn } = told;
      const why = goOn && told.enough ? ` ${told.enough}.` : "";
      const on = goOn ? (there ? " The next step is offered." : " That was the last step.") : "";
      say(target, last + why + on);
      offerUndo(target, told.last ? told.last.name : "");
      target.classList.toggle("go-on", Boolean(goOn && there));
      if (told.earned) hop(target);
    }
  }

  // A rung was earned: the wren hops up, once.
  function hop(target) {
    target.classList.remove("rung-earned");
    void target.offsetWidth; // so that it begins anew
    target.classList.add("rung-earned");
    setTimeout(() => target.classList.remove("rung-earned"), 1600);
  }

  async function send() {
    clearTimeout(timer);
    timer = 0;
    const entries = waiting();
    if (sending || !entries.length) return;
    sending = true;
    try {
      const token = root.querySelector("[name=csrfmiddlewaretoken]");
      const answer = await fetch(root.dataset.address, {
        method: "POST",
        headers: { "content-type": "application/json", "x-csrftoken": token.value },
        body: JSON.stringify(entries.slice(0, 200)),
      });
      if (answer.redirected || answer.status === 403) {
        tell("", "You are logged out. The tries wait in this page: log in again in another tab, then reload this one.");
        return;
      }
      if (answer.status === 404) {
        tell("", "This link was closed. Ask your teacher for a new one.");
        return;
      }
      if (!answer.ok) {
        tell(answer.status === 429 ? TOO_MANY : A_FAULT);
        timer = setTimeout(send, AGAIN);
        return;
      }
      const told = await answer.json();
      const done = new Set([...told.kept, ...told.refused.map((one) => one.key)]);
      keep(waiting().filter((one) => !done.has(one.key)));
      const refused = told.refused.map((one) => one.why).join("; ");
      tell("", refused ? `Not logged. ${refused}` : "");
      const kept = entries.filter((one) => told.kept.includes(one.key));
      follow(told.steps, new Map(kept.map((one) =>
        [String(one.step), one.undo ? "Taken back: n" : "Kept on the day it was played; n"])));
    } catch (error) {
      tell(NO_CONNECTION);
      timer = setTimeout(send, AGAIN);
    } finally {
      sending = false;
    }
    if (waiting().length && navigator.onLine && !timer) send();
    else if (leaveTo && !waiting().length) location.assign(leaveTo);
  }

  // Enter in a field goes on to the next one; it never logs.
  root.addEventListener("keydown", (event) => {
    if (event.key !== "Enter" || !event.target.matches("[data-entry] input")) return;
    event.preventDefault();
    const fields = [...event.target.form.querySelectorAll("input:not([type=hidden]), button:not([hidden])")];
    fields[fields.indexOf(event.target) + 1].focus();
  });

  // A second tap of the same press, or a key that is held down, is not another try; one on
  // another step is.
  function again(on) {
    const now = Date.now();
    const same = on === pressed.on && now - pressed.at < QUIET;
    pressed = { at: now, on };
    return same;
  }

  function undo(form) {
    const name = form.elements.undo.value;
    const target = form.closest(".lesson-card");
    const unsent = waiting().some((one) => one.key === name) && !sending;
    if (unsent) {
      keep(waiting().filter((one) => one.key !== name));
      say(target, "Taken back; it was not sent yet.");
      offerUndo(target, "");
      tell(NO_CONNECTION);
      return;
    }
    const names = [name, ...(target.dataset.twinKeys || "").split(" ").filter(Boolean)];
    target.dataset.twinKeys = "";
    const [tried, tempo] = (target.dataset.tried || "").split(" ");
    if (tried === name) target.dataset.backTo = tempo; // as it was before the press
    const taken = names.map((one) => ({ key: fresh(), step: form.elements.step.value, undo: one }));
    keep([...waiting(), ...taken]);
    say(target, "Taking it back…");
    offerUndo(target, "");
    timer = 0;
    send();
  }

  root.addEventListener("submit", (event) => {
    const back = event.target.closest("[data-undo-form]");
    const form = event.target.closest("[data-entry]");
    if (!form && !back) return;
    event.preventDefault();
    if (again(back || event.target.closest(".lesson-card"))) return; // an undo is another press
    if (back) {
      undo(back);
      return;
    }
    const made = fresh();
    const fields = new FormData(form, event.submitter);
    const clean = fields.get("clean_try") === "yes";
    const target = form.closest(".lesson-card");
    const others = root.querySelector("[data-for-all]:checked") ? target.dataset.twins.split(" ").filter(Boolean) : [];
    const tries = [fields.get("step"), ...others].map((step, place) => ({
      ...Object.fromEntries(fields), csrfmiddlewaretoken: undefined, key: place ? fresh() : made, step, day: today(),
    }));
    keep([...waiting(), ...tries]);
    target.dataset.tried = `${made} ${fields.get("tempo")}`;
    target.dataset.twinKeys = tries.slice(1).map((one) => one.key).join(" ");
    say(target, `${fields.get("tempo")} ${clean ? "clean" : "not yet"}: kept in this page.`);
    if (!safe) tell("This browser's store is full or closed to this page.");
    offerUndo(target, made);
    if (form.elements.note) form.elements.note.value = "";
    timer = 0;
    send();
  });

  document.addEventListener("click", (event) => {
    const mover = event.target.closest("[data-move]");
    if (mover) move(Number(mover.dataset.move));
    const rung = event.target.closest("[data-slower], [data-quicker]");
    if (rung) {
      const down = "slower" in rung.dataset;
      const field = document.getElementById(down ? rung.dataset.slower : rung.dataset.quicker);
      const now = Number(field.value);
      const there = rung.dataset.rungs.split(" ").map(Number).filter((one) => (down ? one < now : one > now));
      if (there.length) field.value = there.at(down ? -1 : 0);
      else say(rung.closest(".lesson-card"), down ? "That is the lowest rung. A tempo below it can be typed." :
        "That is the highest rung. A tempo above it can be typed.");
      field.dispatchEvent(new Event("input", { bubbles: true }));
    }
    const whose = event.target.closest("[data-whose]");
    if (whose) {
      const open = current();
      const theirs = all().filter((one) => one.dataset.of === whose.dataset.whose);
      const twin = theirs.find((one) => open && open.dataset.twins.split(" ").includes(one.dataset.step));
      show(twin || theirs[0]);
    }
    const go = event.target.closest("[data-go]");
    if (go) { event.preventDefault(); show(card(go.dataset.go)); }
    const end = event.target.closest("[data-end]");
    if (end && waiting().length) {
      event.preventDefault();
      leaveTo = end.href;
      send();
    }
  });
  window.addEventListener("online", () => { timer = 0; send(); wantNext(); });

  // How much of the lesson is left, by the clock on the wall.
  const clock = root.querySelector("[data-ends]");
  function left() {
    const minutes = Math.ceil((new Date(clock.dataset.ends) - Date.now()) / 60000);
    clock.textContent = minutes > 0 && minutes < 181 ? ` · ${minutes} min left` : "";
  }
  if (clock) { left(); setInterval(left, 15000); }
  // What waits from before the page was opened anew can be taken back like any other.
  for (const one of waiting().filter((entry) => !entry.undo)) {
    const target = card(one.step);
    if (target) offerUndo(target, one.key);
  }
  if (waiting().length) { tell("Not sent yet:"); send(); }
})();
