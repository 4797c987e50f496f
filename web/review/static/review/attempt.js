// The ends of a hold, moved in the drawing; the form's numbers follow and are what is kept.

const form = document.getElementById("ends");
const STEP_S = 0.01;

const fieldOf = (end) => form.elements[`${end.dataset.end}_s`];

function place(end, seconds) {
  const field = fieldOf(end);
  const kept = Math.min(Math.max(seconds, 0), Number(field.max));
  const x = Number(end.dataset.left) + kept * Number(end.dataset.pxASecond);
  end.setAttribute("transform", `translate(${x} 0)`);
  end.setAttribute("aria-valuenow", kept.toFixed(2));
  end.setAttribute("aria-valuetext", `${kept.toFixed(2)} s`);
  end.querySelector("text").textContent = `${kept.toFixed(2)} s`;
  return kept;
}

function move(end, seconds) {
  fieldOf(end).value = place(end, seconds).toFixed(2);
}

function secondsAt(end, event) {
  const point = new DOMPoint(event.clientX, event.clientY);
  const { x } = point.matrixTransform(end.ownerSVGElement.getScreenCTM().inverse());
  return (x - Number(end.dataset.left)) / Number(end.dataset.pxASecond);
}

for (const end of form ? document.querySelectorAll(".hold-end[role=slider]") : []) {
  end.addEventListener("pointerdown", (event) => {
    end.setPointerCapture(event.pointerId);
    event.preventDefault();
    end.focus();
  });
  end.addEventListener("pointermove", (event) => {
    if (end.hasPointerCapture(event.pointerId)) move(end, secondsAt(end, event));
  });
  end.addEventListener("keydown", (event) => {
    const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!way) return;
    event.preventDefault();
    move(end, Number(fieldOf(end).value) + way * STEP_S * (event.shiftKey ? 10 : 1));
  });
  fieldOf(end).addEventListener("input", () => place(end, Number(fieldOf(end).value)));
}
