// One attempt from the first piece of sound to the server's confirmation.

import { openInput } from "./microphone.js";
import { openAttemptSocket } from "./attempt-socket.js";
import { attemptLock, taken } from "./locks.js";
import * as store from "./store.js";

const ANSWER_WITHIN_MS = 5000;
const AFTER_OWN_SOUND_MS = 300;
// Unknown step, too long, the program rests. After any other end the recording goes on and is sent whole.
const ENDS_IT = new Set([4403, 4413, 4423]);
const socketUrl = () => `${location.origin.replace(/^http/, "ws")}/live/`;

export const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

export async function beginAttempt({ ticket, offer, input, worklet, voiceUrl, quietSince, onState, onRefused, onBand = null }) {
  const opened = await openInput(input, { worklet, voiceUrl });
  const wait = quietSince + AFTER_OWN_SOUND_MS - performance.now();
  if (wait > 0) await pause(wait);

  const full = { ...offer, input, device: opened.device };
  const kept = { id: offer.attempt_id, ticket, offer: full, rate: opened.rate, state: "recording", began: Date.now() };
  const giveBack = await taken(attemptLock(kept.id));
  await store.putAttempt(kept);

  let answered;
  let number = 0;
  let samples = 0;
  let lastWrite = Promise.resolve();
  const answer = new Promise((resolve) => (answered = resolve));
  const socket = openAttemptSocket(socketUrl(), { ticket, ...full, rate_hz: opened.rate }, {
    onMessage(message) {
      if (message.type === "state") onState(message);
      else if (message.type === "started") onBand?.(message.band);
      else answered(message);
    },
    onEnd(code, words) {
      answered({ type: "closed", code });
      if (ENDS_IT.has(code)) onRefused(code, words);
    },
  });
  const stopRecording = opened.record((piece) => {
    const mine = number++;
    samples += piece.length;
    lastWrite = store.putPiece(kept.id, mine, piece).then(() => socket.piece(piece));
  });

  async function ended() {
    await stopRecording();
    await lastWrite;
  }

  return {
    device: opened.device.label || input,
    // What the server says of it, or null: then it is kept here and sent whole.
    async stop() {
      await ended();
      await store.putAttempt({ ...kept, state: "recorded" });
      const sent = socket.stop(samples);
      const late = pause(ANSWER_WITHIN_MS).then(() => ({ type: "late" }));
      const message = sent ? await Promise.race([answer, late]) : { type: "closed" };
      socket.close();
      if (message.type === "kept") await store.forgetAttempt(kept.id);
      giveBack();
      return message.type === "kept" ? message : null;
    },
    // Broken off: it stays kept and is sent as interrupted.
    async interrupt() {
      socket.close();
      await ended();
      giveBack();
    },
    // Nothing was to be held yet.
    async drop() {
      socket.close();
      await ended();
      await store.forgetAttempt(kept.id);
      giveBack();
    },
  };
}

export async function keepTimed({ ticket, offer, seconds, count = null, interrupted = false }) {
  const full = { ...offer, input: "none", device: {} };
  await store.putAttempt({ id: offer.attempt_id, ticket, offer: full, seconds, count, interrupted, state: "timed" });
}
