// What is dragged on the Bench: heads of reeds, grips of the other drawings, steps in their list.

import { targetOf } from "../design/target.js";

const unitOf = (svg) => svg.viewBox.baseVal.width / svg.getBoundingClientRect().width;

/** What a pull of some user units comes to, in the grid of what is pulled. */
function reedEdits(reed, dx, dy) {
  const semitones = Math.round(dx / Number(reed.dataset.pxSemitone));
  const seconds = Math.round((-2 * dy) / Number(reed.dataset.pxSecond)) / 2;
  return semitones || seconds ? [{ edit: "move", key: reed.dataset.key, semitones, seconds }] : [];
}

function gripEdits(grip, dx, dy) {
  const { step, across, up, acrossPx, upPx } = grip.dataset;
  const pulled = [
    [across, Math.round(dx / Number(acrossPx))],
    [up, Math.round(-dy / Number(upPx))],
  ];
  return pulled.filter(([key, by]) => key && by).map(([key, by]) => ({ edit: "nudge", step_id: step, key, by }));
}

/** Takes hold of what is pulled in the bench and sends what it comes to when it is let go. */
export function pulls(bench, edit) {
  let held = null;
  bench.addEventListener("pointerdown", (event) => {
    const own = targetOf(event).closest(".reed[data-key], .grip");
    if (!own) return;
    event.preventDefault();
    own.focus();
    const part = own.querySelector(".head") ?? own.querySelector(".knob");
    held = { own, part, unit: unitOf(own.ownerSVGElement), x: event.clientX, y: event.clientY };
    bench.setPointerCapture(event.pointerId);
  });
  const by = (event) => [(event.clientX - held.x) * held.unit, (event.clientY - held.y) * held.unit];
  bench.addEventListener("pointermove", (event) => {
    if (!held) return;
    const [dx, dy] = by(event);
    held.part.setAttribute("transform", `translate(${dx} ${dy})`);
  });
  bench.addEventListener("pointerup", (event) => {
    if (!held) return;
    const [dx, dy] = by(event);
    const { own, part } = held;
    held = null;
    part.removeAttribute("transform");
    const edits = own.matches(".reed") ? reedEdits(own, dx, dy) : gripEdits(own, dx, dy);
    for (const one of edits) edit(one);
  });
  steps(bench, edit);
}

function steps(bench, edit) {
  let carried = null;
  const over = (event) => targetOf(event).closest(".steps li");
  const clear = () => bench.querySelectorAll(".over").forEach((one) => one.classList.remove("over"));
  bench.addEventListener("dragstart", (event) => {
    carried = over(event)?.dataset.step;
    event.dataTransfer?.setData("text/plain", carried ?? "");
  });
  bench.addEventListener("dragover", (event) => {
    const line = over(event);
    if (!carried || !line) return;
    event.preventDefault();
    clear();
    line.classList.add("over");
  });
  bench.addEventListener("drop", (event) => {
    const line = over(event);
    clear();
    if (!carried || !line || line.dataset.step === carried) return;
    event.preventDefault();
    const routine = line.closest("[data-routine]");
    const others = [...routine.querySelectorAll("li")].filter((one) => one.dataset.step !== carried);
    edit({ edit: "place", step_id: carried, routine: routine.dataset.routine, place: others.indexOf(line) });
    carried = null;
  });
}
