// The link was closed: what this device kept of it goes, and this script with it.
"use strict";
self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(
  caches.delete("wren-link-{{ signed|escapejs }}").then(() => self.registration.unregister()),
));
