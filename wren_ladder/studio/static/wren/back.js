// Back and forward: a page that comes from the browser's memory never shows a state that is over.
(function () {
  "use strict";
  // A page that comes back from the browser's memory shows what was, and its forms carry keys that
  // are used. Is it still ours to see? Then it is read anew, unless something was typed into it.
  function typedInto(field) {
    if (field.type === "hidden" || field.type === "search") return false;
    if (field.matches("select")) return [...field.options].some((one) => one.selected !== one.defaultSelected);
    return field.type === "checkbox" || field.type === "radio" ? field.checked !== field.defaultChecked
      : field.value !== field.defaultValue;
  }
  addEventListener("pageshow", async (event) => {
    if (!event.persisted) return;
    for (const field of document.querySelectorAll("[name=form_key]")) field.value = window.wrenStore.fresh();
    document.documentElement.hidden = true;
    const typed = [...document.querySelectorAll("form[method=post] :is(input, textarea, select)")].some(typedInto);
    try {
      const answer = typed && await fetch(location.href, { redirect: "manual" });
      if (!typed || !answer.ok) { location.reload(); return; }
    } catch (error) { /* without a network it stays as it was */ }
    document.documentElement.hidden = false;
  });
})();
