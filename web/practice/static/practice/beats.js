// The beat of an attempt: seen in its picture, felt or heard if the client wants it, and the count before it.

import { playTick } from "../design/tone.js";

const FELT_MS = 40;

const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
// As smooth as the screen; a page that is not seen draws nothing, but its clock goes on.
export const nextFrame = () => Promise.race([new Promise(requestAnimationFrame), pause(100)]);

function tick(how) {
  if (how === "felt") navigator.vibrate?.(FELT_MS);
  else if (how === "heard") playTick();
}

// Called with the seconds gone; ticks once a beat.
export function beating(beatS, how) {
  let last = -1;
  return (gone) => {
    const now = beatS ? Math.floor(gone / beatS) : last;
    if (now === last) return;
    last = now;
    tick(how);
  };
}

// The breath comes on the last two beats, not on the first: held breath is no better breath.
export async function countIn({ target }, beats, { told, ticks }) {
  for (let beat = 1; beat <= beats; beat++) {
    told(beat > beats - 2 ? gettext("Breathe in") : String(beat));
    tick(ticks);
    await pause(target.beat_s * 1000);
  }
}
