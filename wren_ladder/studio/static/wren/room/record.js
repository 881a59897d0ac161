// Records a take: strokes by keys, by touch, from an electronic kit or a microphone, against the
// clock that the click runs on. What they mean and are worth is worked out by the studio; no
// sound is kept. How late a set-up is and what a kit's notes are, this device keeps.
(function () {
  "use strict";
  const script = document.currentScript;
  const { read, write, fresh, alone, today } = window.wrenStore;
  const ears = window.wrenEars;
  const WAYS = { keys: "keys and touch", kit: "the electronic kit", microphone: "the microphone" };
  const GROOVE = 0.5; // how loud it sounds along
  const TAPS = 16, ROUNDS = 4; // of four clicks each
  let take = null; // what is recorded: { place, player, zero, strokes, way, done }
  let hears = null; // who is told the next note of the kit instead

  const { setUp, keep } = window.wrenEars; // of this device

  class Recorder {
    constructor(place) {
      place.append(document.getElementById("record-panel").content.cloneNode(true));
      this.place = place;
      this.form = place.querySelector("form");
      this.told = place.querySelector("[data-told]");
      this.form.action = place.dataset.address;
      const { from, step, passes, layout, curve } = this.form.elements;
      from.value = place.dataset.from || "";
      step.value = place.dataset.step || "";
      passes.value = place.dataset.passes || 8;
      layout.value = setUp().layout;
      curve.value = setUp().curve;
      this.besidePlay();
      this.furnish();
      this.follow();
      this.tellDelays();
      this.form.addEventListener("click", (event) => this.pressed(event));
      this.form.addEventListener("change", () => keep({ layout: layout.value, curve: curve.value }));
      this.form.addEventListener("submit", (event) => this.sent(event));
    }

    furnish() {
      const drums = JSON.parse(this.place.dataset.drums || "[]");
      const row = this.place.querySelector(".take-pads");
      this.letters = new Map(drums.map(([letter, drum]) => [letter, drum]));
      this.drums = drums.map(([, drum, name]) => [drum, name]);
      for (const [letter, drum, name] of drums) {
        const pad = document.createElement("button");
        Object.assign(pad, { type: "button", className: "btn btn-outline-secondary" });
        pad.innerHTML = "<kbd></kbd> ";
        pad.firstChild.textContent = letter;
        pad.append(name);
        pad.addEventListener("pointerdown", (event) => {
          if (!take) return;
          event.preventDefault();
          strike(drum, null, event.timeStamp);
        });
        row.append(pad);
      }
      this.find("[data-way=kit]").hidden = this.find("[data-teach]").hidden = !ears.kits;
      this.find("[data-way=microphone]").hidden = !ears.microphones;
      this.find("[data-forget]").hidden = !Object.keys(setUp().own).length;
    }

    // A key beside the one that plays, which unfolds this.
    besidePlay() {
      const beside = document.querySelector(`[data-records="${this.place.dataset.record}"]`);
      if (beside) beside.addEventListener("click", () => this.oneKey());
      const room = document.querySelector(`[data-room="${this.place.dataset.record}"]`);
      const button = !beside && room && room.querySelector("[data-part=record]");
      if (!button) return;
      button.hidden = false;
      button.addEventListener("click", () => {
        this.find("details").open = true;
        this.find("[data-way=keys]").focus({ preventScroll: true });
        this.place.scrollIntoView({ block: "center" });
      });
    }

    // Records at once by what was used here before; where nothing was, it is asked.
    oneKey() {
      const { way } = setUp();
      this.find("details").open = true;
      this.place.scrollIntoView({ block: "center" });
      if (take || (way && !this.find(`[data-way=${way}]`).hidden)) this.record(way);
      else this.find("[data-way=keys]").focus({ preventScroll: true });
    }

    find(what) { return this.place.querySelector(what); }
    say(text) { this.told.textContent = text; }

    // The tempo of the page beside it, until another one is typed here.
    follow() {
      const field = document.getElementById(this.place.dataset.tempo || "");
      const { tempo } = this.form.elements;
      const take = () => { if (!this.typed) tempo.value = field.value; };
      tempo.addEventListener("input", () => { this.typed = true; });
      if (!field) { tempo.value = this.place.dataset.start || this.score().bpm; return; }
      take();
      document.addEventListener("input", (event) => { if (event.target.id === this.place.dataset.tempo) take(); });
    }

    score() { return JSON.parse(document.getElementById(this.place.dataset.record).textContent); }

    pressed(event) {
      const button = event.target.closest("button");
      if (!button) return;
      const { way, send, tap } = button.dataset;
      if ("stop" in button.dataset) window.wren.stop();
      if ("throw" in button.dataset) throwAway();
      if (way) this.record(way);
      if (tap) this.calibrate(tap);
      if (send) {
        this.form.elements.way.value = send;
        this.form.elements.key.value = fresh();
      }
      if ("teach" in button.dataset) this.teach();
      if ("forget" in button.dataset) {
        keep({ own: {} });
        button.hidden = true;
        this.say("Forgotten: the notes are the layout's again.");
      }
    }

    async record(way) {
      if (take) { window.wren.stop(); return; }
      keep({ way });
      if (!await ready(this, way)) return;
      const { tempo, passes, empty_bars: gap, groove } = this.form.elements;
      const kit = groove.checked && way !== "microphone" ? GROOVE : 0; // it would hear the loudspeaker
      const score = this.score();
      const choice = {
        ...window.wren.USUAL, bpm: Number(tempo.value) || score.bpm, gap: Number(gap.value) || 0, kit,
        rounds: Number(passes.value) || 1,
      };
      await this.listen(way, score, choice, (done) => {
        if (!done.strokes.length) { this.say("Nothing was heard."); return; }
        const { strokes, latency, own, way: how, key, day } = this.form.elements;
        how.value = way;
        key.value = fresh();
        day.value = today();
        strokes.value = JSON.stringify(done.strokes);
        latency.value = (setUp().delays[way] || { latency: 0 }).latency;
        own.value = JSON.stringify(setUp().own);
        this.form.requestSubmit();
      });
      const late = setUp().delays[way] ? "" : " How late this set-up is was not measured yet: it is not told.";
      if (!take) return;
      const home = "keeps" in this.place.dataset;
      this.while = home ? "" : ` It stops by itself.${late}`; // said beside what is counted
      this.say(home ? "It counts in. Then you play." : `Counted in, then play.${this.while}`);
      requestAnimationFrame(counts);
    }

    async listen(way, score, choice, done) {
      this.place.classList.add("recording");
      const player = await window.wren.start(score, choice, ended);
      if (!player) { this.place.classList.remove("recording"); return; }
      take = { place: this, player, zero: player.anchor.audio, strokes: [], way, done };
      ears.pedal = null;
      if (way === "microphone") await hear(player.context);
    }

    async calibrate(way) {
      if (take || !await ready(this, way)) return;
      const score = JSON.parse(document.getElementById("calibration-sound").textContent);
      const choice = { ...window.wren.USUAL, bpm: score.bpm, gap: 0, kit: 0, rounds: ROUNDS };
      await this.listen(way, score, choice, async (done) => {
        const answer = await fetch(script.dataset.calibrate, {
          method: "POST",
          headers: { "content-type": "application/json", "x-csrftoken": this.form.elements.csrfmiddlewaretoken.value },
          body: JSON.stringify(done.strokes.map(([at]) => at)),
        }).then((one) => one.json()).catch(() => ({ error: "No connection: it is worked out in the studio." }));
        this.say(answer.said || answer.error);
        if (!answer.said) return;
        const { latency, spread } = answer;
        keep({ delays: { ...setUp().delays, [way]: { latency, spread } } });
        for (const one of recorders) one.tellDelays();
      });
      const one = way === "keys" ? "key or pad" : "drum";
      if (take) this.say(`Four counts, then ${TAPS} clicks: tap one ${one} with each.`);
    }

    tellDelays() {
      const list = this.find("[data-delays]");
      const { delays } = setUp();
      list.replaceChildren(...Object.keys(WAYS).filter((way) => !this.find(`[data-way=${way}]`).hidden).map((way) => {
        const line = document.createElement("li");
        const known = delays[way];
        const said = known ? `${known.latency} ms late, to within ${known.spread} ms` : "not measured yet";
        const button = document.createElement("button");
        Object.assign(button, { type: "button", className: "btn btn-outline-secondary btn-sm", textContent: "Tap it" });
        button.dataset.tap = way;
        button.setAttribute("aria-label", `Tap it for ${WAYS[way]}`);
        line.append(`${WAYS[way]}: ${said} `, button);
        return line;
      }));
    }

    // "Hit the snare now": each drum of this music in turn.
    async teach() {
      if (!await ready(this, "kit")) return;
      const left = [...this.drums];
      const next = () => {
        if (!left.length) {
          hears = null;
          this.find("[data-forget]").hidden = false;
          this.say("Learned, and kept on this device.");
          return;
        }
        this.say(`Hit the ${left[0][1]} now.`);
      };
      hears = (note) => {
        keep({ own: { ...setUp().own, [note]: left.shift()[0] } });
        next();
      };
      next();
    }

    // At home a take waits in the page while there is no network.
    async sent(event) {
      if (!("keeps" in this.place.dataset)) return;
      event.preventDefault();
      const sent = [...new FormData(this.form)].filter(([, value]) => typeof value === "string");
      this.say("Sent to your teacher's studio …");
      if (!await send(this.place.dataset.address, sent)) {
        const stays = wait([this.place.dataset.address, sent]);
        this.say("No connection. The take waits on this device and is sent when it is back." +
          (stays ? "" : " This device stores nothing more: leave this page open until then."));
      }
    }
  }

  // What is counted is seen too.
  function counts() {
    if (!take) return;
    const { player, place } = take;
    while (player.marks.length && player.marks[0].audio <= window.wren.now) {
      const { what, word } = player.marks.shift();
      if (what === "count") place.say(`${word}${place.while && `: ${place.while.trim()}`}`);
    }
    requestAnimationFrame(counts);
  }

  function strike(drum, strength, stamp, more) {
    if (!take) return;
    const at = more === undefined ? window.wren.heardAt(stamp) - take.zero : more;
    const row = [Math.round(at * 10000) / 10, drum, strength];
    take.strokes.push(take.way === "kit" && ears.pedal !== null ? [...row, ears.pedal] : row);
    take.place.say(`${take.strokes.length} stroke${take.strokes.length > 1 ? "s" : ""} heard`);
  }

  function ended() {
    const done = take;
    take = null;
    ears.deaf();
    if (!done) return;
    done.place.place.classList.remove("recording");
    if (!done.thrown) done.done(done);
  }

  function throwAway() {
    if (!take) return;
    take.thrown = true;
    take.place.say("Thrown away.");
    window.wren.stop();
  }

  addEventListener("keydown", (event) => {
    if (!take || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === "Escape") { throwAway(); return; }
    const drum = take.way === "keys" && take.place.letters.get(event.key.toLowerCase());
    if (!drum) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    if (!event.repeat) strike(drum, null, event.timeStamp);
  }, true);

  // ---- what is listened to ------------------------------------------------------------------
  async function ready(recorder, way) {
    const problem = way === "kit" ? await ears.plug() : way === "microphone" ? await ears.open() : "";
    if (problem) recorder.say(problem);
    return !problem;
  }

  document.addEventListener("wren:note", ({ detail: { note, strength, stamp } }) => {
    if (hears) hears(note);
    else if (take && take.way === "kit") strike(note, strength, stamp);
  });

  async function hear(context) {
    await ears.hear(context, (at, level) => { if (take) strike("", level, 0, at - take.zero); });
  }

  // ---- takes that wait for the network ------------------------------------------------------
  const store = `wren-takes-${script.dataset.link || ""}`;
  const waiting = () => read(store, []);
  const wait = (one) => write(store, [...waiting(), one]);

  async function send(address, sent, stay) {
    const body = new FormData();
    for (const [name, value] of sent) body.append(name, value);
    try {
      const answer = await fetch(address, { method: "POST", body });
      if (!stay) location.assign(answer.url);
      return answer.ok || answer.status < 500;
    } catch (error) { return false; }
  }

  // What is added while one is sent stays: each goes when it has arrived, by its own key.
  async function sendAll() {
    const before = waiting().length;
    for (let first = waiting()[0]; first; first = waiting()[0]) {
      if (!await send(...first, true)) return;
      const sent = JSON.stringify(first);
      write(store, waiting().filter((one) => JSON.stringify(one) !== sent));
    }
    if (!before) return;
    const many = before === 1 ? "The take that waited here is" : `The ${before} takes that waited here are`;
    for (const one of recorders) one.say(`${many} with your teacher.`);
  }
  const flush = () => alone(store, sendAll);
  addEventListener("online", flush);

  const recorders = [...document.querySelectorAll("[data-record]")].map((place) => new Recorder(place));
  if (script.dataset.link) flush();
  addEventListener("pagehide", ears.deaf);
})();
