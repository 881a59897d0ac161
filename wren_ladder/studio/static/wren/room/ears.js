// What a page can listen to: the notes of an electronic kit, told as events of the page, and the
// onsets of a microphone, told to who opened it. No sound is kept.
(function () {
  "use strict";
  const script = document.currentScript;
  const LOUDEST = 127, HAT = 4; // the controller of a hat's pedal
  const PRESSED = 64; // of 127: a pedal that is down
  const KEPT = "wren-set-up";
  let microphone = null; // { stream, source }

  // How late each way is, what a kit's notes are and which of them are keys: this device keeps it.
  function setUp() {
    const usual = { delays: {}, own: {}, keys: {}, layout: "general", curve: "even" };
    return { ...usual, ...window.wrenStore.read(KEPT, {}) };
  }
  function keep(changed) { window.wrenStore.write(KEPT, { ...setUp(), ...changed }); }

  const ears = {
    setUp,
    keep,
    kits: Boolean(navigator.requestMIDIAccess),
    microphones: Boolean(navigator.mediaDevices && navigator.mediaDevices.getUserMedia && window.AudioWorkletNode),
    pedal: null, // where the hat's pedal stands, 0 closed to 127 open

    // Each answers what is in the way, or "".
    async plug() {
      let access;
      try { access = await navigator.requestMIDIAccess(); } catch (error) {
        return "The browser may not listen to MIDI here. Allow it for this page, or use keys.";
      }
      const inputs = [...access.inputs.values()];
      for (const input of inputs) input.onmidimessage = sounded;
      return inputs.length ? "" : "No kit is plugged in: connect it by USB and press again.";
    },

    async open() {
      try {
        const stream = await navigator.mediaDevices.getUserMedia({
          audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false, channelCount: 1 },
        });
        microphone = { stream };
        return "";
      } catch (error) {
        return "The browser may not listen here. Allow the microphone for this page, or use keys.";
      }
    },

    // Onsets of the open microphone: seconds of the audio clock as they were heard, and how loud.
    async hear(context, onset) {
      await context.audioWorklet.addModule(script.dataset.onsets);
      if (!microphone) return;
      const node = new AudioWorkletNode(context, "onsets", { numberOfOutputs: 0 });
      node.port.onmessage = ({ data: [at, level] }) => onset(at - (context.outputLatency || 0), level);
      microphone.source = context.createMediaStreamSource(microphone.stream);
      microphone.source.connect(node);
    },

    deaf() {
      if (!microphone) return;
      if (microphone.source) microphone.source.disconnect();
      for (const track of microphone.stream.getTracks()) track.stop();
      microphone = null;
    },
  };

  function tell(name, detail) { document.dispatchEvent(new CustomEvent(name, { detail })); }

  function sounded({ data: [status, first, second], timeStamp }) {
    const kind = status & 0xf0;
    if (kind === 0xb0 && first === HAT) ears.pedal = LOUDEST - second;
    else if (kind === 0xb0 && second >= PRESSED) tell("wren:pedal", { key: `pedal ${first}` });
    if (kind !== 0x90 || !second) return;
    tell("wren:note", { key: `note ${first}`, note: first, strength: second, stamp: timeStamp });
  }

  window.wrenEars = ears;
})();
