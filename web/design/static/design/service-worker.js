// Keeps the client's shell for a lost connection: styles, scripts, fonts. Never a private page.

const SHELL = "still-reed-shell-1";

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

async function fromServerFirst(request) {
  const cache = await caches.open(SHELL);
  try {
    const answer = await fetch(request);
    if (answer.ok) await cache.put(request, answer.clone());
    return answer;
  } catch (error) {
    const kept = await cache.match(request);
    if (kept) return kept;
    throw error;
  }
}

self.addEventListener("fetch", (event) => {
  const url = new URL(event.request.url);
  const shell = url.origin === location.origin && url.pathname.startsWith("/static/");
  if (event.request.method === "GET" && shell) event.respondWith(fromServerFirst(event.request));
});
