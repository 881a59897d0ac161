// One phrase and its versions, walked through: one is large, the arrows go to the next, and all can be
// heard in turn. Without this script they stand below each other.
(function () {
  "use strict";
  const place = document.querySelector("[data-family]");
  const cards = place ? [...place.querySelectorAll(".exercise")] : [];
  if (cards.length < 2) return;
  const TURNS = 2; // of each, when they are heard in turn
  const bar = document.getElementById("family-bar").content.cloneNode(true).firstElementChild;
  place.before(bar);
  let here = 0, inTurn = false;

  const find = (what) => bar.querySelector(what);
  const name = (card) => card.querySelector("h3").firstChild.textContent.trim();

  function show(number) {
    here = (number + cards.length) % cards.length;
    cards.forEach((card, at) => card.classList.toggle("is-here", at === here));
    find("[data-family-at]").textContent = `${here + 1} of ${cards.length}: ${name(cards[here])}`;
  }

  function spread(all) {
    place.classList.toggle("walked", !all);
    find("[data-family-all]").setAttribute("aria-pressed", String(all));
  }

  function hear(number) {
    show(number);
    const button = cards[here].querySelector("[data-play]");
    const score = JSON.parse(document.getElementById(button.dataset.play).textContent);
    const choice = { ...window.wren.USUAL, bpm: score.bpm, rounds: TURNS, countIn: number === 0 };
    window.wren.start(score, choice, () => {
      if (inTurn && here + 1 < cards.length) hear(here + 1);
      else listen(false);
    });
  }

  function listen(on) {
    inTurn = on;
    const key = find("[data-family-turn]");
    key.setAttribute("aria-pressed", String(on));
    key.textContent = on ? "Stop" : "Hear them in turn";
  }

  bar.addEventListener("click", ({ target }) => {
    const { familyBy } = target.dataset;
    if (familyBy) { spread(false); show(here + Number(familyBy)); }
    if ("familyAll" in target.dataset) spread(place.classList.contains("walked"));
    if (!("familyTurn" in target.dataset)) return;
    const on = !inTurn;
    listen(on);
    if (on) { spread(false); hear(0); } else window.wren.stop();
  });
  document.addEventListener("keydown", (event) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!by || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.target.closest("input, select, textarea, .exercises .score")) return; // typed in, or scrolled
    event.preventDefault();
    spread(false);
    show(here + by);
  });
  show(0);
  spread(false);
})();
