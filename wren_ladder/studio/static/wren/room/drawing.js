// Where a score is drawn on the page: what sounds is ringed on staff and limb view, what is silenced
// grows pale, the next bar is in sight.
(function () {
  "use strict";
  const SHOWN = 0.2; // seconds that a stroke stays marked
  const RING = 9; // pixels, round a head
  const NOTE = /(?:l(\d+)-)?b(\d+)h(\d+)(?:t\d+)?$/; // the id of a drawn note: line, bar, hit
  const still = matchMedia("(prefers-reduced-motion: reduce)");

  // Rings over the page, on a canvas of their own: the browser paints them alone, where a change
  // inside a drawing of a thousand parts would make it go through all of these again.
  class Marks {
    constructor() {
      this.canvas = document.createElement("canvas");
      this.canvas.className = "stroke-marks";
      this.canvas.setAttribute("aria-hidden", "true");
      document.body.append(this.canvas);
      this.pen = this.canvas.getContext("2d");
      this.fit();
      this.rings = []; // { spot, until }
    }

    fit() {
      const scale = devicePixelRatio || 1;
      this.canvas.width = innerWidth * scale;
      this.canvas.height = innerHeight * scale;
      this.pen.scale(scale, scale);
      this.pen.strokeStyle = getComputedStyle(document.documentElement).getPropertyValue("--rust");
      this.pen.lineWidth = 2.5;
    }

    // Each lives and dies by itself: at a quick tempo there is always a newer one.
    show(spot, now) {
      this.rings.push({ spot, until: now + SHOWN });
      this.ring(spot);
    }

    ring({ box, x, y }) {
      this.pen.beginPath();
      this.pen.arc(x - box.scrollLeft - scrollX, y - scrollY, RING, 0, 2 * Math.PI);
      this.pen.stroke();
    }

    fade(now) {
      const living = this.rings.filter((one) => one.until > now);
      if (living.length === this.rings.length) return;
      this.wipe();
      this.rings = living;
      for (const one of living) this.ring(one.spot);
    }

    wipe() {
      this.pen.clearRect(0, 0, innerWidth, innerHeight);
      this.rings = [];
    }
  }

  let marks = null; // one canvas for a page

  // A staff wider than the screen moves on before its edge is reached.
  function follow({ box, inside, wide }) {
    if (still.matches || !wide) return;
    const from = inside - box.scrollLeft;
    if (from < 0 || from > box.clientWidth * 0.7) {
      box.scrollTo({ left: inside - box.clientWidth * 0.2, behavior: "smooth" });
    }
  }

  class Drawing {
    constructor(place, score) {
      this.strokes = new Map(); // "turn hit" -> what is drawn of it
      this.lines = new Map(); // turn -> what has to be in sight
      this.spots = new Map(); // what is drawn -> where
      this.marks = marks = marks || new Marks();
      if (!place) return;
      const notes = new Map();
      const add = (key, element) => notes.set(key, [...(notes.get(key) || []), element]);
      for (const element of place.querySelectorAll(".staff-svg [id]")) {
        const id = element.id.match(NOTE);
        if (!id) continue;
        const by = id[1] === undefined ? "turn" : "bar"; // a line of the chart counts its own bars
        add(`${by} ${Number(id[1] || 0) + Number(id[2])} ${id[3]}`, element);
      }
      for (const element of place.querySelectorAll(".limb-view .stroke[data-hit]")) {
        add(`turn 0 ${element.dataset.hit}`, element);
      }
      for (const row of score.strokes) {
        const [turn, hit] = [row[5], row[6]];
        const keys = [`turn ${turn} ${hit}`, `bar ${score.bars[turn][6]} ${hit}`];
        const found = keys.flatMap((key) => notes.get(key) || []);
        if (!found.length) continue;
        this.strokes.set(`${turn} ${hit}`, found);
        if (!this.lines.has(turn)) this.lines.set(turn, found[0].closest("svg"));
      }
      this.measure = () => { this.marks.fit(); this.measured(); };
      addEventListener("resize", this.measure);
      this.measured();
    }

    // All at once, so that nothing is laid out again while it plays: the middle of each head on
    // the page.
    measured() {
      for (const element of [...this.strokes.values()].flat()) {
        const box = element.closest("svg").parentElement;
        const head = (element.querySelector("use") || element).getBoundingClientRect();
        const x = head.left + head.width / 2;
        this.spots.set(element, {
          box,
          wide: box.scrollWidth > box.clientWidth,
          inside: x - box.getBoundingClientRect().left + box.scrollLeft,
          x: x + scrollX + box.scrollLeft,
          y: head.top + head.height / 2 + scrollY,
        });
      }
    }

    mark(turn, hit, now) {
      for (const element of this.strokes.get(`${turn} ${hit}`) || []) {
        const spot = this.spots.get(element);
        this.marks.show(spot, now);
        follow(spot);
      }
    }

    fade(now) { this.marks.fade(now); }

    clear() {
      removeEventListener("resize", this.measure);
      this.marks.wipe();
    }

    // The bar that comes next is in sight before it is needed.
    look(turn) {
      const line = this.lines.get(turn);
      if (!line || line === this.looked || still.matches) return;
      this.looked = line;
      const { top, bottom } = line.getBoundingClientRect();
      if (top < 60 || bottom > innerHeight - 20) line.scrollIntoView({ block: "center" }); // at once: one painting
    }

    hush(silent) {
      for (const [key, elements] of this.strokes) {
        for (const element of elements) element.classList.toggle("hushed", silent(key));
      }
    }
  }

  window.wren.Drawing = Drawing;
})();
