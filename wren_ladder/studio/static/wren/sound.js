// Sounds the bars of a page: strokes and clicks made here, scheduled ahead on the audio clock.
(function () {
  "use strict";
  const AHEAD = 0.4, EVERY = 120, QUIET = 0.35; // seconds, milliseconds, and a gentle volume

  // Sound stops when its step leaves the screen.
  const leaving = new IntersectionObserver((seen) => {
    if (timer && seen.some((one) => !one.isIntersecting)) stop();
  });

  let context = null, noise = null, timer = null, stopped = () => {};

  function open() {
    if (context) return;
    context = new AudioContext();
    noise = context.createBuffer(1, context.sampleRate, context.sampleRate);
    const data = noise.getChannelData(0);
    for (let i = 0; i < data.length; i += 1) data[i] = Math.random() * 2 - 1;
  }

  function fade(at, strength, seconds) {
    const gain = context.createGain();
    gain.gain.setValueAtTime(strength * QUIET, at);
    gain.gain.exponentialRampToValueAtTime(0.0008, at + seconds);
    gain.connect(context.destination);
    return gain;
  }

  function tone(at, strength, from, to, seconds, type) {
    const wave = context.createOscillator();
    wave.type = type || "sine";
    wave.frequency.setValueAtTime(from, at);
    wave.frequency.exponentialRampToValueAtTime(to, at + seconds);
    wave.connect(fade(at, strength, seconds));
    wave.start(at);
    wave.stop(at + seconds);
  }

  function hiss(at, strength, above, seconds) {
    const source = context.createBufferSource();
    const filter = context.createBiquadFilter();
    source.buffer = noise;
    filter.type = "highpass";
    filter.frequency.value = above;
    source.connect(filter).connect(fade(at, strength, seconds));
    source.start(at);
    source.stop(at + seconds);
  }

  const voices = {
    kick: (at, s) => tone(at, s * 1.6, 120, 45, 0.18),
    snare: (at, s) => { hiss(at, s, 1200, 0.14); tone(at, s * 0.6, 220, 160, 0.09, "triangle"); },
    stick: (at, s) => tone(at, s * 0.7, 900, 700, 0.04, "triangle"),
    high: (at, s) => tone(at, s * 1.2, 240, 150, 0.22),
    mid: (at, s) => tone(at, s * 1.2, 180, 110, 0.25),
    floor: (at, s) => tone(at, s * 1.3, 120, 75, 0.3),
    "floor-2": (at, s) => tone(at, s * 1.3, 100, 62, 0.34),
    jingle: (at, s) => hiss(at, s * 0.6, 8200, 0.09),
    block: (at, s) => tone(at, s * 0.8, 1050, 980, 0.06, "sine"),
    hat: (at, s) => hiss(at, s * 0.5, 7000, 0.05),
    open: (at, s) => hiss(at, s * 0.5, 6500, 0.3),
    ride: (at, s) => { hiss(at, s * 0.35, 5000, 0.35); tone(at, s * 0.12, 620, 610, 0.3, "square"); },
    bell: (at, s) => tone(at, s * 0.35, 820, 810, 0.3, "square"),
    crash: (at, s) => hiss(at, s * 0.7, 3500, 0.9),
    click: (at, s) => tone(at, s, 1500, 1400, 0.03, "triangle"),
  };

  function play(score, bpm, clicking, done) {
    open();
    context.resume();
    const scale = score.bpm / bpm; // at another tempo everything but a grace's own time
    let start = context.currentTime + 0.1 + score.before * scale;
    for (const at of score.countIn) voices.click(start + at * scale, 0.7);
    const length = score.length * scale;
    const sound = ([at, voice, strength, ahead]) => {
      voices[voice](Math.max(start + at * scale - ahead, context.currentTime), strength);
    };
    const pass = () => {
      while (start < context.currentTime + AHEAD) {
        score.strokes.forEach(sound);
        if (clicking()) for (const at of score.clicks) voices.click(start + at * scale, 0.3);
        start += length;
      }
    };
    pass();
    timer = window.setInterval(pass, EVERY);
    stopped = done;
  }

  function stop() {
    window.clearInterval(timer);
    timer = null;
    if (context) context.close();
    context = null;
    stopped();
  }

  document.addEventListener("click", (event) => {
    const button = event.target.closest("[data-play]");
    if (!button) return;
    const again = button.getAttribute("aria-pressed") === "true";
    if (timer) stop();
    if (again) return;
    const score = JSON.parse(document.getElementById(button.dataset.play).textContent);
    const bpm = document.getElementById(button.dataset.bpm || "");
    const click = document.querySelector("[data-click]");
    button.setAttribute("aria-pressed", "true");
    const said = button.firstChild.textContent;
    button.firstChild.textContent = "Stop ";
    const clicks = () => !click || click.checked;
    const ended = () => {
      button.setAttribute("aria-pressed", "false");
      button.firstChild.textContent = said;
      leaving.disconnect();
    };
    leaving.observe(button.closest("section") || button);
    play(score, Number(bpm && bpm.value) || score.bpm, clicks, ended);
  });

  // What is touched is heard once, unless something plays.
  document.addEventListener("change", (event) => {
    const id = event.target.dataset.touch;
    if (!id || timer) return;
    const score = JSON.parse(document.getElementById(id).textContent);
    open();
    context.resume();
    const start = context.currentTime + 0.05;
    for (const [at, voice, strength] of score.strokes) voices[voice](start + at, strength);
  });

  // One switch for all steps of a page, wherever it is pressed.
  document.addEventListener("change", (event) => {
    if (!event.target.matches("[data-click]")) return;
    document.querySelectorAll("[data-click]").forEach((one) => { one.checked = event.target.checked; });
  });

  document.addEventListener("htmx:beforeSwap", (event) => {
    if (timer && event.target.querySelector("[data-play]")) stop();
  });
})();
