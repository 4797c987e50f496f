// The Bench: heads are dragged or moved with the arrow keys; the server answers with the new drawing.

import { targetOf } from "../design/target.js";

const bench = document.getElementById("bench");
const words = document.getElementById("bench-words");
const csrf = document.querySelector("[name=csrfmiddlewaretoken]")?.value;
let queue = Promise.resolve();
let drag = null;

const revision = () => Number(bench.querySelector("[data-revision]")?.dataset.revision);

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

async function send(edit) {
  const focused = document.activeElement?.closest(".reed")?.dataset.key;
  let answer;
  let data;
  try {
    answer = await fetch(bench.dataset.edit, {
      method: "POST",
      headers: { "X-CSRFToken": csrf, "Content-Type": "application/json", Accept: "application/json" },
      body: JSON.stringify({ revision: revision(), ...edit }),
    });
    data = await answer.json();
  } catch {
    say(gettext("The server cannot be reached. Your last change was not saved; try it again."));
    return;
  }
  say(answer.ok ? null : (data.message ?? data.error?.message));
  if (answer.status === 409) showYours();
  if (!data.html) return;
  bench.innerHTML = data.html;
  const field = document.getElementById("revision");
  if (field) field.value = data.revision;
  if (focused) bench.querySelector(`.reed[data-key="${focused}"]`)?.focus();
}

const edit = (change) => (queue = queue.then(() => send(change)));

const ARROWS = {
  ArrowLeft: (big) => ({ semitones: big ? -12 : -1 }),
  ArrowRight: (big) => ({ semitones: big ? 12 : 1 }),
  ArrowUp: (big) => ({ seconds: big ? 5 : 0.5 }),
  ArrowDown: (big) => ({ seconds: big ? -5 : -0.5 }),
};

bench?.addEventListener("keydown", (event) => {
  const reed = targetOf(event).closest(".reed[data-key]");
  if (!reed) return;
  if (event.key in ARROWS) {
    event.preventDefault();
    edit({ edit: "move", key: reed.dataset.key, ...ARROWS[event.key](event.shiftKey) });
  } else if (event.key === "Delete") {
    edit({ edit: "remove", step_id: reed.dataset.key.split(":")[0] });
  }
});

document.addEventListener("keydown", (event) => {
  if (targetOf(event).closest("input, select, textarea")) return;
  if (event.key === "u" && bench?.querySelector("[data-edit=undo]:not(:disabled)")) edit({ edit: "undo" });
});

bench?.addEventListener("click", (event) => {
  const button = targetOf(event).closest("button[data-edit]");
  if (button) edit({ edit: button.dataset.edit, step_id: button.dataset.step });
});

bench?.addEventListener("change", (event) => {
  const field = targetOf(event).closest("[data-edit]");
  if (!field) return;
  if (field.dataset.edit === "dose") {
    const dose = Object.fromEntries(
      [...field.closest("[data-dose]").querySelectorAll("input, select")].map((one) => [
        one.name,
        one.type === "number" ? Number(one.value) : one.value,
      ]),
    );
    edit({ edit: "dose", routine: field.closest("[data-dose]").dataset.dose, ...dose });
  } else edit({ edit: field.dataset.edit, step_id: field.dataset.step, value: "code" in field.dataset ? field.value : Number(field.value) });
});

function moved(event) {
  const box = drag.svg.getBoundingClientRect();
  const unit = drag.svg.viewBox.baseVal.width / box.width;
  return {
    semitones: Math.round(((event.clientX - drag.x) * unit) / Number(drag.reed.dataset.pxSemitone)),
    seconds: Math.round((-2 * (event.clientY - drag.y) * unit) / Number(drag.reed.dataset.pxSecond)) / 2,
    dx: (event.clientX - drag.x) * unit,
    dy: (event.clientY - drag.y) * unit,
  };
}

bench?.addEventListener("pointerdown", (event) => {
  const reed = targetOf(event).closest(".reed[data-key]");
  if (!reed) return;
  event.preventDefault();
  reed.focus();
  drag = { reed, svg: reed.ownerSVGElement, x: event.clientX, y: event.clientY };
  bench.setPointerCapture(event.pointerId);
});

bench?.addEventListener("pointermove", (event) => {
  if (!drag) return;
  const { dx, dy } = moved(event);
  drag.reed.querySelector(".head").setAttribute("transform", `translate(${dx} ${dy})`);
});

bench?.addEventListener("pointerup", (event) => {
  if (!drag) return;
  const { semitones, seconds } = moved(event);
  const { reed } = drag;
  drag = null;
  reed.querySelector(".head").removeAttribute("transform");
  if (semitones || seconds) edit({ edit: "move", key: reed.dataset.key, semitones, seconds });
});

if (bench) bench.dataset.ready = "yes";
