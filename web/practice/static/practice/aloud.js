// The device's own voice, where it has one, reads what is to be done; never while anything is measured.

import { saidIn } from "./items.js";

const LONGEST_MS = 30_000;
const voice = window.speechSynthesis;

export const hush = () => voice?.cancel();

document.getElementById("aloud-line").hidden = !voice;

// Done when it is said, hushed, or took too long.
function aloud(words) {
  return new Promise((resolve) => {
    const said = new window.SpeechSynthesisUtterance(words);
    said.lang = document.documentElement.lang;
    said.rate = 0.9;
    said.onend = said.onerror = () => resolve(performance.now());
    setTimeout(() => resolve(performance.now()), LONGEST_MS);
    voice.speak(said);
  });
}

// For those who do not read: what is to be done at the first attempt of a step, and what is to be said.
export function readAloud(now) {
  const { name, instruction, caution, cue } = now.step;
  const first = now.number === 0 ? [name, instruction, caution, cue] : [];
  const lines = (saidIn(now)?.lines ?? []).map((line) => line.words);
  return aloud([...first, ...lines].join(" "));
}
