// One attempt in the player: into the microphone, measured by the server, or by the clock.

import { beginAttempt, keepTimed } from "../measuring/attempt.js";
import { elapsedOf, voiceQuery } from "./items.js";

const offerOf = (now, bundle) => ({
  attempt_id: crypto.randomUUID(),
  step_id: now.step.step_id,
  place: now.place,
  repetition: now.repetition,
  elapsed_ms: elapsedOf(bundle),
  device_time: new Date().toISOString(),
});

export const watchedSince = (startedAt) => Math.round((performance.now() - startedAt) / 10) / 100;

// Keeps seconds that were watched beside an attempt which the server could not measure.
export async function keepWatched(now, bundle, seconds) {
  await keepTimed({ ticket: bundle.ticket, offer: offerOf(now, bundle), seconds });
}

export async function byTheClock({ now, bundle }) {
  const offer = offerOf(now, bundle);
  const startedAt = performance.now();
  const keep = (more) => keepTimed({ ticket: bundle.ticket, offer, seconds: watchedSince(startedAt), ...more });
  return {
    id: offer.attempt_id,
    startedAt,
    device: null,
    async stop(count) {
      await keep({ count });
      return null;
    },
    interrupt: () => keep({ interrupted: true }),
  };
}

export async function byVoice({ now, bundle, input, page, quietSince, onState, onBand, onRefused }) {
  const offer = offerOf(now, bundle);
  const attempt = await beginAttempt({
    ticket: bundle.ticket,
    offer,
    input,
    worklet: page.dataset.worklet,
    voiceUrl: `${page.dataset.voice}?${voiceQuery(now)}`,
    quietSince,
    onState,
    onBand,
    onRefused,
  });
  return { id: offer.attempt_id, startedAt: performance.now(), ...attempt };
}
