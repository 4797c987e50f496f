// What the page keeps until the server has confirmed it: attempts with their sound, and entries.

import { openDB } from "../generated/idb.js";

const ready = openDB("still-reed", 1, {
  upgrade(db) {
    db.createObjectStore("attempts", { keyPath: "id" });
    db.createObjectStore("pieces", { keyPath: ["id", "number"] });
    db.createObjectStore("entries", { keyPath: "id" });
    db.createObjectStore("bundles", { keyPath: "session_id" });
  },
});

const piecesOf = (id) => IDBKeyRange.bound([id, 0], [id, Infinity]);

export async function putAttempt(one) {
  await (await ready).put("attempts", one);
}

export async function attempt(id) {
  return (await ready).get("attempts", id);
}

export async function entry(id) {
  return (await ready).get("entries", id);
}

export async function putPiece(id, number, samples) {
  await (await ready).put("pieces", { id, number, samples });
}

export async function putEntry(one) {
  await (await ready).put("entries", one);
}

export async function putBundle(bundle) {
  await (await ready).put("bundles", bundle);
}

export async function latestBundle(link, routine) {
  const kept = (await (await ready).getAll("bundles")).filter((bundle) => bundle.link === link);
  const own = kept.filter((bundle) => !routine || bundle.routine === routine);
  return own.sort((a, b) => a.server_time.localeCompare(b.server_time)).at(-1);
}

export async function forgetBundle(sessionId) {
  await (await ready).delete("bundles", sessionId);
}

export async function forgetBundles() {
  await (await ready).clear("bundles");
}

export async function allAttempts() {
  return (await ready).getAll("attempts");
}

export async function allEntries() {
  return (await ready).getAll("entries");
}

export async function soundOf(id) {
  const pieces = await (await ready).getAll("pieces", piecesOf(id));
  const whole = new Int16Array(pieces.reduce((sum, piece) => sum + piece.samples.length, 0));
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece.samples, at);
    at += piece.samples.length;
  }
  return whole;
}

export async function forgetAttempt(id) {
  const change = (await ready).transaction(["attempts", "pieces"], "readwrite");
  change.objectStore("attempts").delete(id);
  change.objectStore("pieces").delete(piecesOf(id));
  await change.done;
}

export async function forgetEntry(id) {
  await (await ready).delete("entries", id);
}
