// A row of buttons 0 to 10; the one that was pressed stays marked.

export function scale(row, onPick) {
  for (let value = 0; value <= 10; value++) {
    const button = document.createElement("button");
    button.type = "button";
    button.textContent = String(value);
    button.addEventListener("click", () => {
      row.querySelectorAll("button").forEach((b) => b.setAttribute("aria-pressed", String(b === button)));
      onPick(value);
    });
    row.append(button);
  }
}
