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
  else if (request.mode === "navigate" && pathname.startsWith("{{ page|escapejs }}")) {
    event.respondWith(linked(request));
  } else if (pathname.startsWith("{{ page|escapejs }}steps/")) event.respondWith(kept(request));
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

// A page that is linked: as it is, else as the device has it, else in words.
async function linked(request) {
  try { return await fetch(request); } catch (error) {
    const cache = await caches.open(CACHE);
    const there = await cache.match(request, { ignoreSearch: true });
    return there || new Response(`<!doctype html><html lang="en"><meta charset="utf-8"><title>No network</title>
      <meta name="viewport" content="width=device-width, initial-scale=1">
      <body style="font: 1.2rem sans-serif; padding: 2rem; background: #FBF7EF; color: #1F2A2E">
      <h1>No network</h1><p>This page needs one. <a href="{{ page|escapejs }}">Back to today</a></p></body></html>`,
    { status: 503, headers: { "content-type": "text/html" } });
  }
}

async function kept(request) {
  const cache = await caches.open(CACHE);
  const there = await cache.match(request);
  if (there) return there;
  const answer = await fetch(request);
  if (answer.ok) await cache.put(request, answer.clone()).catch(() => {}); // a full device still hears it
  return answer;
}
