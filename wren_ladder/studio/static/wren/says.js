// What the teacher says, in their own voice: recorded in the lesson by one key, at most half a minute,
// and heard at home round and round at any speed, its pitch kept. The microphone is open only while
// the key is lit.
(function () {
  "use strict";
  const MOST = 30; // seconds
  const TYPES = ["audio/webm;codecs=opus", "audio/mp4", "audio/ogg;codecs=opus"];
  let recording = null; // { recorder, key, timer }
  let sounding = null; // { audio, key }

  const words = (key) => key.querySelector("span") || key;

  async function record(key) {
    const form = key.form;
    let stream;
    try {
      stream = await navigator.mediaDevices.getUserMedia({ audio: true });
    } catch (error) {
      form.querySelector("[data-say-told]").textContent = "Allow the microphone for this page, then press again.";
      return;
    }
    const mimeType = TYPES.find((one) => MediaRecorder.isTypeSupported(one));
    const recorder = new MediaRecorder(stream, mimeType ? { mimeType, audioBitsPerSecond: 64000 } : {});
    const parts = [];
    recorder.ondataavailable = ({ data }) => parts.push(data);
    recorder.onstop = () => {
      for (const track of stream.getTracks()) track.stop();
      key.setAttribute("aria-pressed", "false");
      words(key).textContent = key.dataset.words;
      if (!parts.length || !form.isConnected) return;
      const files = new DataTransfer();
      files.items.add(new File(parts, "said", { type: recorder.mimeType.split(";")[0] }));
      form.elements.sound.files = files.files;
      form.elements.text.required = false;
      form.requestSubmit();
    };
    key.dataset.words = words(key).textContent;
    key.setAttribute("aria-pressed", "true");
    recorder.start();
    const end = Date.now() + MOST * 1000;
    const tell = () => {
      const left = Math.ceil((end - Date.now()) / 1000);
      words(key).textContent = `Stop and keep (${left} s)`;
      if (left <= 0 || !key.isConnected) stop();
    };
    recording = { recorder, timer: setInterval(tell, 250) };
    tell();
  }

  function stop() {
    if (!recording) return;
    clearInterval(recording.timer);
    if (recording.recorder.state !== "inactive") recording.recorder.stop();
    recording = null;
  }

  function quiet() {
    if (!sounding) return;
    sounding.audio.pause();
    URL.revokeObjectURL(sounding.audio.src);
    sounding.key.setAttribute("aria-pressed", "false");
    sounding = null;
  }

  // Fetched whole, so that what the device keeps sounds without a network.
  async function hear(key) {
    const again = sounding && sounding.key === key;
    quiet();
    if (window.wren) window.wren.stop();
    if (again) return;
    const answer = await fetch(key.dataset.hear).catch(() => null);
    if (!answer || !answer.ok) { words(key).textContent = "It needs a network once"; return; }
    const audio = new Audio(URL.createObjectURL(await answer.blob()));
    const speed = key.parentElement.querySelector("[data-hear-speed]");
    Object.assign(audio, { loop: true, preservesPitch: true, playbackRate: Number(speed ? speed.value : 100) / 100 });
    sounding = { audio, key };
    key.setAttribute("aria-pressed", "true");
    audio.play().catch(quiet);
  }

  document.addEventListener("click", (event) => {
    const key = event.target.closest("[data-say-record], [data-hear]");
    if (!key) { if (event.target.closest("[data-starts], [data-play]")) quiet(); return; }
    if ("hear" in key.dataset) hear(key);
    else if (recording) stop();
    else record(key);
  });
  document.addEventListener("change", ({ target }) => {
    if (sounding && "hearSpeed" in target.dataset) sounding.audio.playbackRate = Number(target.value) / 100;
  });
  addEventListener("pagehide", () => { stop(); quiet(); });
})();
