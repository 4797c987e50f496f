// Keeps the client's shell for a lost connection: the empty practice page, styles, scripts, fonts.
// Never a page that says anything about a client.

const SHELL = "still-reed-shell-1";
const SHELL_PATHS = /^\/(static\/|words\.js$|c\/[0-9a-f-]+\/practice\/$)/;

/** @type {any} A worker, where the types know a window only. */
const worker = self;

worker.addEventListener("install", () => worker.skipWaiting());
worker.addEventListener("activate", (event) => event.waitUntil(worker.clients.claim()));

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

worker.addEventListener("fetch", (event) => {
  const url = new URL(event.request.url);
  const shell = url.origin === location.origin && SHELL_PATHS.test(url.pathname);
  if (event.request.method === "GET" && shell) event.respondWith(fromServerFirst(event.request));
});
