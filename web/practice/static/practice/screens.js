// What the screens of the practice page show; no word of it is decided here.

import { breathing, isLed, startWords, stopWords } from "./items.js";

const at = (id) => document.getElementById(id);
const SECTION = { ready: "hold", over: "trouble" };
let count = 0;

export function showScreen(page, screen) {
  const name = SECTION[screen] ?? screen;
  for (const one of page.querySelectorAll("[data-screen]")) one.hidden = one.dataset.screen !== name;
  if (page.dataset.shown !== screen) window.scrollTo(0, 0);
  page.dataset.shown = screen;
  at("again").textContent = screen === "over" ? gettext("Finish") : gettext("Try again");
}

export function showWords(page, words) {
  for (const one of page.querySelectorAll("[data-last-words]")) one.textContent = words;
}

// One attempt before it begins or while it is done.
export function showItem(now, { byHand, seen, holding = false }) {
  const byCount = now.step.way === "counted";
  at("step-name").textContent = now.step.name;
  // While it is done the picture and the one button are what is needed.
  at("instruction").hidden = at("caution-line").hidden = holding;
  at("clock").hidden = !holding || byCount || breathing(now) || now.step.said.length > 0;
  at("words").classList.toggle("large-words", isLed(now) && holding);
  at("instruction").textContent = now.step.instruction;
  at("caution").textContent = now.step.caution;
  at("cue").textContent = [now.step.cue, now.step.effort].filter(Boolean).join(" · ");
  at("movement").innerHTML = now.step.movement; // drawn and escaped by the server
  at("note").textContent = now.target.label;
  at("note").title = now.target.note;
  const turn = [now.repetition, now.step.repetitions];
  at("target").textContent = byCount
    ? interpolate(gettext("· %s of %s"), turn)
    : interpolate(gettext("· %s s · %s of %s"), [now.target.seconds, ...turn]);
  at("counter").hidden = at("all-of-them").hidden = !byCount || !holding;
  at("hold").disabled = false;
  at("hold").classList.toggle("hold-on", holding);
  at("hold").textContent = holding ? stopWords(now) : byHand ? startWords(now) : gettext("Start now");
  at("tone").hidden = holding || !now.target.hz;
  at("skip").hidden = at("pause-ready").hidden = holding;
  at("later").hidden = holding || !now.step.later;
  at("break-off").hidden = !holding || byCount;
  at("still-line").dataset.picture = now.step.picture;
  at("still-line").classList.toggle("unseen", !seen);
  at("unseen-words").hidden = seen || !holding;
  if (holding) return;
  window.scrollTo(0, 0);
  count = 0;
  setCount(now, 0);
  at("seconds").textContent = "0.0";
  at("words").textContent = "";
}

export function setCount(now, by) {
  const most = now.target.count ?? 0;
  count = Math.min(Math.max(count + by, 0), most);
  at("count").textContent = interpolate(gettext("%s of %s"), [count, most]);
  return count;
}

export const counted = (now) => (now.step.way === "counted" ? count : null);
