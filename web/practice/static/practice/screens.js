// What the screens of the practice page show; no word of it is decided here.

import { lineColours, stillLine } from "../design/still-line.js";
import { startWords, stopWords } from "./items.js";

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
export function showItem(now, { byHand, line, holding = false }) {
  at("step-name").textContent = now.step.name;
  at("instruction").textContent = now.step.instruction;
  at("caution").textContent = now.step.caution;
  at("cue").textContent = [now.step.cue, now.step.effort].filter(Boolean).join(" · ");
  showLines(now.step.said?.[(now.repetition - 1) % now.step.said.length] ?? []);
  at("note").textContent = now.target.label;
  at("note").title = now.target.note;
  const byCount = now.step.way === "counted";
  const turn = [now.repetition, now.step.repetitions];
  at("target").textContent = byCount
    ? interpolate(gettext("· %s of %s"), turn)
    : interpolate(gettext("· %s s · %s of %s"), [now.target.seconds, ...turn]);
  at("counter").hidden = !byCount;
  at("hold").disabled = false;
  at("hold").classList.toggle("hold-on", holding);
  at("hold").textContent = holding ? stopWords(now) : byHand ? startWords(now) : gettext("Start now");
  at("tone").hidden = holding || !now.target.hz;
  at("skip").hidden = at("pause-ready").hidden = holding;
  at("break-off").hidden = !holding || byCount;
  const drawn = now.step.way === "measured" && now.target.hz && line;
  at("still-line").hidden = at("no-picture").checked || !drawn;
  if (holding) return;
  count = 0;
  setCount(now, 0);
  at("seconds").textContent = "0.0";
  at("words").textContent = "";
}

// What is read, said or answered in this attempt.
function showLines(lines) {
  at("said").hidden = !lines.length;
  at("said").replaceChildren(
    ...lines.map((words) => {
      const line = document.createElement("p");
      line.textContent = words;
      return line;
    }),
  );
}

export function setCount(now, by) {
  const most = now.target.count ?? 0;
  count = Math.min(Math.max(count + by, 0), most);
  at("count").textContent = interpolate(gettext("%s of %s"), [count, most]);
}

export const counted = (now) => (now.step.way === "counted" ? count : null);

export function newLine(now) {
  const colours = lineColours(document.documentElement.classList.contains("dark"));
  const { hz, end_hz: endHz, seconds } = now.target;
  if (!hz) return { add() {} };
  return stillLine(at("still-line"), { hz, endHz, glideSeconds: seconds, colours });
}
