// Sends what is kept in the page and not yet confirmed; the ticket is the only key, cookies stay home.

import { attemptLock, entryLock, ifFree } from "./locks.js";
import * as store from "./store.js";

const FINAL = new Set([200, 201, 202, 409]);
const URGENT = new Set(["stop", "before"]);
const STALE = 401;
const AGAIN_MS = 3000;
const LONGEST_ENTRY_MS = 20_000;
const LONGEST_ATTEMPT_MS = 120_000;
const LONGEST_HOLD_MS = 150_000;

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

async function put(url, ticket, body, headers, longestMs = LONGEST_ATTEMPT_MS) {
  const answer = await fetch(url, {
    method: "PUT",
    credentials: "omit",
    headers: { "X-Ticket": ticket, ...headers },
    body,
    signal: AbortSignal.timeout(longestMs),
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
    if (attempt.interrupted) said.interrupted = true;
    return put(url, attempt.ticket, JSON.stringify(said), { "Content-Type": "application/json" });
  }
  const wav = asWav(await store.soundOf(attempt.id), attempt.rate);
  const offer = encodeURIComponent(JSON.stringify(attempt.offer));
  return put(url, attempt.ticket, wav, { "Content-Type": "audio/wav", "X-Attempt": offer });
}

function sendEntry(entry) {
  const body = JSON.stringify(entry.said);
  const headers = { "Content-Type": "application/json" };
  return put(`/entries/${entry.id}/`, entry.ticket, body, headers, LONGEST_ENTRY_MS);
}

// Still being held: by this page or another tab that has its lock, or, without locks, for as long as a hold lasts.
const isHeldNow = (attempt) =>
  !navigator.locks && attempt.state === "recording" && Date.now() - (attempt.began ?? 0) < LONGEST_HOLD_MS;
const noServer = (error) => error instanceof TypeError || error.name === "TimeoutError" || error.name === "AbortError";

const ATTEMPTS = { lock: attemptLock, send: sendAttempt, get: store.attempt, forget: store.forgetAttempt, mark: store.putAttempt };
const ENTRIES = { lock: entryLock, send: sendEntry, get: store.entry, forget: store.forgetEntry, mark: store.putEntry };

/**
 * renew: a new ticket for a stale one, or null; onChange: everything that waits; onKept: what the server said of one.
 * @param {{
 *   renew?: (ticket: string) => Promise<string | null>,
 *   onChange?: (kept: any[]) => void,
 *   onKept?: (kept: any, status: number, data: any) => void,
 * }} [handlers]
 */
export function startSender({ renew = async () => null, onChange = () => {}, onKept = () => {} } = {}) {
  /** @type {Promise<void> | null} */
  let running = null;
  let asked = false;
  let timer = null;
  const givenUp = new Set();

  async function sent(kept, of) {
    let answer = await of.send(kept);
    if (answer.status === STALE) {
      const ticket = await renew(kept.ticket);
      if (ticket) answer = await of.send(Object.assign(kept, { ticket }));
    }
    return answer;
  }

  // Sends one thing unless a page has it in hand; true = dealt with, false = to be tried again.
  async function one(id, of) {
    const kept = await of.get(id);
    if (!kept || isHeldNow(kept) || givenUp.has(id)) return true;
    const { status, data } = await sent(kept, of);
    if (FINAL.has(status)) await of.forget(id);
    else if (status >= 500 || status === 429) return false;
    else {
      givenUp.add(id);
      await of.mark({ ...kept, refused: data.error?.message ?? String(status) });
    }
    onKept(kept, status, data);
    return true;
  }

  async function all(kept, of) {
    let done = true;
    for (const { id } of kept) done = (await ifFree(of.lock(id), () => one(id, of))) !== false && done;
    return done;
  }

  async function round() {
    clearTimeout(timer);
    let done = true;
    try {
      // A stop sign and what is new since last time do not wait behind the sound of an attempt.
      const urgent = (await store.allEntries()).filter((entry) => URGENT.has(entry.said.kind));
      done = await all(urgent, ENTRIES);
      done = (await all(await store.allAttempts(), ATTEMPTS)) && done;
      done = (await all(await store.allEntries(), ENTRIES)) && done;
    } catch (error) {
      if (!noServer(error)) throw error;
      done = false; // everything stays kept
    }
    onChange([...(await recordedAttempts()), ...(await store.allEntries())]);
    if (!done) timer = setTimeout(flush, AGAIN_MS);
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

// Those that are no running hold of a page.
async function recordedAttempts() {
  const found = [];
  for (const attempt of await store.allAttempts()) {
    const free = attempt.state !== "recording" || (await ifFree(attemptLock(attempt.id), () => true));
    if (free && !isHeldNow(attempt)) found.push(attempt);
  }
  return found;
}
