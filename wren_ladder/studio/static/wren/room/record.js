// Records a take: strokes by keys, by touch or from an electronic kit, against the clock that the
// click runs on. What they are worth is worked out by the studio; no sound is kept.
(function () {
  "use strict";
  const form = document.querySelector("form[data-record]");
  if (!form) return;
  const told = form.querySelector("[data-told]");
  const pads = [...form.querySelectorAll("[data-drum]")];
  const letters = new Map(pads.map((pad) => [pad.dataset.letter, pad.dataset.drum]));
  let take = null; // { player, zero, strokes, source }

  const say = (text) => { told.textContent = text; };

  // When something happened on the audio clock, as it was heard.
  function heardAt(stamp) {
    const { context } = take.player;
    return context.currentTime - (context.outputLatency || 0) - (performance.now() - stamp) / 1000 - take.zero;
  }

  function strike(drum, strength, stamp) {
    if (!take) return;
    take.strokes.push([Math.round(heardAt(stamp) * 10000) / 10, drum, strength]);
    say(`${take.strokes.length} stroke${take.strokes.length > 1 ? "s" : ""} heard`);
  }

  async function record(source) {
    if (take) { window.wren.stop(); return; }
    const score = JSON.parse(document.getElementById(form.dataset.record).textContent);
    const choice = {
      ...window.wren.USUAL, bpm: Number(form.elements.tempo.value) || score.bpm, gap: 0, kit: 0,
      rounds: Number(form.elements.passes.value) || 1,
    };
    form.classList.add("recording");
    const player = await window.wren.start(score, choice, ended);
    if (!player) { form.classList.remove("recording"); return; }
    take = { player, zero: player.anchor.audio, strokes: [], source };
    say("Counted in, then play. It stops by itself.");
  }

  function ended() {
    form.classList.remove("recording");
    const done = take;
    take = null;
    if (!done) return;
    if (!done.strokes.length) { say("Nothing was heard."); return; }
    form.elements.source.value = done.source;
    form.elements.strokes.value = JSON.stringify(done.strokes);
    form.requestSubmit();
  }

  addEventListener("keydown", (event) => {
    if (!take || event.ctrlKey || event.metaKey || event.altKey) return;
    const drum = letters.get(event.key.toLowerCase());
    if (!drum) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    if (!event.repeat) strike(drum, null, event.timeStamp);
  }, true);

  for (const pad of pads) {
    pad.addEventListener("pointerdown", (event) => {
      event.preventDefault();
      strike(pad.dataset.drum, null, event.timeStamp);
    });
  }

  form.querySelector("[data-by-keys]").addEventListener("click", () => record("keys"));

  const kit = form.querySelector("[data-by-kit]");
  kit.hidden = !navigator.requestMIDIAccess;
  kit.addEventListener("click", async () => {
    let access;
    try { access = await navigator.requestMIDIAccess(); } catch (error) {
      say("The browser may not listen to MIDI here. Allow it for this page, or use keys.");
      return;
    }
    const inputs = [...access.inputs.values()];
    if (!inputs.length) { say("No kit is plugged in: connect it by USB and press again."); return; }
    for (const input of inputs) {
      input.onmidimessage = ({ data: [status, note, velocity], timeStamp }) => {
        if ((status & 0xf0) === 0x90 && velocity) strike(note, velocity, timeStamp);
      };
    }
    record("kit");
  });
})();
