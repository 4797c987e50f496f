// How the client wants the page, remembered on this device from one home session to the next.

import { targetOf } from "../design/target.js";

const KEPT = "how the client wants it";
const IDS = ["input", "tone-octave", "tone-loud", "ticks", "by-hand", "aloud", "dark", "no-picture"];

const controls = () => IDS.map((id) => /** @type {any} */ (document.getElementById(id))).filter(Boolean);
const valueOf = (control) => (control.type === "checkbox" ? control.checked : control.value);

function chosenBefore() {
  try {
    return JSON.parse(localStorage.getItem(KEPT) ?? "{}");
  } catch {
    return {}; // not to be read here: as shipped
  }
}

function keep() {
  try {
    localStorage.setItem(KEPT, JSON.stringify(Object.fromEntries(controls().map((one) => [one.id, valueOf(one)]))));
  } catch {
    // a browser that keeps nothing asks again next time
  }
}

const darken = (on) => document.documentElement.classList.toggle("dark", on);

export function rememberChoices() {
  const before = chosenBefore();
  for (const control of controls()) {
    const value = before[control.id];
    if (control.type === "checkbox") control.checked = value ?? control.checked;
    else if ([...control.options].some((option) => option.value === value)) control.value = value;
    control.addEventListener("change", keep);
  }
  darken(valueOf(document.getElementById("dark")));
  document.getElementById("dark").addEventListener("change", (event) => darken(targetOf(event).checked));
}
