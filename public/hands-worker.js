/*
 * Lets the surfaces of a job and its step-by-step mode open without connection. Pages come from the network while there is one; scripts and fonts
 * carry a hash in their name and never change.
 */
const CACHE = "iteron-hands-1";
/** Pages of a job that go on without connection. */
const KEPT =
  /^\/jobs\/[0-9a-f-]{36}\/(hands|intake|strip|connect|connect\/feed|connect\/lengths|configure|prove|handover)$/;

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

self.addEventListener("fetch", (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== "GET" || url.origin !== self.location.origin) return;
  if (url.pathname.startsWith("/assets/")) event.respondWith(fromCacheFirst(request));
  else if (KEPT.test(url.pathname)) event.respondWith(fromNetworkFirst(request));
});

async function fromCacheFirst(request) {
  const kept = await caches.match(request);
  if (kept) return kept;
  const answer = await fetch(request);
  if (answer.ok) (await caches.open(CACHE)).put(request, answer.clone());
  return answer;
}

async function fromNetworkFirst(request) {
  try {
    const answer = await fetch(request);
    if (answer.ok && !answer.redirected) (await caches.open(CACHE)).put(request, answer.clone());
    return answer;
  } catch (error) {
    const kept = await caches.match(request, { ignoreSearch: true });
    if (kept) return kept;
    throw error;
  }
}
