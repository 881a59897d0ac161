// Saying where a recording's bars are: by ear, by number, by taps. What follows from it is worked out
// by the studio.
(function () {
  "use strict";
  const form = document.querySelector("form[data-place]");
  const audio = document.getElementById("recording");
  if (!form || !audio) return;
  const taps = [];
  const told = form.querySelector("[data-tapped]");
  const send = form.querySelector("[data-taps]");

  form.querySelector("[data-now]").addEventListener("click", () => {
    form.elements.second.value = audio.currentTime.toFixed(2);
  });
  form.querySelector("[data-tap-bar]").addEventListener("click", () => {
    if (audio.paused) {
      taps.length = 0;
      audio.play();
      told.textContent = "Tap at the beginning of bar 1, then of every bar.";
      return;
    }
    taps.push(Number(audio.currentTime.toFixed(3)));
    send.disabled = taps.length < 2;
    told.textContent = `${taps.length} bar${taps.length > 1 ? "s" : ""} tapped`;
  });
  send.addEventListener("click", () => { form.elements.taps.value = JSON.stringify(taps); });
})();
