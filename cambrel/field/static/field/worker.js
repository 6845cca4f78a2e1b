// Keeps the sheets that were opened, with all they need, for where there is no network. Served at /field/, so that it reaches no other page.
const KEPT = "field-1";
const isSheet = (address) => /^\/field\/(\d+\/)?$/.test(address.pathname);
const isStatic = (address) => address.pathname.startsWith("/static/");

async function fromNetworkFirst(request) {
  const cache = await caches.open(KEPT);
  try {
    const answer = await fetch(request);
    if (answer.ok) await cache.put(request, answer.clone());
    return answer;
  } catch (error) {
    const kept = await cache.match(request, { ignoreVary: true });
    if (kept) return kept;
    throw error;
  }
}

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));
self.addEventListener("fetch", (event) => {
  const { request } = event;
  const address = new URL(request.url);
  if (request.method !== "GET" || address.origin !== self.location.origin) return;
  if ((request.mode === "navigate" && isSheet(address)) || isStatic(address)) event.respondWith(fromNetworkFirst(request));
});
