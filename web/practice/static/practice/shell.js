// Keeps the practice page and its files in the browser, so that it opens without the server.

export async function keepShell() {
  const parts = performance.getEntriesByType("resource").map((entry) => new URL(entry.name));
  const shell = parts.filter((url) => url.pathname.startsWith("/static/") || url.pathname === "/words.js");
  const cache = await caches.open("still-reed-shell-1");
  await cache.addAll([location.pathname + location.search, ...new Set(shell.map((url) => url.pathname + url.search))]);
}
