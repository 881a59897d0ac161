// Keeps a student's page and its music on the device: the page as it was last seen when there is
// no network, everything else as it is kept under its version.
"use strict";
const CACHE = "wren-link-{{ signed|escapejs }}";

self.addEventListener("install", (event) => {
  const page = new Request("{{ page|escapejs }}", { cache: "reload" });
  event.waitUntil(caches.open(CACHE).then((cache) => cache.add(page)).then(() => self.skipWaiting()));
});
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const { pathname } = new URL(request.url);
  if (request.method !== "GET") return;
  if (request.mode === "navigate" && pathname === "{{ page|escapejs }}") event.respondWith(seen(request));
  else if (pathname.startsWith("/static/")) event.respondWith(kept(request));
});

async function seen(request) {
  const cache = await caches.open(CACHE);
  try {
    const answer = await fetch(request);
    if (answer.ok) await cache.put("{{ page|escapejs }}", answer.clone());
    if (answer.status === 404) { // closed: nothing stays
      await caches.delete(CACHE);
      await self.registration.unregister();
    }
    return answer;
  } catch (error) {
    return (await cache.match("{{ page|escapejs }}")) || Response.error();
  }
}

async function kept(request) {
  const cache = await caches.open(CACHE);
  const there = await cache.match(request);
  if (there) return there;
  const answer = await fetch(request);
  if (answer.ok) await cache.put(request, answer.clone());
  return answer;
}
