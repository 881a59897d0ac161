// The practice room on a page: what is played, how fast, and what is shown of it. The panel is cloned
// from one template into every [data-room]; buttons with data-play sound by themselves.
(function () {
  "use strict";
  const { USUAL, Drawing } = window.wren;
  const SLOWEST = 20, FASTEST = 300; // BPM
  const KEPT = "wren-room"; // where this browser keeps click, volume and the like
  const LEVELS = [[1, "heard"], [0.3, "soft"], [0, "silent"]];
  const TAKES_SPACE = "input:not([type=range]), textarea, select, button, summary, a, [contenteditable], dialog";
  const rooms = new Map(); // element -> Room

  const scoreOf = (id) => JSON.parse(document.getElementById(id).textContent);
  const within = (low, value, high) => Math.min(high, Math.max(low, value));

  function kept() {
    return window.wrenStore.read(KEPT, {});
  }

  class Room {
    constructor(place) {
      const panel = document.getElementById("room-panel").content.cloneNode(true);
      place.append(panel);
      this.place = place;
      this.score = scoreOf(place.dataset.room);
      this.rungs = (place.dataset.rungs || "").split(" ").filter(Boolean).map(Number);
      this.tempo = this.find("bpm");
      this.tempo.closest("label").hidden = "tempoBeside" in place.dataset; // one field is enough
      this.tempo.value = (this.field && this.field.value) || place.dataset.start || this.score.bpm;
      this.choice = { ...USUAL, limbs: {}, drums: {}, gap: this.score.gap, faster: (n) => this.faster(n) };
      this.taps = [];
      this.recording = document.getElementById(place.dataset.recording || "");
      if (this.recording) this.beside();
      if ("pick" in place.dataset) this.pickBars();
      this.fill();
      this.recall();
      place.addEventListener("input", (event) => this.changed(event));
      place.addEventListener("click", (event) => this.pressed(event));
      // A key beside the music starts the room that stands elsewhere.
      this.starter = document.querySelector(`[data-starts="${place.dataset.room}"]`);
      if (this.starter) this.starter.addEventListener("click", () => this.toggle());
    }

    // What has to be on the screen while it sounds.
    get seat() { return this.starter || this.place; }

    // What is logged has a field of its own on the page, which may be put anew; both say the same.
    get field() { return document.getElementById(this.place.dataset.tempo || ""); }

    find(name) { return this.place.querySelector(`[data-part="${name}"]`); }

    // The recording follows what is played.
    beside() {
      const along = window.wren.along(this.recording, () => window.wren.now);
      this.along = along;
      this.choice.opens = (at, { from, to, seconds }, rate) =>
        along.opens(at, { second: from, until: to, rate, again: at + seconds / rate });
      this.choice.begins = this.choice.opens; // known when it is counted in
      this.choice.paced = (at, rate) => along.paced(at, rate);
      this.choice.ticked = () => along.tick();
    }

    // Lists that depend on the music: bars, limbs, drums.
    fill() {
      const { bars, limbs, drums, strokes } = this.score;
      const name = ([, , number, time]) => (time > 1 ? `${number || "pick-up"}, time ${time}` : number || "pick-up");
      for (const [part, chosen] of [["first", 0], ["last", bars.length - 1]]) {
        bars.forEach((bar, turn) => this.find(part).append(new Option(name(bar), turn, false, turn === chosen)));
      }
      this.find("bars").hidden = bars.length === 1;
      this.find("gap").value = this.score.gap;
      const row = this.find("limbs");
      const pictures = "pictures" in row.dataset ? scoreOf("drum-pictures") : null; // of the drums, for a child
      const button = (kind, at, text, key) => {
        const made = document.createElement("button");
        Object.assign(made, { type: "button", className: "btn btn-outline-secondary btn-sm limb-key" });
        Object.assign(made.dataset, { level: "0", kind, at, name: text });
        if (key) Object.assign(made.dataset, { key, does: `${text}: heard, soft, silent` });
        made.append(`${text}: heard`);
        if (pictures) {
          made.innerHTML = `<svg viewBox="0 0 24 24" aria-hidden="true"><use/></svg><span></span>`;
          made.querySelector("use").setAttribute("href", `#picture-${pictures[text]}`);
          made.lastChild.textContent = `${text}: heard`;
        }
        row.append(made);
      };
      limbs.forEach((limb, at) => {
        if (!pictures && strokes.some((stroke) => stroke[2] === at)) button("limbs", at, limb, String(at + 1));
      });
      drums.forEach((drum, at) => button("drums", at, drum));
      if (!this.rungs.length) this.find("faster-row").hidden = true;
    }

    recall() {
      for (const [part, value] of Object.entries(kept())) {
        const field = this.find(part);
        if (!field || field.type === "hidden") continue; // a child's is as it was set
        if (field.type === "checkbox") field.checked = value;
        else field.value = value;
      }
      this.read();
    }

    // A recording keeps its sound at 50 to 110 % only.
    get bpm() {
      const { bpm } = this.score;
      const [low, high] = this.recording ? [Math.ceil(bpm * 0.5), Math.floor(bpm * 1.1)] : [SLOWEST, FASTEST];
      return within(low, Math.round(Number(this.tempo.value)) || bpm, high);
    }

    read() {
      const { choice } = this;
      const number = (part, low, high) => within(low, Math.round(Number(this.find(part).value)) || 0, high);
      const pattern = this.find("pattern").value;
      choice.bpm = this.bpm;
      this.beat();
      choice.click = pattern !== "";
      choice.pattern = Number(pattern);
      choice.on = number("on", 1, 16);
      choice.off = number("off", 0, 16);
      choice.clickGain = Number(this.find("click-volume").value) / 100;
      choice.kit = Number(this.find("kit-volume").value) / 100;
      choice.wordGain = Math.max(0.4, choice.clickGain);
      choice.aloud = this.find("aloud").checked;
      choice.crash = this.find("crash").checked;
      choice.gap = number("gap", 0, 4);
      choice.rounds = number("rounds", 0, 99);
      choice.first = Number(this.find("first").value);
      choice.last = Math.max(choice.first, Number(this.find("last").value));
      const [, seconds, , , , middle] = this.score.bars[choice.first];
      const part = choice.first === choice.last ? this.find("piece-of").value : "";
      const beats = this.beats(choice.first);
      const beat = part.startsWith("beat") ? Number(part.slice(5)) : null;
      choice.from = part === "second" ? middle : beat ? beats[beat - 1] : null;
      choice.to = part === "first" ? middle : beat ? beats[beat] ?? seconds : null;
      this.offerParts(beats);
    }

    // Where the beats of a bar start, and where it ends.
    beats(turn) {
      const [at, seconds] = this.score.bars[turn];
      const within = ([pulse, level]) => level > 0 && pulse > at - 1e-4 && pulse < at + seconds - 1e-4;
      const inside = this.score.pulses.filter(within);
      return [...inside.map(([pulse]) => pulse - at), seconds];
    }

    offerParts(beats) {
      const field = this.find("piece-of");
      field.parentElement.hidden = this.choice.first !== this.choice.last;
      if (Number(field.dataset.beats) === beats.length) return;
      field.dataset.beats = beats.length;
      field.replaceChildren(new Option("the whole bar", ""), new Option("its first half", "first"),
        new Option("its second half", "second"),
        ...beats.slice(0, -1).map((beat, n) => new Option(`beat ${n + 1} alone`, `beat ${n + 1}`)));
    }

    changed(event) {
      const part = event.target.dataset.part;
      if (!part) return;
      if (part === "mine" && !event.target.checked) this.choice.mine = null;
      if (part === "bpm") this.retune(this.bpm, true);
      const before = this.choice.aloud;
      this.read();
      if ("keep" in event.target.dataset) {
        const value = event.target.type === "checkbox" ? event.target.checked : event.target.value;
        window.wrenStore.write(KEPT, { ...kept(), [part]: value });
        for (const other of rooms.values()) if (other !== this) other.recall(); // one switch for a page
      }
      if (this.playing && (["first", "last", "piece-of"].includes(part) || this.choice.aloud !== before)) this.play();
    }

    pressed(event) {
      const button = event.target.closest("button");
      if (!button) return;
      if (button.dataset.part === "play") this.toggle();
      if (button.dataset.by) this.retune(this.bpm + Number(button.dataset.by));
      if (button.dataset.part === "tap") this.tap(event.timeStamp);
      if (button.dataset.share) this.retune(Math.round((this.target * Number(button.dataset.share)) / 100));
      if (button.dataset.kind) this.level(button);
    }

    get target() { return Number(this.place.dataset.target) || this.rungs.at(-1) || this.score.bpm; }

    level(button) {
      const next = (Number(button.dataset.level) + 1) % LEVELS.length;
      const [loud, said] = LEVELS[next];
      button.dataset.level = next;
      (button.querySelector("span") || button).textContent = `${button.dataset.name}: ${said}`;
      this.choice[button.dataset.kind][button.dataset.at] = loud;
      if (this.drawing) this.hush();
    }

    hush() {
      const silent = new Set(this.score.strokes.filter(([, , limb, drum]) =>
        this.choice.limbs[limb] === 0 || this.choice.drums[drum] === 0).map((row) => `${row[5]} ${row[6]}`));
      this.drawing.hush((key) => silent.has(key));
    }

    // While a number is being typed its field is left alone.
    retune(bpm, typing) {
      if (!typing) {
        this.tempo.value = bpm;
        this.tempo.value = this.bpm;
      }
      if (this.field) this.field.value = this.bpm;
      this.choice.bpm = this.bpm;
      this.beat();
      if (this.playing) this.playing.tempo(this.bpm);
    }

    // How long one lasts, for what moves with it on the page.
    beat() { this.place.style.setProperty("--beat", `${60 / this.bpm}s`); }

    // The page's field was changed, by hand or by what the studio answered.
    heed(field) {
      this.tempo.value = field.value;
      this.beat();
      this.choice.bpm = this.bpm;
      if (this.playing) this.playing.tempo(this.bpm);
    }

    tap(now) {
      this.taps = [...this.taps.filter((one) => now - one < 2500), now].slice(-6);
      if (this.taps.length < 2) return;
      this.retune(Math.round((60000 * (this.taps.length - 1)) / (now - this.taps[0])));
    }

    // Up by the step's own rungs, never past the target.
    faster(round) {
      const every = Math.max(1, Number(this.find("every").value) || 4);
      if (!this.find("faster").checked || round % every) return;
      const next = this.rungs.find((rung) => rung > this.choice.bpm);
      if (!next || next > this.target) return;
      this.choice.bpm = next;
      this.tempo.value = next;
      this.beat();
      if (this.field) this.field.value = next;
    }

    get playing() { return this.player && this.player === window.wren.playing ? this.player : null; }

    toggle() {
      if (this.going) window.wren.stop();
      else this.play();
    }

    async play() {
      this.read();
      if (this.drawing) this.drawing.clear();
      this.drawing = new Drawing(this.place.closest(this.place.dataset.music || ".panel"), this.score);
      this.hush();
      this.show(true);
      const began = { bpm: this.bpm, at: Date.now() };
      const player = await window.wren.start(this.score, this.choice, () => this.ended(began));
      if (!player) return;
      this.player = player;
      this.low = this.high = this.bpm;
      began.at = Date.now();
      this.place.dispatchEvent(new CustomEvent("practising", { bubbles: true }));
      leaving.observe(this.seat);
      requestAnimationFrame(() => this.follow(player));
    }

    // A bar of the chart that is pressed is looped; another one pressed behind it, all between.
    pickBars() {
      document.querySelector(this.place.dataset.music).addEventListener("click", (event) => {
        const turn = this.turnAt(event);
        if (turn === null) return;
        if (this.mine && this.mine.checked) { this.own(this.score.bars[turn]); return; }
        const { first, last } = this.choice;
        const one = this.picked && first === last && turn !== first;
        this.loop(one ? Math.min(first, turn) : turn, one ? Math.max(first, turn) : turn);
        this.picked = true;
      });
      this.mine = this.find("mine"); // bars that somebody plays, and the machine the rest
      if (this.mine) this.mine.closest("label").hidden = false;
      this.find("whole").addEventListener("click", () => {
        this.loop(0, this.score.bars.length - 1);
        this.picked = false;
      });
    }

    // One bar is theirs; another one pressed, all between.
    own([, , number, , , , place]) {
      const [first, last] = this.choice.mine || [place, place];
      const one = this.choice.mine && first === last && place !== first;
      this.choice.mine = one ? [Math.min(first, place), Math.max(first, place)] : [place, place];
      if (this.playing) return;
      this.find("where").textContent = one ? "these bars are yours" : `bar ${number} is yours`;
    }

    // Which bar of the road was pressed on the chart, or null.
    turnAt(event) {
      const line = event.target.closest(".staff-svg");
      if (!line) return null;
      const middle = (note) => { const box = note.getBoundingClientRect(); return box.left + box.width / 2; };
      const notes = [...line.querySelectorAll("[id]")].filter((note) => /l\d+-b\d+h\d+/.test(note.id));
      const away = (note) => Math.abs(middle(note) - event.clientX);
      const near = notes.sort((one, other) => away(one) - away(other))[0];
      if (!near) return null;
      const [, first, place] = near.id.match(/l(\d+)-b(\d+)/).map(Number);
      const turn = this.score.bars.findIndex((bar) => bar[6] === first + place);
      return turn < 0 ? null : turn;
    }

    loop(first, last) {
      const all = first === 0 && last === this.score.bars.length - 1;
      this.find("first").value = first;
      this.find("last").value = last;
      this.find("last").dispatchEvent(new Event("input", { bubbles: true }));
      this.find("whole").hidden = all;
      const [from, to] = [first, last].map((at) => this.score.bars[at][2]);
      const said = from === to ? `bar ${from}: press another bar for all between` : `bars ${from} to ${to}`;
      if (!this.playing) this.find("where").textContent = all ? "the whole piece" : said;
    }

    show(going) {
      this.going = going;
      const button = this.find("play");
      button.setAttribute("aria-pressed", String(going));
      button.firstElementChild.textContent = going ? "Stop" : "Start";
      if (!this.starter) return;
      this.starter.setAttribute("aria-pressed", String(going));
      const { go, stop } = this.starter.lastElementChild.dataset;
      this.starter.lastElementChild.textContent = going ? stop || "stop" : go || "play";
    }

    ended(began) {
      this.show(false);
      if (this.along) this.along.stop();
      leaving.unobserve(this.seat);
      if (this.drawing) this.drawing.clear();
      this.find("where").textContent = "";
      if (!this.player) return; // stopped before its sounds were here
      const seconds = (Date.now() - began.at) / 1000;
      const told = {
        step: this.place.dataset.room, seconds, rounds: this.player.number,
        low: this.low || began.bpm, high: this.high || began.bpm,
      };
      this.player = null;
      this.place.dispatchEvent(new CustomEvent("practised", { bubbles: true, detail: told }));
    }

    // What sounds now is marked; the bar and the round are said.
    follow(player) {
      if (this.playing !== player) return;
      const now = window.wren.now;
      this.drawing.fade(now);
      while (player.marks.length && player.marks[0].audio <= now) {
        const mark = player.marks.shift();
        if (mark.what === "stroke" && mark.loud) this.drawing.mark(mark.turn, mark.hit, now);
        else if (mark.what === "bar") this.say(mark);
        else if (mark.what === "count") this.find("where").textContent = `counting in: ${mark.word}`;
      }
      this.low = Math.min(this.low, this.bpm);
      this.high = Math.max(this.high, this.bpm);
      requestAnimationFrame(() => this.follow(player));
    }

    say({ turn, round }) {
      const said = [];
      if (turn === null) said.push("empty bar");
      else {
        const [, , number, time] = this.score.bars[turn];
        said.push(number ? `bar ${number}` : "pick-up");
        if (time > 1) said.push(`time ${time}`);
        this.drawing.look(turn < this.choice.last ? turn + 1 : this.choice.first);
      }
      said.push(`round ${round + 1}${this.choice.rounds ? ` of ${this.choice.rounds}` : ""}`);
      this.find("where").textContent = said.join(" · ");
    }
  }

  // Sound stops when its step leaves the page or is put away.
  const leaving = new IntersectionObserver((seen) => {
    for (const one of seen) {
      const room = [...rooms.values()].find((each) => each.seat === one.target);
      if (!one.isIntersecting && !one.target.offsetParent && room && room.going) window.wren.stop();
    }
  });

  function furnish(page) {
    for (const place of page.querySelectorAll("[data-room]")) {
      if (!rooms.has(place) && document.getElementById(place.dataset.room)) rooms.set(place, new Room(place));
    }
  }

  // A room that was swapped away.
  function letGo(place, room) {
    leaving.unobserve(room.seat);
    rooms.delete(place);
  }

  // ---- buttons that sound by themselves ----------------------------------------------------
  let pressed = null;

  function plays(button) {
    const again = button === pressed;
    window.wren.stop();
    if (again) return;
    const score = scoreOf(button.dataset.play);
    const bpm = document.getElementById(button.dataset.bpm || "");
    const said = button.firstChild.textContent;
    pressed = button;
    button.setAttribute("aria-pressed", "true");
    button.firstChild.textContent = "Stop ";
    const tempo = Number(bpm && bpm.value) || score.bpm;
    const choice = { ...USUAL, ...volumes(), bpm: tempo, rounds: score.rounds || 0 };
    window.wren.start(score, choice, () => {
      pressed = null;
      button.setAttribute("aria-pressed", "false");
      button.firstChild.textContent = said;
    });
  }

  function volumes() {
    const { "click-volume": click, "kit-volume": kit } = kept();
    return { clickGain: (click ?? 60) / 100, kit: (kit ?? 60) / 100 };
  }

  // A minute to look before it is counted in; pressed again it begins at once.
  let looking = 0;

  function looks(button) {
    const said = button.firstChild.textContent;
    const end = Date.now() + 1000 * button.dataset.look;
    const tell = () => {
      const left = Math.ceil((end - Date.now()) / 1000);
      if (left <= 0 || !button.isConnected) return begin(button.isConnected);
      button.firstChild.textContent = `Begin now: ${left} s to look `;
    };
    const begin = (sounds) => {
      clearInterval(looking);
      looking = 0;
      button.removeAttribute("data-looks");
      button.firstChild.textContent = said;
      if (sounds) plays(button);
    };
    looking = setInterval(tell, 250);
    button.setAttribute("data-looks", "");
    button.addEventListener("wren:begin", () => begin(true), { once: true });
    tell();
  }

  document.addEventListener("click", (event) => {
    const button = event.target.closest("[data-play]");
    if (!button) return;
    if (button.dataset.look && button !== pressed && !looking) looks(button);
    else if (button.hasAttribute("data-looks")) button.dispatchEvent(new Event("wren:begin"));
    else plays(button);
  });
  document.addEventListener("change", (event) => {
    const { touch } = event.target.dataset;
    if (touch) window.wren.touch({ ...scoreOf(touch) });
  });

  // Space starts and stops, wherever the page is not typed in and no button has the focus.
  document.addEventListener("keydown", (event) => {
    if (event.key !== " " || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.target.closest(TAKES_SPACE)) return;
    const seen = (place) => place.offsetParent && place.getBoundingClientRect().bottom > 0;
    const going = [...rooms.values()].find((room) => room.going);
    const button = [...document.querySelectorAll("[data-play]")].find(seen);
    const room = going || [...rooms.values()].find((one) => one.place.isConnected && seen(one.seat));
    if (!room && !button && !pressed) return;
    event.preventDefault();
    if (pressed || (!room && button)) (pressed || button).click();
    else room.toggle();
  });

  document.addEventListener("htmx:beforeSwap", (event) => {
    if (window.wren.playing && event.target.querySelector("[data-play], [data-room]")) window.wren.stop();
  });
  document.addEventListener("htmx:afterSettle", () => {
    for (const [place, room] of rooms) if (!place.isConnected) letGo(place, room);
    furnish(document);
    for (const room of rooms.values()) if (room.field) room.heed(room.field);
  });
  document.addEventListener("input", (event) => {
    for (const room of rooms.values()) if (event.target === room.field) room.heed(event.target);
  });
  addEventListener("pagehide", () => window.wren.stop());
  furnish(document);

  // The sounds are fetched while nothing else is to be done, so that the first key sounds at once.
  const idle = window.requestIdleCallback || ((act) => setTimeout(act, 300));
  addEventListener("load", () => idle(() => {
    for (const { score } of rooms.values()) window.wren.gather(score, true);
  }));
})();
