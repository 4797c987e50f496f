// Leaving this device to others: what is to be practiced and the kept pages go, at once and before the server is told.
// Recordings that were not sent stay, unseen, and are sent from the next page of a client.

import * as store from "../measuring/store.js";

const OF_A_CLIENT = /^\/c\//;

async function forgetPages() {
  for (const name of await caches.keys()) {
    const cache = await caches.open(name);
    for (const kept of await cache.keys()) if (OF_A_CLIENT.test(new URL(kept.url).pathname)) await cache.delete(kept);
  }
}

export async function forgetAll() {
  await Promise.allSettled([store.forgetBundles(), forgetPages()]);
}

// A page that the browser brings back by itself is asked for again: the server knows whether somebody left.
export function neverFromMemory() {
  window.addEventListener("pageshow", ({ persisted }) => {
    if (persisted) location.reload();
  });
}

export function forgetOnLeaving(form) {
  form?.addEventListener("submit", async (event) => {
    event.preventDefault();
    await forgetAll();
    form.submit();
  });
}
