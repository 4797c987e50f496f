// Keys that work anywhere for a clinician: ? for help, g then a letter to go, j/k/Enter/slash in lists.
// Single letters can be switched off per person.

import { targetOf } from "./target.js";

const letters = document.body.dataset.letterKeys === "on";
let going = false;

function inControl(target) {
  return target.closest("input, select, textarea, button, a, [role=slider], dialog[open]");
}

function move(by) {
  const rows = [...document.querySelectorAll(".lines tbody tr")];
  if (!rows.length) return;
  const now = rows.findIndex((row) => row.getAttribute("aria-selected") === "true");
  rows[now]?.removeAttribute("aria-selected");
  const next = rows[Math.min(Math.max(now + by, 0), rows.length - 1)];
  next.setAttribute("aria-selected", "true");
  next.scrollIntoView({ block: "nearest" });
}

document.addEventListener("keydown", (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  if (targetOf(event).closest("input, select, textarea")) return;
  if (event.key === "?") {
    document.getElementById("keys")?.showModal();
    return;
  }
  if (!letters) return;
  if (going) {
    going = false;
    document.querySelector(`[data-go="${event.key}"]`)?.click();
    return;
  }
  if (event.key === "g") going = true;
  else if (event.key === "j") move(1);
  else if (event.key === "k") move(-1);
  else if (event.key === "Enter" && !inControl(event.target)) {
    document.querySelector('.lines tr[aria-selected="true"] a')?.click();
  } else if (event.key === "/") {
    event.preventDefault();
    document.getElementById("find")?.focus();
  } else if (/^[a-z]$/.test(event.key)) {
    const named = document.querySelector(`[data-letter="${event.key}"]`);
    if (named instanceof HTMLElement) {
      event.preventDefault();
      named.focus();
    }
  }
});
