// The end of a lesson: lines are dragged into their order, and their minutes summed.
(function () {
  "use strict";
  const list = document.querySelector("[data-sort]");
  if (!list) return;
  const form = list.closest("form");
  const is = (name) => `[name$=-${name}]`;
  const set = () => [...list.children].filter((row) => row.querySelector(is("use")).checked);

  function count() {
    const minutes = set().map((row) => Number(row.querySelector(is("minutes")).value) || 0);
    form.querySelector("[data-sum]").textContent = minutes.reduce((sum, one) => sum + one, 0);
  }

  function order() {
    [...list.children].forEach((row, place) => { row.querySelector(is("ORDER")).value = place + 1; });
  }

  // By a finger or a mouse at the grip; the keys of a line are its two moves.
  let held = null;
  list.addEventListener("pointerdown", (event) => {
    if (!event.target.matches(".set-grip")) return;
    held = event.target.closest("li");
    held.classList.add("is-held");
    event.target.setPointerCapture(event.pointerId);
    event.preventDefault();
  });
  list.addEventListener("pointermove", (event) => {
    if (!held) return;
    const under = set().find((row) => {
      const box = row.getBoundingClientRect();
      return row !== held && event.clientY > box.top && event.clientY < box.bottom;
    });
    if (!under) return;
    const box = under.getBoundingClientRect();
    if (event.clientY < box.top + box.height / 2) under.before(held);
    else under.after(held);
  });
  const drop = () => {
    if (!held) return;
    held.classList.remove("is-held");
    held = null;
    order();
  };
  list.addEventListener("pointerup", drop);
  list.addEventListener("pointercancel", drop);

  // A line that is chosen comes last, and is written in where it has words of its own.
  form.addEventListener("change", (event) => {
    if (event.target.matches(is("use"))) {
      const row = event.target.closest("li");
      if (event.target.checked) {
        set().at(-1).after(row);
        order();
        const words = row.querySelector("input[type=text]");
        if (words) words.focus();
      }
    }
    count();
  });
  form.addEventListener("input", count);
  form.addEventListener("keydown", (event) => {
    if (!event.target.matches("#else-list label") || !["Enter", " "].includes(event.key)) return;
    event.preventDefault();
    event.target.click();
  });
  count();
})();
