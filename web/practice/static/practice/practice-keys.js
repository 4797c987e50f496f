// The keys of practice: Space starts and stops, r repeats the tone, n goes on, Esc pauses.

import { targetOf } from "../design/target.js";

export function practiceKeys({ shown, at, tone, next, pause }) {
  document.addEventListener("keydown", (event) => {
    if (shown() !== "hold" || event.repeat || event.ctrlKey || event.metaKey) return;
    if (event.key === " " && !targetOf(event).closest("button, input, select, a")) {
      event.preventDefault();
      if (!at("hold").hidden) at("hold").click();
    } else if (event.key === "r") tone();
    else if (event.key === "n" && !at("next").hidden) next();
    else if (event.key === "Escape") pause();
  });
}
