// A printed page: keys while a bar is typed; bar lines and corners moved by hand. No rule of the
// trade: what is drawn here is read and checked by the server.
(() => {
  "use strict";
  document.addEventListener("keydown", (event) => {
    if (event.key !== "Enter" || !(event.ctrlKey || event.metaKey)) return;
    document.querySelector(".copying [value=right]")?.click();
  });
  document.addEventListener("htmx:afterSwap", (event) => {
    if (event.target.id === "copy" && matchMedia("(hover: hover)").matches) document.getElementById("text")?.focus();
  });

  const page = document.getElementById("by-hand");
  if (!page) return;
  const NS = "http://www.w3.org/2000/svg";
  const data = JSON.parse(document.getElementById("page-data").textContent);
  const sheet = page.dataset.of === "corners";
  let things = sheet ? data.corners : data.lines;
  const undone = [];

  const make = (name, given) => {
    const found = document.createElementNS(NS, name);
    Object.entries(given).forEach(([key, value]) => found.setAttribute(key, value));
    return found;
  };
  const at = (event) => {
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(page.getScreenCTM().inverse());
    return [point.x, point.y];
  };
  const remember = () => { undone.push(JSON.stringify(things)); };
  const changed = () => {
    document.getElementById("sent").value = JSON.stringify(things);
    document.querySelector("[data-undo]").disabled = !undone.length;
    draw();
  };
  // A handle that is dragged or moved by the arrow keys; `move` takes how far, in pixels of the page.
  const handle = (shape, label, move, remove) => {
    shape.setAttribute("tabindex", "0");
    shape.setAttribute("role", "button");
    shape.setAttribute("aria-label", label);
    shape.addEventListener("pointerdown", (event) => {
      event.stopPropagation(); event.preventDefault();
      let last = at(event);
      remember();
      const go = (moved) => { const now = at(moved); move(now[0] - last[0], now[1] - last[1]); last = now; changed(); };
      const stop = () => { removeEventListener("pointermove", go); removeEventListener("pointerup", stop); };
      addEventListener("pointermove", go); addEventListener("pointerup", stop);
    });
    shape.addEventListener("keydown", (event) => {
      const by = { ArrowLeft: [-4, 0], ArrowRight: [4, 0], ArrowUp: [0, -4], ArrowDown: [0, 4] }[event.key];
      const gone = remove && (event.key === "Delete" || event.key === "Backspace");
      if (!by && !gone) return;
      event.preventDefault();
      remember();
      if (gone) remove(); else move(...by);
      changed();
      [...page.querySelectorAll("[tabindex]")].find((one) => one.getAttribute("aria-label") === label)?.focus();
    });
    page.append(shape);
  };

  const drawCorners = () => {
    page.append(make("polygon", { points: things.map((one) => one.join()).join(" "), class: "sheet-edge" }));
    things.forEach((corner, n) => handle(
      make("circle", { cx: corner[0], cy: corner[1], r: page.viewBox.baseVal.width / 50, class: "corner" }),
      `corner ${n + 1} of 4`, (x, y) => { corner[0] += x; corner[1] += y; },
    ));
  };
  const drawLines = () => things.forEach((line, n) => {
    const [top, height] = [line.top - 14, line.bottom - line.top + 28];
    line.bars.forEach((bar, b) => {
      const inside = make("rect", { x: bar.left, y: top, width: bar.right - bar.left, height, class: "printed" });
      inside.addEventListener("click", (event) => {
        const x = Math.round(at(event)[0]);
        if (x - bar.left < 20 || bar.right - x < 20) return;
        remember();
        const second = { ...bar, left: x, ink_left: Math.max(x, bar.ink_left), before: "none" };
        Object.assign(bar, { right: x, ink_left: Math.min(x, bar.ink_left), after: "single" });
        line.bars.splice(b + 1, 0, second);
        changed();
      });
      page.append(inside);
    });
    const edges = line.bars.length ? [line.bars[0].left, ...line.bars.map((bar) => bar.right)] : [];
    edges.forEach((x, e) => handle(
      make("rect", { x: x - 9, y: top - 8, width: 18, height: height + 16, rx: 6, class: "bar-edge" }),
      `line ${n + 1}, bar line ${e + 1}`,
      (by) => {
        if (e) line.bars[e - 1].right += by;
        const next = line.bars[e];
        if (next) { next.left += by; next.ink_left = Math.max(next.ink_left, next.left); }
      },
      () => {
        if (e === 0) line.bars.shift();
        else if (!line.bars[e]) line.bars.pop();
        else {
          const { right, after } = line.bars.splice(e, 1)[0];
          Object.assign(line.bars[e - 1], { right, after });
        }
        if (!line.bars.length) things.splice(n, 1);
      },
    ));
  });
  const draw = () => {
    page.querySelectorAll(":scope > :not(image)").forEach((one) => one.remove());
    if (sheet) drawCorners(); else drawLines();
  };

  // A box drawn where there is no line becomes one with a single bar.
  page.addEventListener("pointerdown", (event) => {
    if (sheet || event.target.closest(".printed, .bar-edge")) return;
    event.preventDefault();
    const from = at(event), box = make("rect", { class: "new-line" });
    page.append(box);
    const size = (to) => ({
      x: Math.min(from[0], to[0]), y: Math.min(from[1], to[1]),
      width: Math.abs(to[0] - from[0]), height: Math.abs(to[1] - from[1]),
    });
    const go = (moved) => Object.entries(size(at(moved))).forEach(([key, value]) => box.setAttribute(key, value));
    const stop = (moved) => {
      removeEventListener("pointermove", go); removeEventListener("pointerup", stop);
      box.remove();
      const found = size(at(moved));
      if (found.width < 100 || found.height < 20) return;
      remember();
      const [left, right] = [Math.round(found.x), Math.round(found.x + found.width)];
      things.push({
        top: Math.round(found.y), bottom: Math.round(found.y + found.height), left, right,
        bars: [{ left, right, ink_left: left }],
      });
      changed();
    };
    addEventListener("pointermove", go); addEventListener("pointerup", stop);
  });
  document.querySelector("[data-undo]").addEventListener("click", () => {
    if (undone.length) { things = JSON.parse(undone.pop()); changed(); }
  });

  // The picture as it came has a size of its own, known once it is there.
  const start = () => {
    if (sheet && !things.length) {
      const { width, height } = page.viewBox.baseVal;
      things = [[0.04, 0.04], [0.96, 0.04], [0.96, 0.96], [0.04, 0.96]].map(([x, y]) => [x * width, y * height]);
    }
    changed();
  };
  if (!sheet) { start(); return; }
  const picture = new Image();
  picture.onload = () => {
    page.setAttribute("viewBox", `0 0 ${picture.naturalWidth} ${picture.naturalHeight}`);
    page.querySelector("image").setAttribute("width", picture.naturalWidth);
    start();
  };
  picture.src = page.dataset.src;
})();
