// A link that was closed leaves nothing behind on the device: no page, no music, no tries.
(function () {
  "use strict";
  const { link } = document.currentScript.dataset;
  const mine = [`wren-link-${link.slice(0, 12)}`, `wren-minutes-${link}`, `wren-takes-${link}`];
  for (const name of Object.keys(localStorage)) {
    if (mine.includes(name) || name.startsWith(`wren-today-${link}-`)) localStorage.removeItem(name);
  }
  if (window.caches) caches.delete(`wren-link-${link}`);
  if (navigator.serviceWorker) {
    navigator.serviceWorker.getRegistrations().then((all) =>
      all.filter((one) => new URL(one.scope).pathname === location.pathname).forEach((one) => one.unregister()));
  }
})();
