// The chart editor: where the hand is on the grid, and what a key or a click asks for.
(function () {
  "use strict";
  const form = document.getElementById("editor");
  const at = document.getElementById("at");
  const field = (id) => document.getElementById(id);
  const BESIDE = 10; // pixels from a stroke within which a press is meant for it
  let struck = false; // is the press that goes on one at a stroke?

  let unanswered = 0; // presses that are on the way
  let keeps = null; // the key that keeps the piece, pressed meanwhile
  let chosen = {}; // the bars chosen meanwhile: an answer to an earlier press does not take them back

  // Values are taken when the key is pressed: presses wait in a queue, and the hand moves on.
  function act(op, more) {
    unanswered += 1;
    const drum = form.querySelector("input[name=drum]:checked");
    const hand = {
      op: op,
      at: at.value,
      drum: drum ? drum.value : "",
      bar: field("bar").value,
      until: field("until").value,
    };
    const values = Object.assign(hand, more);
    const answer = { source: form, target: "#bar-picture", swap: "innerHTML", values: values };
    htmx.ajax("POST", form.getAttribute("action"), answer);
  }

  function choose(bars) {
    Object.assign(chosen, bars);
    for (const [id, bar] of Object.entries(bars)) field(id).value = bar;
  }

  form.addEventListener("htmx:afterRequest", (event) => {
    if (event.detail.elt !== form) return;
    unanswered -= 1;
    if (unanswered) choose(chosen);
    else chosen = {};
    if (unanswered || !keeps) return;
    const key = keeps;
    keeps = null;
    form.requestSubmit(key);
  });

  // Whoever keeps the piece right after a press means the piece with it.
  form.addEventListener("submit", (event) => {
    if (!unanswered || !event.submitter || !event.submitter.matches("[data-save]")) return;
    event.preventDefault();
    keeps = event.submitter;
  });

  const places = () => [...new Set([...form.querySelectorAll(".slot")].map((slot) => slot.dataset.at))];

  function mark(said) {
    const all = places();
    if (all.length && !all.includes(at.value)) at.value = all[0];
    for (const slot of form.querySelectorAll(".slot")) {
      const here = slot.dataset.at === at.value;
      slot.classList.toggle("here", here);
      if (here && said) field("grid-said").textContent = slot.dataset.said;
    }
  }

  function go(place) {
    const all = places();
    at.value = all[Math.max(0, Math.min(place, all.length - 1))];
    mark(true);
  }

  function nextOf(list, step) {
    return list[(list.findIndex((e) => e.checked || e.selected) + step + list.length) % list.length];
  }

  function nextDrum(step) {
    const drum = nextOf([...form.querySelectorAll("input[name=drum]")], step);
    drum.checked = true;
    const folded = drum.closest("details");
    if (folded) folded.open = true;
    field("grid-said").textContent = drum.parentElement.textContent.trim();
  }

  function nextGrid() {
    const chosen = nextOf([...field("grid-step").options], 1);
    field("grid-step").value = chosen.value;
    act("look");
  }

  function openBar(bar) {
    choose({ bar: bar, until: bar });
    at.value = "0";
    act("look", { goto: bar });
  }

  const moves = {
    ArrowLeft: () => go(places().indexOf(at.value) - 1),
    ArrowRight: () => go(places().indexOf(at.value) + 1),
    Home: () => go(0),
    End: () => go(places().length - 1),
    ArrowUp: () => act("higher"),
    ArrowDown: () => act("lower"),
    " ": () => act("drop"),
    Enter: () => act("drop"),
    Delete: () => act("take"),
    Backspace: () => act("take"),
    d: () => nextDrum(1),
    D: () => nextDrum(-1),
    s: nextGrid,
  };

  form.addEventListener("keydown", (event) => {
    if (event.target.id === "lines" && event.key === "Escape") field("grid").focus();
    if (event.target.id !== "grid" || event.ctrlKey || event.metaKey || event.altKey) return;
    const tool = form.querySelector(`[data-grid-key="${CSS.escape(event.key)}"]`);
    if (!moves[event.key] && !tool) return;
    event.preventDefault();
    event.stopPropagation();
    if (moves[event.key]) moves[event.key]();
    else act(tool.value);
  });

  document.addEventListener("keydown", (event) => {
    const typing = "textarea, input:not([type=radio]):not([type=checkbox])";
    if (!(event.ctrlKey || event.metaKey) || event.target.matches(typing)) return;
    const key = event.key.toLowerCase();
    if (key !== "z" && key !== "y") return;
    event.preventDefault();
    act(key === "y" || event.shiftKey ? "redo" : "undo");
  });

  form.addEventListener("click", (event) => {
    const button = event.target.closest("button");
    if (button && button.name === "op") {
      event.preventDefault();
      act(button.value);
    } else if (button && button.dataset.step) {
      openBar(Number(field("bar").value) + Number(button.dataset.step));
    } else if (button && button.dataset.bar) {
      if (event.shiftKey) { choose({ until: button.dataset.bar }); act("look"); } else openBar(button.dataset.bar);
    }
    const slot = !struck && event.target.closest(".slot");
    struck = false;
    if (slot) {
      at.value = slot.dataset.at;
      field("grid").focus();
      act("drop", { limb: slot.dataset.limb });
    }
  });

  // A finger is wider than a stroke: what is pressed beside one is meant for it.
  function strokeAt(event) {
    const on = event.target.closest(".stroke[data-at]");
    if (on || !event.target.closest("#grid, .limb-view, svg")) return on;
    const away = (stroke) => {
      const box = stroke.getBoundingClientRect();
      return Math.hypot(
        Math.max(box.left - event.clientX, 0, event.clientX - box.right),
        Math.max(box.top - event.clientY, 0, event.clientY - box.bottom));
    };
    const near = [...form.querySelectorAll(".stroke[data-at]")].map((stroke) => [away(stroke), stroke]);
    const [nearest] = near.sort(([one], [other]) => one - other);
    return nearest && nearest[0] <= BESIDE ? nearest[1] : null;
  }

  // A click takes a stroke away, with shift in hand; dragged it goes up or down. The drum in hand
  // stays in hand.
  let held = null;
  form.addEventListener("pointerdown", (event) => {
    const stroke = strokeAt(event);
    struck = Boolean(stroke);
    if (!stroke) return;
    event.preventDefault();
    held = { y: event.clientY, inHand: event.shiftKey, drum: stroke.dataset.drum };
    at.value = stroke.dataset.at;
    if (event.shiftKey) form.querySelector(`input[name=drum][value="${stroke.dataset.drum}"]`).checked = true;
    field("grid").focus();
    mark(true);
  });
  document.addEventListener("pointerup", (event) => {
    if (held === null) return;
    const steps = Math.round((held.y - event.clientY) / 18);
    const { inHand, drum } = held;
    held = null;
    if (!steps && !inHand) act("take", { drum });
    for (let step = 0; step < Math.min(3, Math.abs(steps)); step++) act(steps > 0 ? "higher" : "lower", { drum });
  });

  form.addEventListener("change", (event) => {
    const target = event.target;
    if (target.id === "until") choose({ until: target.value });
    if (target.closest("#bar-marks")) act("marks");
    else if (["grid-step", "until", "id_title", "id_grade", "id_notes"].includes(target.id)) act("look");
  });

  // What comes back is drawn anew: the hand's place and the typed lines' own memory stay.
  document.addEventListener("htmx:afterSettle", () => {
    if (document.activeElement.id !== "grid") field("grid-said").textContent = "";
    mark(document.activeElement.id === "grid");
    const wall = field("edit-wall");
    const [first, last] = [field("bar"), field("until")].map((one) => Number(one.value)).sort((a, b) => a - b);
    for (const card of wall.querySelectorAll(".edit-card")) { // an answer brings those that look different
      const place = Number(card.dataset.bar);
      card.classList.toggle("chosen", first <= place && place <= last);
      if (card.dataset.bar === field("bar").value) card.setAttribute("aria-current", "true");
      else card.removeAttribute("aria-current");
    }
    const card = wall.querySelector("[aria-current]").getBoundingClientRect();
    const frame = wall.getBoundingClientRect();
    if (card.top < frame.top) wall.scrollTop -= frame.top - card.top;
    if (card.bottom > frame.bottom) wall.scrollTop += card.bottom - frame.bottom;
  });
  mark(false);
})();
