// A task listened to while it is tried in the visit: drawn and measured live, not kept.

import { lineColours } from "../design/paper.js";
import { stillLine } from "../design/still-line.js";
import { beginAttempt } from "../measuring/attempt.js";

const data = JSON.parse(document.getElementById("trying-data").textContent);
const page = document.getElementById("page-data").dataset;
const task = document.getElementById("tried-task");
const input = document.getElementById("input");
const button = document.getElementById("try-it");
const words = document.getElementById("live-words");
const receivedAt = performance.now();
let running = null;

const asked = () => data.tasks[task.value];

function show() {
  document.getElementById("trying").hidden = !asked();
  document.getElementById("not-heard").hidden = Boolean(asked()) || !task.value;
}

function voiceUrl({ kind, hz, aim }) {
  const query = new URLSearchParams({ task: kind, hz: String(hz ?? 196), seconds: "5.0", seed: String(Math.floor(Math.random() * 1e6)), aim });
  return `${page.voice}?${query}`;
}

async function start() {
  const own = asked();
  const line = stillLine(document.getElementById("still-line"), { hz: own.hz, colours: lineColours(false) });
  words.textContent = gettext("Listening …");
  try {
    running = await beginAttempt({
      ticket: data.ticket,
      offer: {
        attempt_id: crypto.randomUUID(),
        step_id: task.value,
        elapsed_ms: Math.round(performance.now() - receivedAt),
        device_time: new Date().toISOString(),
      },
      input: input.value,
      worklet: page.worklet,
      voiceUrl: voiceUrl(own),
      quietSince: 0,
      onState(state) {
        line.add(state);
        words.textContent = `${state.hold_s.toFixed(1)} s`;
        if (state.ended && running) stop();
      },
      onRefused(_code, reason) {
        words.textContent = reason || gettext("This could not be taken. Reload the page.");
      },
    });
    button.textContent = gettext("Stop");
  } catch {
    words.textContent = gettext("No microphone is open. Judge it by ear.");
  }
}

async function stop() {
  const ending = running;
  running = null;
  button.textContent = gettext("Listen");
  const message = await ending.stop();
  words.textContent = message?.words ?? gettext("It could not be measured this time. Try again.");
}

button.addEventListener("click", () => (running ? stop() : start()));
task.addEventListener("change", show);
task.closest("form").addEventListener("reset", () => setTimeout(show));
show();
