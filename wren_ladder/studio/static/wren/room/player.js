// The instrument of the practice room: plays a score (drawing/sound.py) on the audio clock, round
// after round, live or into a file. What a stroke sounds like and where clicks fall stands in
// the score; here is only when it reaches the loudspeaker.
(function () {
  "use strict";
  const script = document.currentScript;
  const RATE = 44100; // of the samples
  const MASTER = 0.32; // so that kick, snare, crash and click together stay below full scale
  const START = 0.08, SHOWN = 0.2, HIDDEN = 1.2; // seconds: before the first sound; scheduled ahead
  const OVERDUE = 0.05; // seconds after which a sound is not heard any more
  const CHOKE = 0.006, FADE = 0.03; // time constants of a hat that is closed, a sample that is cut

  // The same sounds, in a third of the bytes where the browser plays them.
  const DRUMS = new Audio().canPlayType('audio/ogg; codecs="vorbis"') ? "ogg" : "flac";

  const samples = new Map(); // address -> promise of its sound

  function sample(folder, name, ending) {
    const base = script.dataset[folder].replace("NAME", name).replace("ENDING", ending);
    if (!samples.has(base)) samples.set(base, load(base));
    return samples.get(base);
  }

  async function load(address) {
    try {
      const answer = await fetch(address);
      if (!answer.ok) throw new Error(answer.status);
      return await new OfflineAudioContext(1, 1, RATE).decodeAudioData(await answer.arrayBuffer());
    } catch (error) { // no connection: silent now, asked for again the next time
      samples.delete(address);
      return null;
    }
  }

  // All that a score needs, so that nothing is missing when its time has come.
  async function gather(score, aloud) {
    const kit = new Map(), words = new Map();
    const names = [...new Set(score.voices.map(([name]) => name))];
    const said = aloud ? [...new Set(spoken(score))] : [];
    await Promise.all([
      ...names.map(async (name) => kit.set(name, await sample("sounds", name, DRUMS))),
      ...said.map(async (name) => words.set(name, await sample("words", name, "flac"))),
    ]);
    return { kit, words };
  }

  function spoken(score) {
    const counted = score.countIns.flatMap(([, , words]) => words);
    return [...score.syllables.map(([, word]) => word), ...counted].map((word) => score.spoken[word]).filter(Boolean);
  }

  // A short tone: high on 1, lower on a beat, softest between.
  function clicks(context) {
    return [[1100, 0.35], [1500, 0.6], [2100, 0.9]].map(([pitch, strength]) => {
      const buffer = context.createBuffer(1, RATE * 0.03, RATE);
      const data = buffer.getChannelData(0);
      for (let i = 0; i < data.length; i += 1) {
        data[i] = strength * Math.cos((2 * Math.PI * pitch * i) / RATE) * Math.exp(-i / (RATE * 0.006));
      }
      return buffer;
    });
  }

  class Instrument {
    constructor(context, gathered) {
      this.context = context;
      this.gathered = gathered;
      this.clicks = clicks(context);
      this.master = context.createGain();
      this.master.gain.value = MASTER;
      this.master.connect(context.destination);
      this.ringing = []; // hats that a hat stroke silences
    }

    start(buffer, at, gain, rate) {
      const source = this.context.createBufferSource();
      const level = this.context.createGain();
      source.buffer = buffer;
      source.playbackRate.value = rate || 1;
      level.gain.value = gain;
      source.start(at);
      return { source, level };
    }

    strike([name, gain, cutoff, fade, rate, chokes], at, loud) {
      const buffer = this.gathered.kit.get(name);
      if (!buffer || !loud) return;
      const { source, level } = this.start(buffer, at, gain * loud, rate);
      const tone = this.context.createBiquadFilter();
      tone.type = "lowpass";
      tone.frequency.value = Math.min(cutoff, this.context.sampleRate / 2);
      source.connect(tone).connect(level).connect(this.master);
      if (fade) {
        level.gain.setTargetAtTime(0, at + fade, FADE);
        source.stop(at + fade + 10 * FADE);
      }
      if (!chokes) return;
      for (const other of this.ringing) {
        if (other.at < at - 0.001) other.level.gain.setTargetAtTime(0, at, CHOKE);
      }
      this.ringing = [...this.ringing.filter((other) => other.at >= at - 0.001), { level, at }];
    }

    click(strength, at, loud) {
      if (!loud) return;
      const { source, level } = this.start(this.clicks[strength], at, loud);
      source.connect(level).connect(this.master);
    }

    // A syllable that would still sound when its time is over is left out; a beat is cut.
    say(name, at, room, beat, loud) {
      const buffer = this.gathered.words.get(name);
      if (!buffer || !loud || (!beat && buffer.duration > room)) return;
      const { source, level } = this.start(buffer, at, loud);
      source.connect(level).connect(this.master);
      if (buffer.duration > room) {
        level.gain.setTargetAtTime(0, at + Math.max(0.05, room - 0.03), 0.01);
        source.stop(at + room + 0.05);
      }
    }

    silence() {
      this.master.gain.setTargetAtTime(0, this.context.currentTime, 0.01);
    }
  }

  // What is played of a score in one round: the events of its bars, then those of the empty bars.
  class Round {
    constructor(score, choice) {
      const bars = score.bars;
      const first = Math.max(0, Math.min(choice.first ?? 0, bars.length - 1));
      const last = Math.max(first, Math.min(choice.last ?? bars.length - 1, bars.length - 1));
      this.score = score;
      const [opens, , , , counted] = bars[first];
      const [closes, lasts] = bars[last];
      this.from = opens + (choice.from ?? 0);
      this.to = choice.to != null ? opens + choice.to : closes + lasts;
      const gap = choice.gap ?? score.gap ?? 0;
      this.seconds = this.to - this.from + gap * lasts;
      this.events = this.between(this.from, this.to);
      const clicked = score.pulses.filter(([at]) => at > closes - 1e-4 && at < closes + lasts - 1e-4);
      for (let n = 0; n < gap; n += 1) {
        const at = this.to - this.from + n * lasts;
        this.events.push({ at, what: "bar", turn: null });
        for (const [pulse, strength, bits] of clicked) {
          this.events.push({ at: at + pulse - closes, what: "click", strength, bits });
        }
      }
      this.events.sort((a, b) => a.at - b.at);
      const [before, ticks, words] = score.countIns[counted];
      this.before = before;
      this.countIn = ticks.map((at, n) => ({ at, what: "count", strength: n ? 1 : 2, word: words[n] }));
    }

    between(from, to) {
      const inside = ([at]) => at > from - 1e-4 && at < to - 1e-4;
      const { bars, strokes, pulses, syllables } = this.score;
      const spread = syllables.filter(inside);
      return [
        ...bars.map((bar, turn) => [...bar.slice(0, 1), turn]).filter(([at], turn) =>
          at < to - 1e-4 && at + bars[turn][1] > from + 1e-4)
          .map(([at, turn]) => ({ at: Math.max(at, from) - from, what: "bar", turn })),
        ...pulses.filter(inside).map(([at, strength, bits]) => ({ at: at - from, what: "click", strength, bits })),
        ...spread.map(([at, word, beat], n) => ({
          at: at - from, what: "word", word, beat, room: (n + 1 < spread.length ? spread[n + 1][0] : to) - at,
        })),
        ...strokes.filter(inside).map(([at, voice, limb, drum, ahead, turn, hit, again]) => ({
          at: at - from, what: "stroke", voice, limb, drum, ahead, turn, hit, again,
        })),
      ];
    }
  }

  // One thing that sounds. ``choice`` is read anew for every event, so that a switch acts at once:
  // bpm, first, last, from, to, gap, rounds, limbs, drums, kit, click, pattern, on, off, aloud, crash.
  class Player {
    constructor(context, score, choice, gathered) {
      this.context = context;
      this.score = score;
      this.choice = choice;
      this.instrument = new Instrument(context, gathered);
      this.round = new Round(score, choice);
      this.number = 0; // of the round
      this.barsClicked = 0;
      this.next = 0;
      this.counting = true;
      this.rate = choice.bpm / score.bpm;
      this.marks = []; // what is to be shown, and when
      this.ended = null; // when the last round is over
    }

    begin(at) {
      const counts = this.choice.countIn ? this.round.countIn : [];
      this.events = counts;
      this.length = 0; // the count-in ends where the music begins
      this.anchor = { audio: at + (counts.length ? -counts[0].at : 0) / this.rate, at: 0 };
      this.horizon = at;
      if (this.choice.begins) this.choice.begins(this.anchor.audio, this.round, this.rate);
    }

    audio(at) { return this.anchor.audio + (at - this.anchor.at) / this.rate; }

    // From where nothing is scheduled yet: no gap, and nothing twice.
    tempo(bpm) {
      const rate = bpm / this.score.bpm;
      if (rate === this.rate) return;
      if (this.choice.paced) this.choice.paced(this.horizon, rate);
      const at = this.anchor.at + (this.horizon - this.anchor.audio) * this.rate;
      this.anchor = { audio: this.horizon, at };
      this.rate = rate;
    }

    schedule(until) {
      while (this.ended === null) {
        while (this.next < this.events.length && this.audio(this.events[this.next].at) < until) {
          const event = this.events[this.next];
          this.next += 1;
          this.play(event, this.audio(event.at));
        }
        if (this.next < this.events.length || this.audio(this.length) >= until) break;
        this.turn();
      }
      this.horizon = Math.max(this.horizon, until);
    }

    // A round is over, or the count-in: on to the next, at the tempo that it asks for.
    turn() {
      const at = this.audio(this.length);
      if (this.counting) this.counting = false;
      else {
        this.number += 1;
        this.marks.push({ audio: at, what: "round", number: this.number });
        if (this.choice.rounds && this.number >= this.choice.rounds) { this.ended = at; return; }
        if (this.choice.faster) this.choice.faster(this.number);
        this.round = new Round(this.score, this.choice);
      }
      this.rate = this.choice.bpm / this.score.bpm;
      this.anchor = { audio: at, at: 0 };
      if (this.choice.opens) this.choice.opens(at, this.round, this.rate);
      this.events = this.round.events;
      this.length = this.round.seconds;
      this.next = 0;
    }

    play(event, at) {
      const { choice, instrument, score } = this;
      if (event.what === "bar") {
        this.barsClicked += 1;
        this.marks.push({ audio: at, what: "bar", turn: event.turn, round: this.number });
        return;
      }
      // After a stall what is overdue is dropped, not played all at once.
      if (at < this.context.currentTime - OVERDUE) return;
      if (event.what === "count") {
        instrument.click(event.strength, at, choice.clickGain);
        if (choice.aloud) instrument.say(score.spoken[event.word], at, 1, 1, choice.wordGain);
        this.marks.push({ audio: at, what: "count", word: event.word });
      } else if (event.what === "click") {
        const turn = (this.barsClicked - 1) % (choice.on + choice.off || 1);
        const heard = choice.click && event.bits & (1 << choice.pattern) && (!choice.off || turn < choice.on);
        if (heard) instrument.click(event.strength, at, choice.clickGain);
        if (heard) this.marks.push({ audio: at, what: "click" });
      } else if (event.what === "word") {
        const name = score.spoken[event.word];
        if (choice.aloud && name) instrument.say(name, at, event.room / this.rate, event.beat, choice.wordGain);
      } else {
        const again = this.number > 0 && !choice.crash && event.again !== undefined;
        const loud = choice.kit * (choice.limbs[event.limb] ?? 1) * (choice.drums[event.drum] ?? 1);
        const voice = score.voices[again ? event.again : event.voice];
        const when = Math.max(at - event.ahead, this.context.currentTime);
        const bar = score.bars[event.turn];
        const mine = choice.mine && bar && bar[6] >= choice.mine[0] && bar[6] <= choice.mine[1];
        if (loud && !mine) instrument.strike(voice, when, loud); // seen, where it is somebody's own
        const { turn, hit, limb } = event;
        this.marks.push({ audio: when, what: "stroke", turn, hit, limb, loud });
      }
    }
  }

  const USUAL = {
    first: 0, last: null, from: null, to: null, gap: null, rounds: 0, kit: 1, limbs: {}, drums: {},
    countIn: true, click: true, pattern: 0, on: 1, off: 0, clickGain: 0.8, aloud: false, wordGain: 1, crash: false,
    mine: null, faster: null, begins: null, opens: null, paced: null, ticked: null,
  };

  // ---- live -------------------------------------------------------------------------------
  let context = null, player = null, timer = null, stopped = null, lock = null;

  function tick() {
    if (!player) return;
    player.schedule(context.currentTime + (document.hidden ? HIDDEN : SHOWN));
    if (player.choice.ticked) player.choice.ticked();
    if (player.ended !== null && context.currentTime > player.ended + 0.3) stop();
  }

  function ticking() {
    if (timer) return;
    timer = new Worker(script.dataset.timer);
    timer.onmessage = tick;
    timer.onerror = () => setInterval(tick, 50); // in this thread, where it could not be fetched
  }

  // One thing sounds on a page at a time. Answers the player; ``whenStopped`` is told its end.
  async function start(score, choice, whenStopped) {
    stop();
    const mine = { told: whenStopped }; // told too if it is stopped before its sounds are here
    stopped = mine;
    context = context || new AudioContext({ latencyHint: "interactive" });
    const gathered = await gather(score, choice.aloud);
    await context.resume();
    if (stopped !== mine) return null; // something else was started meanwhile
    player = new Player(context, score, choice, gathered);
    player.begin(context.currentTime + START);
    ticking();
    tick();
    wake();
    return player;
  }

  function stop() {
    const ended = stopped;
    if (player) player.instrument.silence();
    player = null;
    stopped = null;
    if (lock) lock.release().catch(() => {});
    lock = null;
    if (ended && ended.told) ended.told();
  }

  // The phone beside the kit stays awake while it plays.
  async function wake() {
    if (!navigator.wakeLock || lock) return;
    lock = await navigator.wakeLock.request("screen").catch(() => null);
    if (!player && lock) stop();
  }
  document.addEventListener("visibilitychange", () => { tick(); if (player && !document.hidden) wake(); });

  // The same without a loudspeaker, for whoever wants to look at what is played: scheduled as it
  // is live, by ``act`` changed on the way, and rendered into a buffer.
  async function rehearse(score, chosen, seconds, rate, act) {
    const choice = { ...USUAL, bpm: score.bpm, ...chosen };
    const gathered = await gather(score, choice.aloud);
    const offline = new OfflineAudioContext(1, Math.ceil(seconds * rate), rate);
    const made = new Player(offline, score, choice, gathered);
    made.begin(START);
    for (let at = SHOWN; at < seconds + SHOWN; at += 0.025) {
      if (act) act(at, made);
      made.schedule(Math.min(at, seconds));
    }
    return { marks: made.marks, render: () => offline.startRendering() };
  }

  // What is heard at a moment of the page's clock (ms), in seconds of the audio clock. The pair of both
  // clocks at one moment is true to a twentieth of a millisecond, the clock's own steps to two.
  function heardAt(stamp) {
    const pair = context.getOutputTimestamp ? context.getOutputTimestamp() : null;
    if (pair && pair.contextTime > 0 && pair.performanceTime > 0) {
      return pair.contextTime + (stamp - pair.performanceTime) / 1000;
    }
    return context.currentTime - (context.outputLatency || 0) - (performance.now() - stamp) / 1000;
  }

  // One touch, heard once, unless something plays.
  async function touch(score) {
    if (player) return;
    await start(score, { ...USUAL, bpm: score.bpm, click: false, countIn: false, rounds: 1, gap: 0 }, null);
  }

  window.wren = {
    USUAL, start, stop, rehearse, touch, gather,
    get playing() { return player; },
    get now() { return context ? heardAt(performance.now()) : 0; },
    heardAt,
  };
})();
