// What waits in a page until the studio has it: in the browser's own store, so that it outlives
// the page; where that is full or refused, in the page alone.
(function () {
  "use strict";
  const LEASE = 20000; // milliseconds that a sender has for itself where the browser knows no locks
  const here = {}; // what the browser's store did not take

  function read(name, empty) {
    if (name in here) return here[name];
    try { return JSON.parse(localStorage.getItem(name) || "null") || empty; } catch (error) { return empty; }
  }

  // False where it is kept in this page alone, and goes with it.
  function write(name, value) {
    try {
      localStorage.setItem(name, JSON.stringify(value));
      delete here[name];
      return true;
    } catch (error) {
      here[name] = value;
      return false;
    }
  }

  // A key of its own for what is sent, so that what arrives twice is kept once. Plain http has no
  // randomUUID.
  function fresh() {
    if (crypto.randomUUID) return crypto.randomUUID();
    const bytes = crypto.getRandomValues(new Uint8Array(16));
    const hex = [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
    return hex.replace(/^(.{8})(.{4})(.{4})(.{4})/, "$1-$2-$3-$4-");
  }

  // Of all open pages one sends at a time; whoever finds another at it leaves it to that one.
  async function alone(name, work) {
    if (navigator.locks) {
      await navigator.locks.request(name, { ifAvailable: true }, (lock) => (lock ? work() : undefined));
      return;
    }
    const me = fresh();
    const held = () => read(`${name}-sender`, { until: 0 });
    if (held().until > Date.now()) return;
    write(`${name}-sender`, { me, until: Date.now() + LEASE });
    if (held().me !== me) return;
    try { await work(); } finally { write(`${name}-sender`, { until: 0 }); }
  }

  // The day on this device's calendar, as the studio reads it.
  function today() {
    const now = new Date();
    const two = (number) => String(number).padStart(2, "0");
    return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
  }

  // Said to the studio, which draws music for it.
  const wide = () => {
    document.cookie = `narrow=${innerWidth <= 640 ? 1 : 0}; path=/; max-age=31536000; samesite=lax`;
  };
  wide();
  addEventListener("resize", wide);

  window.wrenStore = { read, write, fresh, alone, today };
})();
