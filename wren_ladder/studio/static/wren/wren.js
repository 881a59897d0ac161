// Keys, focus and pointing; all that the pages cannot do by themselves.
(function () {
  "use strict";
  let waiting = "";

  function keyed() {
    return [...document.querySelectorAll("[data-key]")].filter((e) => !e.disabled && !e.closest("[hidden]"));
  }

  function typing(target) {
    return target.matches("textarea, select, [contenteditable]") ||
      (target.matches("input") && !["checkbox", "radio", "submit", "button"].includes(target.type));
  }

  // What is folded around it is opened, out to the page.
  function unfold(from) {
    for (let one = from.closest("details"); one; one = one.parentElement.closest("details")) one.open = true;
  }

  // One key per frequent act: the element says which key it answers to.
  document.addEventListener("keydown", (event) => {
    if (event.ctrlKey || event.metaKey || event.altKey || typing(event.target)) return;
    if (document.querySelector("dialog[open]")) return;
    const keys = waiting ? waiting + " " + event.key : event.key;
    waiting = "";
    const found = keyed().find((e) => e.dataset.key === keys);
    if (found) {
      event.preventDefault();
      const own = found.matches("summary") ? found.parentElement.parentElement : found;
      unfold(own);
      if (found.matches("select, textarea, [role=group]") || found.type === "search") found.focus();
      else found.click();
    } else if (keyed().some((e) => e.dataset.key.startsWith(event.key + " "))) {
      waiting = event.key;
    }
  });

  function showKeys(dialog) {
    const list = dialog.querySelector(".keys");
    list.replaceChildren();
    for (const element of keyed()) {
      const key = document.createElement("dt");
      const does = document.createElement("dd");
      key.textContent = element.dataset.key;
      does.textContent = element.dataset.does || element.textContent.trim();
      list.append(key, does);
    }
    dialog.showModal();
  }

  // From an error in the preview to the word in the typed text.
  function goToWord(button) {
    const text = document.getElementById(button.dataset.goIn || "id_text");
    const lines = text.value.split("\n");
    const line = Number(button.dataset.goLine) - 1;
    const start = lines.slice(0, line).reduce((sum, l) => sum + l.length + 1, 0) +
      Number(button.dataset.goColumn) - 1;
    text.focus();
    text.setSelectionRange(start, start + Math.max(1, Number(button.dataset.goLength)));
  }

  // A word typed by a finger: where the cursor stands, with a space before it where one is needed.
  function typeWord(button) {
    const text = document.getElementById(button.closest("[data-words-for]").dataset.wordsFor);
    const word = button.dataset.word;
    const before = text.value.slice(0, text.selectionStart);
    const joined = before === "" || /[\s(>]$/.test(before) || ["\n", ",", "&"].includes(word);
    text.focus();
    text.setRangeText((joined ? "" : " ") + word, text.selectionStart, text.selectionEnd, "end");
    text.dispatchEvent(new Event("input", { bubbles: true }));
  }

  // Copy a field's text; where the browser does not allow it, it is chosen, to be copied by hand.
  function copy(button) {
    const field = document.getElementById(button.dataset.copy);
    field.select();
    const told = (text) => { button.textContent = text; };
    const byHand = () => told("Press Ctrl-C");
    if (navigator.clipboard) navigator.clipboard.writeText(field.value).then(() => told("Copied"), byHand);
    else byHand();
  }

  // What an address names is opened where it is folded.
  const goThere = () => {
    const there = document.getElementById(location.hash.slice(1));
    if (!there) return;
    unfold(there);
    there.scrollIntoView();
  };
  addEventListener("hashchange", goThere);
  if (location.hash) goThere();

  // Where the device has a way of its own to send a text on.
  document.querySelectorAll("[data-share]").forEach((button) => {
    if (!navigator.share || button.closest("[data-room]")) return;
    button.hidden = false;
    button.addEventListener("click", () => {
      navigator.share({ text: document.getElementById(button.dataset.share).value }).catch(() => {});
    });
  });

  // A list shortened to what a search field says: every number of it, and how every word begins.
  document.addEventListener("input", (event) => {
    const list = document.getElementById(event.target.dataset.filter);
    if (!list) return;
    const words = event.target.value.toLowerCase().split(/\s+/).filter(Boolean);
    let found = 0;
    for (const line of list.children) {
      const there = line.dataset.find.toLowerCase().match(/\p{L}+|\d+/gu) || [];
      const meant = (word) => there.some((one) => (/^\d+$/.test(word) ? one === word : one.startsWith(word)));
      line.hidden = !words.every(meant);
      found += line.hidden ? 0 : 1;
    }
    const none = list.parentElement.querySelector("[data-none]");
    if (none) none.hidden = found > 0;
  });
  document.addEventListener("keydown", (event) => {
    const list = event.key === "Enter" && document.getElementById(event.target.dataset.filter);
    const first = list && [...list.children].find((line) => !line.hidden);
    if (first) first.querySelector("a").click();
  });

  // The finger on a word takes nothing from the field that is typed in.
  document.addEventListener("pointerdown", (event) => {
    if (event.target.closest("[data-word]")) event.preventDefault();
  });

  document.addEventListener("click", (event) => {
    const word = event.target.closest("[data-word]");
    if (word) typeWord(word);
    const copied = event.target.closest("[data-copy]");
    if (copied) copy(copied);
    const opener = event.target.closest("[data-open]");
    if (opener) showKeys(document.getElementById(opener.dataset.open));
    const stroke = event.target.closest("#flip .stroke[data-at]");
    const shown = stroke && `${stroke.dataset.at} ${stroke.dataset.drum} `;
    const flip = stroke && document.querySelector(`#flip [name=stroke][value^="${shown}"]`);
    if (flip) flip.click();
    const go = event.target.closest("[data-go-line]");
    if (go) goToWord(go);
  });

  // What takes more than a second says so, and is not sent twice.
  document.addEventListener("submit", (event) => {
    const form = event.target.closest("[data-busy]");
    if (!form) return;
    const said = document.createElement("p");
    said.className = "small mb-0 mt-1";
    said.setAttribute("role", "status");
    said.textContent = form.dataset.busy;
    form.append(said);
    setTimeout(() => form.querySelectorAll("button").forEach((one) => { one.disabled = true; }));
  });

  // Ctrl-S saves what the page is there to save.
  document.addEventListener("keydown", (event) => {
    const save = (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "s" &&
      document.querySelector("[data-save]");
    if (!save) return;
    event.preventDefault();
    save.click();
  });

  // Where the studio does not answer, what was typed stays: it is said, tried again when the
  // connection is back, and the page is not left without asking until it has arrived.
  let unsent = null;
  document.addEventListener("htmx:sendError", (event) => {
    if (event.target.matches(".stand-music")) return; // nobody typed it, and it is asked for again
    unsent = event.target;
    statusNote("The studio does not answer. What you typed is still here; it is sent when the connection is back.");
  });
  document.addEventListener("htmx:afterRequest", (event) => {
    if (!unsent || !event.detail.successful) return;
    unsent = null;
    document.getElementById("status-note").remove();
  });
  window.addEventListener("online", () => {
    const form = unsent && (unsent.closest("form") || unsent);
    const fields = form ? form.querySelectorAll("textarea, input:not([type=hidden])") : [];
    fields.forEach((field) => field.dispatchEvent(new Event("change", { bubbles: true })));
  });
  window.addEventListener("beforeunload", (event) => { if (unsent) event.preventDefault(); });

  // A page that comes back after one of its forms was sent stands where it stood.
  const place = "wren-place " + location.pathname;
  document.addEventListener("submit", () => {
    try { sessionStorage.setItem(place, String(window.scrollY)); } catch (error) { /* it begins at the top then */ }
  });
  const stood = sessionStorage.getItem(place);
  if (stood !== null) {
    sessionStorage.removeItem(place);
    const back = () => { if (!location.hash) window.scrollTo({ top: Number(stood), behavior: "instant" }); };
    back();
    window.addEventListener("load", back);
  }

  // Paper takes seconds: it is fetched while the page stays and says so, and opens in a tab of its own.
  document.addEventListener("click", (event) => {
    const link = event.target.closest('a[href*=".pdf"]');
    if (!link || event.ctrlKey || event.metaKey || event.shiftKey || event.button) return;
    event.preventDefault();
    if (link.hasAttribute("aria-busy")) return;
    link.setAttribute("aria-busy", "true");
    const note = statusNote("The paper is being made …");
    fetch(link.href).then((answer) => {
      if (!answer.ok) throw new Error();
      return answer.blob();
    }).then((paper) => {
      const made = document.createElement("a");
      made.href = URL.createObjectURL(paper);
      made.target = "_blank";
      made.textContent = "open it";
      note.replaceChildren("The paper is ready: ", made);
      made.click();
    }).catch(() => {
      note.textContent = "The paper could not be made; try again, and if it stays so, reload this page.";
    }).finally(() => link.removeAttribute("aria-busy"));
  });

  function statusNote(text) {
    const note = document.getElementById("status-note") || document.createElement("p");
    note.id = "status-note";
    note.setAttribute("role", "status");
    note.textContent = text;
    document.body.append(note);
    return note;
  }

  // What lies on the tray is marked where it was taken from.
  document.addEventListener("htmx:afterSettle", () => {
    const tray = document.getElementById("on-tray");
    if (!tray) return;
    const lying = JSON.parse(tray.textContent);
    document.querySelectorAll("[data-take]").forEach((key) => {
      key.setAttribute("aria-pressed", String(lying.includes(key.dataset.take)));
    });
  });

  // A table of links is walked by the arrow keys.
  const STEPS = { ArrowLeft: [0, -1], ArrowRight: [0, 1], ArrowUp: [-1, 0], ArrowDown: [1, 0] };
  document.addEventListener("keydown", (event) => {
    const cell = event.target.closest(".groove-board td");
    const step = cell && STEPS[event.key];
    if (!step) return;
    const row = cell.parentElement.parentElement.children[cell.parentElement.sectionRowIndex + step[0]];
    const next = row && row.children[cell.cellIndex + step[1]];
    const link = next && next.querySelector("a");
    if (!link) return;
    event.preventDefault();
    link.focus();
  });

  // Lines of a list moved up and down; their place is kept in their own number field.
  document.addEventListener("click", (event) => {
    const button = event.target.closest("[data-shift]");
    if (!button) return;
    const row = button.closest("li");
    const up = button.dataset.shift === "-1";
    const other = up ? row.previousElementSibling : row.nextElementSibling;
    if (!other) return;
    if (up) other.before(row); else other.after(row);
    button.focus();
    const form = row.closest("form");
    form.querySelectorAll("[name$=-ORDER]").forEach((field, place) => { field.value = place + 1; });
  });

  // After a swap the focus goes back to where the hand was.
  let held = "";
  document.addEventListener("htmx:beforeSwap", () => {
    held = document.activeElement ? document.activeElement.id : "";
  });
  document.addEventListener("htmx:afterSettle", () => {
    const element = held && document.getElementById(held);
    if (element && document.activeElement !== element && !element.disabled) element.focus();
  });
  document.addEventListener("htmx:afterSwap", (event) => {
    if (event.target.id !== "bar-panel") return;
    const field = event.target.querySelector("input[name=bar]");
    document.querySelectorAll(".card-bar[aria-current]").forEach((c) => c.removeAttribute("aria-current"));
    const card = field && document.getElementById("card-" + field.value);
    if (card) card.setAttribute("aria-current", "true");
    event.target.scrollIntoView({ block: "nearest" });
  });
})();
