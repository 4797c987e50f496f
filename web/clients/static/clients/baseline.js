// The Baseline page in the visit: one measure after the other into the microphone, measured live.

import { targetOf } from "../design/target.js";
import { lineColours } from "../design/paper.js";
import { stillLine } from "../design/still-line.js";
import { playTone } from "../design/tone.js";
import { renewedFrom } from "../design/renewed.js";
import { beginAttempt, keepTimed } from "../measuring/attempt.js";
import { startSender } from "../measuring/sender.js";

const bundle = JSON.parse(document.getElementById("bundle").textContent);
const page = document.getElementById("page-data").dataset;
const receivedAt = performance.now();
const words = document.getElementById("live-words");
const input = document.getElementById("input");
const asked = document.getElementById("asked");
const CHOSEN = "baseline input";
const buttons = () => [...document.querySelectorAll("button.hold")];
const rowOf = (name) => document.querySelector(`tr[data-measure="${name}"]`);
const enough = (row) => row.dataset.missing === "0";
let running = null;
let quietSince = 0;
/** Name of the marked measure. */
let latest = "";

const flush = startSender({
  async onKept(kept, status, data) {
    words.textContent = data.error?.message ?? data.words ?? "";
    if (status >= 300 || running) return;
    await renewed();
    goOnWhenEnough();
  },
});

// What was tried stands there as the server has it; what is typed at the side and the chosen input stay.
async function renewed(url = location.href, options = {}) {
  const done = await renewedFrom(url, options);
  for (const button of buttons()) button.disabled = false;
  if (rowOf(latest)) mark(latest);
  return done;
}

function offerFor(button) {
  return {
    attempt_id: crypto.randomUUID(),
    step_id: button.dataset.step,
    elapsed_ms: Math.round(performance.now() - receivedAt),
    device_time: new Date().toISOString(),
  };
}

function voiceUrl(button) {
  const query = new URLSearchParams({
    task: button.dataset.task,
    hz: button.dataset.hz || "196",
    seconds: (4 + 4 * Math.random()).toFixed(1),
    seed: String(Math.floor(Math.random() * 1e6)),
    aim: button.dataset.aim,
  });
  return `${page.voice}?${query}`;
}

function mark(name) {
  latest = name;
  const row = rowOf(name);
  document.querySelectorAll("tr[aria-current]").forEach((one) => one.removeAttribute("aria-current"));
  row.setAttribute("aria-current", "step");
  asked.textContent = [row.dataset.words, row.dataset.passage].filter(Boolean).join(" ");
  asked.classList.toggle("long", Boolean(row.dataset.passage));
  sessionStorage.setItem(location.pathname, row.id);
}

const names = () => buttons().map((button) => button.dataset.step);

function firstName() {
  const name = location.hash.slice(1) || sessionStorage.getItem(location.pathname);
  const here = names().find((one) => one === name);
  const todo = names().find((one) => !enough(rowOf(one)));
  return (here && !enough(rowOf(here)) && here) || todo || here || names()[0];
}

function goOn() {
  const all = names();
  const after = all.slice(all.indexOf(latest) + 1);
  mark(after.find((one) => !enough(rowOf(one))) ?? after[0] ?? all[0]);
  rowOf(latest).scrollIntoView({ block: "nearest" });
}

// A measure that has what is wanted makes room for the next.
const goOnWhenEnough = () => {
  if (enough(rowOf(latest))) goOn();
};

async function start(button) {
  mark(button.dataset.step);
  const offer = offerFor(button);
  words.textContent = gettext("Listening …");
  button.disabled = true;
  running = { id: offer.attempt_id, button, offer, startedAt: performance.now(), attempt: null };
  const line = stillLine(document.getElementById("still-line"), {
    hz: Number(button.dataset.hz) || null,
    colours: lineColours(false),
  });
  if (input.value !== "stopwatch") {
    try {
      running.attempt = await beginAttempt({
        ticket: bundle.ticket,
        offer,
        input: input.value,
        worklet: page.worklet,
        voiceUrl: voiceUrl(button),
        quietSince,
        onState(state) {
          line.add(state);
          words.textContent = `${state.hold_s.toFixed(1)} s`;
          if (state.ended && running && !running.stopping) stop();
        },
        onRefused(code, reason) {
          words.textContent = reason || gettext("This hold could not be taken. Reload the page.");
        },
      });
    } catch {
      running = null;
      button.disabled = false;
      input.value = "stopwatch";
      words.textContent = gettext("No microphone is open. The stopwatch does the same job.");
      return;
    }
  }
  running.startedAt = performance.now();
  button.disabled = false;
  button.textContent = gettext("Stop");
  button.classList.add("hold-on");
}

async function stop() {
  const { attempt, button, offer, startedAt } = running;
  running.stopping = true;
  const seconds = Math.round((performance.now() - startedAt) / 10) / 100;
  button.disabled = true;
  const message = attempt ? await attempt.stop() : null;
  if (!attempt) await keepTimed({ ticket: bundle.ticket, offer, seconds });
  running = null;
  button.disabled = false;
  button.textContent = gettext("Start");
  button.classList.remove("hold-on");
  if (!message) {
    words.textContent = gettext("Kept on this page; it is being sent.");
    await flush();
    return;
  }
  await renewed();
  words.textContent = message.words;
  goOnWhenEnough();
}

document.addEventListener("click", (event) => {
  const button = targetOf(event).closest("button.hold");
  if (!button) return;
  if (!running) start(button);
  else if (running.button === button) stop();
});

// Typed seconds and what is struck out go to the server without the page being loaded again; a refusal says so in its row.
document.addEventListener("submit", async (event) => {
  const form = /** @type {HTMLFormElement} */ (event.target);
  if (!form.matches("[data-typed], [data-strike]")) return;
  event.preventDefault();
  if (running) return;
  const row = form.closest("tr");
  const typed = form.matches("[data-typed]");
  latest = row.dataset.measure;
  const taken = await renewed(form.action, { method: "POST", body: new FormData(form) });
  if (!typed) return;
  if (taken) goOnWhenEnough();
  typeHere();
});

// The marked measure's own field, or the next one's that has one.
function typeHere() {
  const field = rowOf(latest).querySelector("input[name=seconds]");
  if (field) field.focus();
}

document.addEventListener("keydown", async (event) => {
  if (targetOf(event).closest("input, select, textarea, button, a, dialog[open]")) return;
  if (event.key === " ") {
    event.preventDefault();
    (running?.button ?? rowOf(latest).querySelector("button.hold")).click();
  } else if (event.key === "t" && !running) {
    event.preventDefault();
    typeHere();
  } else if (event.key === "n" && !running) {
    goOn();
  } else if (event.key === "r" && !running) {
    const hz = Number(rowOf(latest).querySelector("button.hold").dataset.hz);
    if (hz) quietSince = await playTone(hz);
  }
});

const chosen = localStorage.getItem(CHOSEN);
if ([...document.querySelectorAll("#input option")].some((option) => option.value === chosen)) input.value = chosen;
input.addEventListener("change", () => localStorage.setItem(CHOSEN, input.value));
for (const button of buttons()) button.disabled = false;
mark(firstName());
stillLine(document.getElementById("still-line"), { hz: null, colours: lineColours(false) });
flush();
