// Sends what is kept in the page and not yet confirmed; the ticket is the only key, cookies stay home.

import * as store from "./store.js";

const FINAL = new Set([200, 201, 202, 409]);
const AGAIN_MS = 3000;

export function asWav(samples, rate) {
  const wav = new ArrayBuffer(44 + samples.byteLength);
  const view = new DataView(wav);
  const ascii = (at, text) => [...text].forEach((c, i) => view.setUint8(at + i, c.charCodeAt(0)));
  ascii(0, "RIFF");
  view.setUint32(4, 36 + samples.byteLength, true);
  ascii(8, "WAVEfmt ");
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, 1, true);
  view.setUint32(24, rate, true);
  view.setUint32(28, rate * 2, true);
  view.setUint16(32, 2, true);
  view.setUint16(34, 16, true);
  ascii(36, "data");
  view.setUint32(40, samples.byteLength, true);
  new Int16Array(wav, 44).set(samples);
  return wav;
}

async function put(url, ticket, body, headers) {
  const answer = await fetch(url, {
    method: "PUT",
    credentials: "omit",
    headers: { "X-Ticket": ticket, ...headers },
    body,
  });
  const data = answer.headers.get("Content-Type")?.includes("json") ? await answer.json() : {};
  return { status: answer.status, data };
}

async function sendAttempt(attempt) {
  const url = `/attempts/${attempt.id}/`;
  if (attempt.state === "recording") {
    const sound = await store.soundOf(attempt.id);
    const said = { ...attempt.offer, interrupted: true, seconds: sound.length / attempt.rate };
    return put(url, attempt.ticket, JSON.stringify(said), { "Content-Type": "application/json" });
  }
  if (attempt.state === "timed") {
    const said = { ...attempt.offer, seconds: attempt.seconds };
    if (Number.isInteger(attempt.count)) said.count = attempt.count;
    return put(url, attempt.ticket, JSON.stringify(said), { "Content-Type": "application/json" });
  }
  const wav = asWav(await store.soundOf(attempt.id), attempt.rate);
  const offer = encodeURIComponent(JSON.stringify(attempt.offer));
  return put(url, attempt.ticket, wav, { "Content-Type": "audio/wav", "X-Attempt": offer });
}

function sendEntry(entry) {
  const body = JSON.stringify(entry.said);
  return put(`/entries/${entry.id}/`, entry.ticket, body, { "Content-Type": "application/json" });
}

/**
 * @param {{
 *   current?: () => string | null,
 *   onChange?: (kept: any[]) => void,
 *   onKept?: (kept: any, status: number, data: any) => void,
 * }} [handlers]
 */
export function startSender({ current = () => null, onChange = () => {}, onKept = () => {} } = {}) {
  /** @type {Promise<void> | null} */
  let running = null;
  let asked = false;
  let timer = null;

  async function one(kept, send, forget, mark) {
    if (kept.refused) return true;
    const { status, data } = await send(kept);
    if (FINAL.has(status)) await forget(kept.id);
    else if (status >= 500 || status === 429) return false;
    else await mark({ ...kept, refused: data.error?.message ?? String(status) });
    onKept(kept, status, data);
    return true;
  }

  async function round() {
    clearTimeout(timer);
    let open = false;
    const send = async (entries) => {
      for (const entry of entries) {
        open = !(await one(entry, sendEntry, store.forgetEntry, store.putEntry)) || open;
      }
    };
    try {
      // A stop sign does not wait behind the sound of an attempt.
      await send((await store.allEntries()).filter((entry) => entry.said.kind === "stop"));
      for (const attempt of await store.allAttempts()) {
        if (attempt.id === current()) continue;
        open = !(await one(attempt, sendAttempt, store.forgetAttempt, store.putAttempt)) || open;
      }
      await send(await store.allEntries());
    } catch (error) {
      if (!(error instanceof TypeError)) throw error;
      open = true; // fetch found no server; everything stays kept
    }
    const attempts = (await store.allAttempts()).filter((attempt) => attempt.id !== current());
    const entries = await store.allEntries();
    onChange([...attempts, ...entries]);
    if (open) timer = setTimeout(flush, AGAIN_MS);
  }

  async function rounds() {
    try {
      while (asked) {
        asked = false;
        await round();
      }
    } finally {
      running = null;
    }
  }

  // Done when all that was kept before the call has been tried, also where a round is under way.
  function flush() {
    asked = true;
    running ??= rounds();
    return running;
  }

  window.addEventListener("online", flush);
  return flush;
}
