// What the practice page does to the world: time, tones, the voice that reads aloud, attempts, leaving.

import { playTone } from "../design/tone.js";
import { hush, readAloud } from "./aloud.js";
import { beating, countIn, nextFrame } from "./beats.js";
import { byTheClock, byVoice, keepWatched, watchedSince } from "./hold.js";

export const effectsOf = (page) => ({
  nowMs: () => performance.now(),
  pause: (ms) => new Promise((resolve) => setTimeout(resolve, ms)),
  nextFrame,
  watchedSince,
  playTone,
  readAloud,
  hush,
  beating,
  countIn,
  byTheClock,
  byVoice: (asked) => byVoice({ ...asked, page }),
  keepWatched,
  leaveTo: (address) => location.assign(address),
  // Led by the hand nobody taps for minutes: the screen stays on where the browser can do that.
  stayAwake: () => navigator.wakeLock?.request("screen").catch(() => null),
});
