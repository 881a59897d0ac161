// The breakdown: bars that are equal light up together, and steps are dragged to their place.
(function () {
  "use strict";
  const kin = (card) => document.querySelectorAll(`.card-bar[data-kind="${card.dataset.kind}"]`);

  function light(event, on) {
    const card = event.target.closest && event.target.closest(".card-bar[data-kind]");
    if (!card || kin(card).length < 2) return;
    for (const one of kin(card)) one.classList.toggle("kin", on);
  }

  document.addEventListener("mouseover", (event) => light(event, true));
  document.addEventListener("mouseout", (event) => light(event, false));
  document.addEventListener("focusin", (event) => light(event, true));
  document.addEventListener("focusout", (event) => light(event, false));

  // What was opened is brought into sight, and its step is marked in the tree.
  document.addEventListener("htmx:afterSwap", (event) => {
    if (event.target.id !== "work" || event.detail.requestConfig.verb !== "get") return;
    event.target.scrollIntoView({ block: "start" });
    const link = event.detail.requestConfig.elt;
    document.querySelectorAll(".row-step.chosen").forEach((one) => one.classList.remove("chosen"));
    const row = link.closest(".row-step");
    if (row) row.classList.add("chosen");
  });

  let dragged = null;

  document.addEventListener("dragstart", (event) => {
    dragged = event.target.closest(".row-step[data-place]");
    if (dragged) event.dataTransfer.effectAllowed = "move";
  });

  document.addEventListener("dragover", (event) => {
    const over = event.target.closest(".row-step[data-place]");
    document.querySelectorAll(".row-step.over").forEach((one) => one.classList.remove("over"));
    if (!dragged || !over || over === dragged) return;
    event.preventDefault();
    over.classList.add("over");
  });

  document.addEventListener("drop", (event) => {
    const over = event.target.closest(".row-step[data-place]");
    if (!dragged || !over || over === dragged) return;
    event.preventDefault();
    const values = { before: over.dataset.step };
    htmx.ajax("POST", dragged.dataset.place, { target: "#tree", swap: "innerHTML", values: values });
    dragged = null;
  });
})();
