// The Sheet log by keyboard: Enter goes down the sheet as it is written, the server says what it asks about, Space is
// a stopwatch. What is typed is kept by the server while it is typed.

import { targetOf } from "../design/target.js";

const CHECK_AFTER_MS = 600;
const sheet = document.getElementById("sheet");
const said = document.getElementById("said");
const which = document.getElementById("which-sign");
let waiting = 0;
let checks = 0;
let watch = null;

/** The cells in the order in which the sheet is written: down a home session, then the next one. */
function inOrder() {
  return [...sheet.querySelectorAll("table")].flatMap((table) => {
    const rows = [...table.querySelectorAll("tbody tr")].map((row) => [...row.querySelectorAll("input[data-cell]")]);
    const columns = Math.max(...rows.map((row) => row.length));
    const cells = [];
    for (let column = 0; column < columns; column += 1) {
      cells.push(...rows.map((row) => row[column]).filter((cell) => cell && !cell.disabled));
    }
    return cells;
  });
}

function beside(cell, by) {
  const row = [...cell.closest("tr").querySelectorAll("input[data-cell]:not(:disabled)")];
  return row[row.indexOf(cell) + by];
}

function go(cell, by) {
  const cells = inOrder();
  const next = cells[cells.indexOf(cell) + by];
  if (!next) return;
  next.focus();
  next.select();
}

function startOrStop(cell) {
  if (watch === null) {
    watch = { cell, from: performance.now(), timer: setInterval(() => tick(), 100) };
    return;
  }
  clearInterval(watch.timer);
  const seconds = ((performance.now() - watch.from) / 1000).toFixed(1);
  watch.cell.value = `${watch.cell.value.trim()} ${seconds}`.trim();
  const name = watch.cell.name.replace(/^cell/, "timed");
  if (!sheet.querySelector(`[name="${CSS.escape(name)}"]`)) {
    const timed = document.createElement("input");
    Object.assign(timed, { type: "hidden", name, value: "1" });
    sheet.append(timed);
  }
  watch = null;
  said.textContent = "";
  soon();
}

function tick() {
  said.textContent = `${((performance.now() - watch.from) / 1000).toFixed(1)} ${said.dataset.seconds}`;
}

function soon() {
  clearTimeout(waiting);
  waiting = setTimeout(check, CHECK_AFTER_MS);
}

async function check() {
  checks += 1;
  const mine = checks;
  const body = new FormData(/** @type {any} */ (sheet));
  const answer = await fetch(sheet.dataset.check, { method: "POST", body }).catch(() => null);
  if (!answer?.ok || mine !== checks || watch) return;
  const told = await answer.json();
  for (const cell of sheet.querySelectorAll("[aria-invalid]")) {
    cell.removeAttribute("aria-invalid");
    cell.removeAttribute("title");
  }
  for (const query of told.queries) {
    const cell = document.getElementById(query.cell);
    cell?.setAttribute("aria-invalid", "true");
    cell?.setAttribute("title", query.words);
  }
  const focused = document.activeElement?.getAttribute("title");
  const first = told.queries[0]?.words;
  said.textContent = [told.said, focused ?? first].filter(Boolean).join(" · ");
}

function onKey(event) {
  const cell = targetOf(event);
  if (!cell.matches("[data-cell]")) return;
  const steps = { Enter: () => go(cell, event.shiftKey ? -1 : 1), ArrowDown: () => go(cell, 1), ArrowUp: () => go(cell, -1) };
  const ends = cell.selectionStart === 0 || cell.selectionEnd === cell.value.length;
  if (event.key in steps) {
    event.preventDefault();
    steps[event.key]();
  } else if ((event.key === "ArrowLeft" || event.key === "ArrowRight") && ends && !event.shiftKey) {
    const next = beside(cell, event.key === "ArrowLeft" ? -1 : 1);
    const away = event.key === "ArrowLeft" ? cell.selectionStart === 0 : cell.selectionEnd === cell.value.length;
    if (!next || !away) return;
    event.preventDefault();
    next.focus();
    next.select();
  } else if (event.key === "=") {
    event.preventDefault();
    cell.value = beside(cell, -1)?.value ?? cell.value;
    soon();
    go(cell, 1);
  } else if (event.key === " " && (cell.value === "" || watch || cell.value.endsWith(" "))) {
    event.preventDefault();
    startOrStop(cell);
  }
}

async function keepSign(box, sign) {
  const body = new FormData();
  body.set("csrfmiddlewaretoken", sheet.querySelector("[name=csrfmiddlewaretoken]").value);
  body.set("column", box.dataset.sign);
  body.set("sign", sign);
  const answer = await fetch(sheet.dataset.stop, { method: "POST", body }).catch(() => null);
  const told = answer ? await answer.json().catch(() => ({})) : {};
  said.textContent = told.said ?? told.error ?? which.dataset.failed ?? "";
  box.checked = answer?.ok === true;
  box.disabled = box.checked;
  if (box.checked) box.previousElementSibling.value = sign;
}

function askWhich(box) {
  for (const one of which.querySelectorAll("input")) one.checked = false;
  which.returnValue = "";
  which.showModal();
  which.addEventListener(
    "close",
    () => {
      const chosen = which.querySelector("input:checked");
      box.checked = false;
      box.focus();
      if (which.returnValue === "keep" && chosen) keepSign(box, chosen.value);
    },
    { once: true },
  );
}

if (sheet) {
  sheet.addEventListener("keydown", onKey);
  sheet.addEventListener("input", (event) => {
    const box = targetOf(event);
    if (box.dataset.sign) {
      if (box.checked) askWhich(box);
      return;
    }
    soon();
  });
  sheet.addEventListener("submit", () => clearTimeout(waiting));
  which.addEventListener("keydown", (event) => {
    const one = which.querySelectorAll("input")[Number(event.key) - 1];
    if (one) one.checked = true;
  });
  inOrder().find((cell) => !cell.value)?.focus();
}
