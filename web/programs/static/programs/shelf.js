// The Library beside the Bench: found as it is typed, added with Enter or a click.

import { targetOf } from "../design/target.js";

/** Filters the shelf by what is typed; `add` gets the key of a task. */
export function findOnShelf(add) {
  const shelf = document.getElementById("shelf");
  const field = document.getElementById("find-task");
  if (!shelf || !field) return;
  const lines = [...shelf.querySelectorAll("li")];
  const show = () => {
    const sought = field.value.trim().toLowerCase().split(/\s+/);
    for (const line of lines) line.hidden = !sought.every((word) => line.dataset.words.includes(word));
    for (const section of shelf.querySelectorAll("section")) section.hidden = !section.querySelector("li:not([hidden])");
    document.getElementById("none-found").hidden = lines.some((line) => !line.hidden);
  };
  field.addEventListener("input", show);
  field.addEventListener("keydown", (event) => {
    if (event.key !== "Enter") return;
    event.preventDefault();
    const first = shelf.querySelector("li:not([hidden]) [data-add]");
    if (!first || !field.value.trim()) return;
    add(first.dataset.add);
    field.value = "";
    show();
  });
  shelf.addEventListener("click", (event) => {
    const button = targetOf(event).closest("[data-add]");
    if (button) add(button.dataset.add);
  });
}
