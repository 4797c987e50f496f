// The keys of practice: Space starts, stops and goes on, r repeats the tone, n goes on, Esc pauses.

import { targetOf } from "../design/target.js";

export function practiceKeys({ screen, at, tone, onward, pause }) {
  document.addEventListener("keydown", (event) => {
    const shown = screen();
    if (event.repeat || event.ctrlKey || event.metaKey || !["ready", "hold", "rest", "pause"].includes(shown)) return;
    if (event.key === " " && !targetOf(event).closest("button, input, select, a, summary")) {
      event.preventDefault();
      at({ rest: "skip-rest", pause: "go-on" }[shown] ?? "hold").click();
    } else if (event.key === "r") tone();
    else if (event.key === "n") onward();
    else if (event.key === "Escape") pause();
  });
}
