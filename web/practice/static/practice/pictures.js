// The picture of an attempt by its name: drawn at rest before it begins, then with what the server says of it.

import { stillLine } from "../design/still-line.js";
import { lineColours } from "../design/paper.js";
import { air } from "./pictures/air.js";
import { breath } from "./pictures/breath.js";
import { beads, clock } from "./pictures/clock.js";
import { entry } from "./pictures/entry.js";
import { keys } from "./pictures/keys.js";
import { strong, talk } from "./pictures/strong.js";
import { near } from "./pictures/near.js";
import { thread } from "./pictures/thread.js";

const line = (canvas, { target, colours, rings = false }) => {
  const { hz, legs, seconds, swells } = target;
  return stillLine(canvas, { hz, legs, seconds, swells, rings, colours });
};
const bubbles = (canvas, of) => line(canvas, { ...of, rings: true });

const PICTURES = { line, bubbles, air, thread, keys, breath, strong, talk, clock, beads, entry, near };

// What a picture can be told: sound as it is heard, the band to lie in, seconds gone, what was counted.
const still = { against() {}, tick() {}, counted() {} };

// What was drawn, to be looked at afterwards, unless the ear alone is asked for.
export function lookBack({ step }, { drawn }) {
  const [from, to] = ["still-line", "after-line"].map((id) => document.getElementById(id));
  to.hidden = !drawn || step.feedback === "off";
  to.dataset.picture = step.picture;
  to.width = from.width;
  to.height = from.height;
  to.getContext("2d").drawImage(/** @type {any} */ (from), 0, 0);
}

export function pictureOf(canvas, { step, target }, { next = "" } = {}) {
  const colours = lineColours(document.documentElement.classList.contains("dark"));
  const calmly = window.matchMedia("(prefers-reduced-motion: reduce)").matches;
  return { ...still, ...PICTURES[step.picture](canvas, { step, target, colours, next, calmly }) };
}
