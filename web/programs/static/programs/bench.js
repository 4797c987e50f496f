// The Bench: whatever is set, dragged, ordered or added goes to the server, which answers with the new draft.

import { csrfToken } from "../design/csrf.js";
import { targetOf } from "../design/target.js";
import { Idiomorph } from "../generated/idiomorph.js";
import { findOnShelf } from "./shelf.js";
import { pulls } from "./pulls.js";

const bench = document.getElementById("bench");
const words = document.getElementById("bench-words");
let queue = Promise.resolve();
/** The field with a half-typed value: it is the hand's until it is left, whatever the server answers meanwhile. */
let typing = null;

const state = () => bench.querySelector("[data-revision]")?.dataset ?? {};

function say(text) {
  words.hidden = !text;
  words.textContent = text ?? "";
}

function showYours() {
  const yours = document.getElementById("yours");
  yours.querySelector("svg")?.remove();
  const mine = bench.querySelector("#bed svg")?.cloneNode(true);
  if (mine) yours.append(mine);
  yours.hidden = !mine;
}

/** Where the focus was, so that it can be put back into what the server answers. */
function focused() {
  const own = /** @type {HTMLElement} */ (document.activeElement);
  const reed = own?.closest(".reed[data-key]");
  if (reed) return `.reed[data-key="${reed.dataset.key}"]`;
  const grip = own?.closest(".grip");
  if (grip) return `.grip[data-across="${grip.dataset.across ?? ""}"][data-up="${grip.dataset.up ?? ""}"]`.replaceAll('[data-across=""]', ":not([data-across])").replaceAll('[data-up=""]', ":not([data-up])");
  if (own?.dataset?.weekday) return `[data-weekday="${own.dataset.weekday}"]`;
  if (own?.dataset?.toggle) return `[data-toggle="${own.dataset.toggle}"]`;
  if (own?.dataset?.pick && own.closest(".steps")) return `.steps [data-pick="${own.dataset.pick}"]`;
  if (own?.dataset?.edit && own.closest("#step")) return `#step [data-edit="${own.dataset.edit}"]${own.dataset.by ? `[data-by="${own.dataset.by}"]` : ""}`;
  return own?.id && bench.contains(own) ? `#${own.id}` : null;
}

function put(html) {
  const back = focused();
  const reason = document.getElementById("written-reason")?.value;
  const sameStep = html.includes(`data-chosen="${state().chosen}"`); // a field of another step takes over no value
  Idiomorph.morph(bench, html, {
    morphStyle: "innerHTML",
    ignoreActiveValue: sameStep && typing === document.activeElement,
    callbacks: { beforeAttributeUpdated: (name) => name !== "open" },
  });
  const area = document.getElementById("written-reason");
  if (area && reason) area.value = reason;
  const own = back && bench.querySelector(back);
  if (own && own !== document.activeElement) own.focus();
}

async function send(edit) {
  const { revision, chosen } = state();
  let answer;
  let data;
  try {
    answer = await fetch(bench.dataset.edit, {
      method: "POST",
      headers: { "X-CSRFToken": csrfToken(), "Content-Type": "application/json", Accept: "application/json" },
      body: JSON.stringify({ revision: Number(revision), chosen, ...edit }),
    });
    data = await answer.json();
  } catch {
    say(gettext("The server cannot be reached. Your last change was not saved; try it again."));
    return;
  }
  say(answer.ok ? null : (data.message ?? data.error?.message));
  if (answer.status === 409) showYours();
  if (data.html) put(data.html);
}

const edit = (change) => (queue = queue.then(() => send(change)));

const ARROWS = {
  ArrowLeft: (big) => ({ semitones: big ? -12 : -1 }),
  ArrowRight: (big) => ({ semitones: big ? 12 : 1 }),
  ArrowUp: (big) => ({ seconds: big ? 5 : 0.5 }),
  ArrowDown: (big) => ({ seconds: big ? -5 : -0.5 }),
};

function onDrawing(event) {
  const reed = targetOf(event).closest(".reed[data-key]");
  if (reed && event.key in ARROWS) {
    edit({ edit: "move", key: reed.dataset.key, ...ARROWS[event.key](event.shiftKey) });
    return true;
  }
  if (reed && event.key === "Delete") {
    edit({ edit: "remove", step_id: reed.dataset.key.split(":")[0] });
    return true;
  }
  const grip = targetOf(event).closest(".grip");
  if (!grip || !(event.key in ARROWS)) return false;
  const along = event.key === "ArrowLeft" || event.key === "ArrowRight" ? "across" : "up";
  const key = grip.dataset[along];
  if (!key) return false;
  const forth = event.key === "ArrowRight" || event.key === "ArrowUp" ? 1 : -1;
  const back = along === "up" && Number(grip.dataset.upPx) < 0 ? -1 : 1;
  edit({ edit: "nudge", step_id: grip.dataset.step, key, by: forth * back * (event.shiftKey ? 10 : 1) });
  return true;
}

