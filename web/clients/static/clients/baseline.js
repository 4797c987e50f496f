// The Baseline page in the visit: one measure after the other into the microphone, measured live.

import { targetOf } from "../design/target.js";
import { lineColours } from "../design/paper.js";
import { stillLine } from "../design/still-line.js";
import { playTone } from "../design/tone.js";
import { beginAttempt, keepTimed } from "../measuring/attempt.js";
import { startSender } from "../measuring/sender.js";

const bundle = JSON.parse(document.getElementById("bundle").textContent);
const page = document.getElementById("page-data").dataset;
const receivedAt = performance.now();
const words = document.getElementById("live-words");
const input = document.getElementById("input");
const asked = document.getElementById("asked");
const buttons = [...document.querySelectorAll("button.hold")];
let running = null;
let quietSince = 0;
let latest = null;

const flush = startSender({
  onKept(kept, status, data) {
    if (status < 300) location.reload();
    else words.textContent = data.error?.message ?? "";
  },
});

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

function mark(button) {
  latest = button;
  const row = button.closest("tr");
  document.querySelectorAll("tr[aria-current]").forEach((one) => one.removeAttribute("aria-current"));
  row.setAttribute("aria-current", "step");
  asked.textContent = [row.dataset.words, row.dataset.passage].filter(Boolean).join(" ");
  asked.classList.toggle("long", Boolean(row.dataset.passage));
  sessionStorage.setItem(location.pathname, row.id);
}

function firstButton() {
  const name = location.hash.slice(1) || sessionStorage.getItem(location.pathname);
  const here = buttons.find((button) => button.dataset.step === name);
  const todo = document.querySelector("tr[data-measure]:not([data-missing='0']) button.hold");
  const stillMissing = here && here.closest("tr").dataset.missing !== "0";
  return (stillMissing && here) || todo || here || buttons[0];
}

function goOn() {
  const after = buttons.slice(buttons.indexOf(latest) + 1);
  mark(after.find((one) => one.closest("tr").dataset.missing !== "0") ?? after[0] ?? buttons[0]);
  latest.scrollIntoView({ block: "nearest" });
}

async function start(button) {
  mark(button);
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
  words.textContent = message.words;
  location.reload();
}

buttons.forEach((button) => {
  button.disabled = false;
  button.addEventListener("click", () => {
    if (!running) start(button);
    else if (running.button === button) stop();
  });
});

document.addEventListener("keydown", async (event) => {
  if (targetOf(event).closest("input, select, textarea, button, a, dialog[open]")) return;
  if (event.key === " ") {
    event.preventDefault();
    (running?.button ?? latest).click();
  } else if (event.key === "n" && !running) {
    goOn();
  } else if (event.key === "r" && !running) {
    const hz = Number(latest.dataset.hz);
    if (hz) quietSince = await playTone(hz);
  }
});

mark(firstButton());
stillLine(document.getElementById("still-line"), { hz: null, colours: lineColours(false) });
flush();
