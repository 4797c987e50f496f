// One attempt from the first piece of sound to the server's confirmation.

import { openInput } from "./microphone.js";
import { openAttemptSocket } from "./attempt-socket.js";
import * as store from "./store.js";

const ANSWER_WITHIN_MS = 5000;
const AFTER_OWN_SOUND_MS = 300;
const socketUrl = () => `${location.origin.replace(/^http/, "ws")}/live/`;

export const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

export async function beginAttempt({ ticket, offer, input, worklet, voiceUrl, quietSince, onState, onRefused }) {
  const opened = await openInput(input, { worklet, voiceUrl });
  const wait = quietSince + AFTER_OWN_SOUND_MS - performance.now();
  if (wait > 0) await pause(wait);

  const full = { ...offer, input, device: opened.device };
  const kept = { id: offer.attempt_id, ticket, offer: full, rate: opened.rate, state: "recording" };
  await store.putAttempt(kept);

  let answered;
  let number = 0;
  let samples = 0;
  let lastWrite = Promise.resolve();
  const answer = new Promise((resolve) => (answered = resolve));
  const socket = openAttemptSocket(socketUrl(), { ticket, ...full, rate_hz: opened.rate }, {
    onMessage(message) {
      if (message.type === "state") onState(message);
      else if (message.type !== "started") answered(message);
    },
    onEnd(code, words) {
      answered({ type: "closed", code });
      if (code >= 4400 && code !== 4429 && code !== 4503) onRefused(code, words);
    },
  });
  const stopRecording = opened.record((piece) => {
    const mine = number++;
    samples += piece.length;
    lastWrite = store.putPiece(kept.id, mine, piece).then(() => socket.piece(piece));
  });

  return {
    device: opened.device.label || input,
    async stop() {
      await stopRecording();
      await lastWrite;
      await store.putAttempt({ ...kept, state: "recorded" });
      const sent = socket.stop(samples);
      const late = pause(ANSWER_WITHIN_MS).then(() => ({ type: "late" }));
      const message = sent ? await Promise.race([answer, late]) : { type: "closed" };
      socket.close();
      if (message.type !== "kept") return null;
      await store.forgetAttempt(kept.id);
      return message;
    },
    async drop() {
      await stopRecording();
      socket.close();
      await store.forgetAttempt(kept.id);
    },
  };
}

export async function keepTimed({ ticket, offer, seconds, count = null }) {
  const full = { ...offer, input: "none", device: {} };
  await store.putAttempt({ id: offer.attempt_id, ticket, offer: full, seconds, count, state: "timed" });
}
