// What every live picture is drawn on: a canvas in CSS pixels, the colours, a reed that marks the goal.

export function paper(canvas) {
  const scale = window.devicePixelRatio || 1;
  const { width, height } = canvas.getBoundingClientRect();
  canvas.width = width * scale;
  canvas.height = height * scale;
  const pen = canvas.getContext("2d");
  pen.scale(scale, scale);
  pen.font = '16px "Atkinson Hyperlegible Next Variable", sans-serif';
  pen.lineCap = pen.lineJoin = "round";
  return { pen, width, height, clear: () => pen.clearRect(0, 0, width, height) };
}

export function lineColours(dark) {
  return dark
    ? { band: "#1d3a35", line: "#8fc0c9", ribbon: "#d9c58a", ink: "#f6f3ea", quiet: "#b9c5bf", straw: "#c9a24a", reed: "#a9c47c" }
    : { band: "#dfe8e4", line: "#22707F", ribbon: "#55702F", ink: "#17302C", quiet: "#4c5f5b", straw: "#C9A24A", reed: "#55702F" };
}

// A line through points given as [x, y].
export function stroke(pen, points, { colour, width = 2, dash = [] }) {
  pen.strokeStyle = colour;
  pen.lineWidth = width;
  pen.setLineDash(dash);
  pen.beginPath();
  for (const [x, y] of points) pen.lineTo(x, y);
  pen.stroke();
  pen.setLineDash([]);
}

// The reed that marks how long: its foot on the ground, its head hollow until it is reached.
export function goalReed(pen, { x, foot, top, words, reached, colours, width }) {
  stroke(pen, [[x, foot], [x, top + 12]], { colour: colours.reed });
  pen.beginPath();
  pen.roundRect(x - 6, top - 8, 12, 22, 6);
  if (reached) {
    pen.fillStyle = colours.reed;
    pen.fill();
  }
  pen.stroke();
  label(pen, words, { x, y: top - 16, colours, width });
}

// Words that stay inside the picture.
export function label(pen, words, { x, y, colours, width, align = "center" }) {
  const half = pen.measureText(words).width / 2;
  const at = align === "center" ? Math.min(Math.max(x, half), width - half) : x;
  pen.fillStyle = colours.quiet;
  pen.textAlign = align;
  pen.fillText(words, at, y);
}

export const LEAD_S = 0.4;
const AHEAD_S = 0.5;

// The stretch of time that is seen: from a little before the sound began, moving on once it is full.
export function stretch({ width, windowS, lastS }) {
  const fromS = Math.max(lastS - windowS + LEAD_S + AHEAD_S, -LEAD_S);
  return { fromS, x: (time) => ((time - fromS) / windowS) * width, pieceWidth: Math.max((width / windowS) * 0.0105, 1) };
}

export const seconds = (value) => interpolate(gettext("%s s"), [Number(value.toFixed(1))]);