function toggled(own) {
  if (own.dataset.toggle) edit({ edit: "key", step_id: own.dataset.step, value: own.dataset.toggle });
  else if (own.dataset.weekday) edit({ edit: "weekday", routine: own.dataset.routine, value: Number(own.dataset.weekday) });
  else if (own.dataset.away) edit({ edit: "away", value: own.dataset.away });
}

const TOGGLES = "[data-toggle], [data-weekday], [data-away]";

bench?.addEventListener("keydown", (event) => {
  const own = targetOf(event).closest(TOGGLES);
  if (own && (event.key === "Enter" || event.key === " ")) {
    event.preventDefault();
    toggled(own);
  } else if (onDrawing(event)) event.preventDefault();
});

document.addEventListener("keydown", (event) => {
  if (!bench || event.ctrlKey || event.metaKey) return;
  const chosen = state().chosen;
  if (event.altKey && (event.key === "ArrowUp" || event.key === "ArrowDown")) {
    event.preventDefault();
    edit({ edit: "order", step_id: chosen, by: event.key === "ArrowUp" ? -1 : 1 });
    return;
  }
  if (event.altKey || targetOf(event).closest("input, select, textarea") || document.body.dataset.letterKeys === "off") return;
  if (event.key === "u" && bench.querySelector("[data-edit=undo]:not(:disabled)")) edit({ edit: "undo" });
  if (event.key === "U" && bench.querySelector("[data-edit=redo]:not(:disabled)")) edit({ edit: "redo" });
  if (event.key === "d") edit({ edit: "duplicate", step_id: chosen });
  if (event.key === "a") {
    event.preventDefault();
    document.getElementById("find-task")?.focus();
  }
});

bench?.addEventListener("click", (event) => {
  const own = targetOf(event);
  const picked = own.closest("[data-pick]");
  if (picked && !event.ctrlKey && !event.metaKey) {
    event.preventDefault();
    edit({ edit: "look", chosen: picked.dataset.pick }).then(() => bench.scrollIntoView({ block: "start" }));
    return;
  }
  if (own.closest(TOGGLES)) toggled(own.closest(TOGGLES));
  const button = own.closest("button");
  if (!button) return;
  const { edit: kind, step, by, value, taper, stage, routine, place } = button.dataset;
  if (kind) edit({ edit: kind, step_id: step, by: Number(by), value: Number(value), part: button.dataset.part });
  else if (taper) edit({ edit: "calendar", routine, key: "taper", value: taper });
  else if (stage) edit({ edit: "stage", routine, place: Number(place), key: stage });
});

function dose(field) {
  const own = field.closest("[data-dose]");
  const values = [...own.querySelectorAll("input, select")].map((one) => [one.name, one.type === "number" ? Number(one.value) : one.value]);
  return { edit: "dose", routine: own.dataset.dose, ...Object.fromEntries(values) };
}

const CHANGED = {
  set: (field) => ({ edit: "set", step_id: field.dataset.step, key: field.dataset.set, value: field.type === "checkbox" ? (field.checked ? "yes" : "") : field.value }),
  rung: (field) => ({ edit: "rung", step_id: field.dataset.step, value: Number(field.value) }),
  ladder: (field) => ({ edit: "ladder", step_id: field.dataset.step, value: field.value }),
  routineOf: (field) => ({ edit: "routine", step_id: field.dataset.step, value: field.value }),
  calendar: (field) => ({ edit: "calendar", routine: field.dataset.routine, key: field.dataset.calendar, value: field.value }),
  visit: (field) => ({ edit: "visit", routine: field.dataset.routine, value: Number(field.dataset.visit) }),
  awayDay: (field) => ({ edit: "away", value: field.value }),
  stage: (field) => ({ edit: "stage", routine: field.dataset.routine, place: Number(field.dataset.place), key: field.dataset.stage, value: field.value }),
  edit: dose,
};

bench?.addEventListener("input", (event) => (typing = targetOf(event)));
bench?.addEventListener("focusout", () => (typing = null));

bench?.addEventListener("change", (event) => {
  typing = null;
  const field = targetOf(event);
  const kind = Object.keys(CHANGED).find((one) => one in field.dataset);
  if (kind) edit(CHANGED[kind](field));
});

if (bench) {
  pulls(bench, edit);
  findOnShelf((task) => edit({ edit: "add", task, routine: bench.querySelector("#f-routine")?.value }));
  bench.dataset.ready = "yes";
}
