// The still line: a calm horizontal line, the voice as a ribbon over it, bubbles as rings under it.
// Draws what the server said.

const CALM_CENTS = 50;
const WINDOW_S = 12;
const QUIET_DB = -60;
const LOUD_DB = -10;

export function stillLine(canvas, { hz, endHz = null, glideSeconds = null, colours }) {
  const scale = window.devicePixelRatio || 1;
  canvas.width = canvas.clientWidth * scale;
  canvas.height = canvas.clientHeight * scale;
  const pen = canvas.getContext("2d");
  const width = canvas.width;
  const middle = canvas.height / 2;
  const calm = canvas.height * 0.16;
  const frames = [];
  const bubbles = [];
  const columns = Array.from({ length: 101 }, (_, i) => (i / 100) * width);

  const offset = (cents) => {
    const beyond = Math.max(Math.abs(cents) - CALM_CENTS, 0);
    const inside = Math.min(Math.abs(cents), CALM_CENTS) / CALM_CENTS;
    return -Math.sign(cents) * (inside * calm + Math.log1p(beyond / 60) * calm * 0.55);
  };
  const pathHz = (seconds) => {
    if (!endHz) return hz;
    const share = Math.min(Math.max(seconds / glideSeconds, 0), 1);
    return hz * (endHz / hz) ** share;
  };
  const pathY = (seconds) => {
    if (!endHz) return middle;
    const share = Math.min(Math.max(seconds / glideSeconds, 0), 1);
    const rise = canvas.height * 0.3 * Math.sign(endHz - hz);
    return middle + rise - 2 * rise * share;
  };

  function draw() {
    pen.clearRect(0, 0, canvas.width, canvas.height);
    const start = frames.find((frame) => frame.f0)?.t ?? 0;
    const last = frames.at(-1)?.t ?? 0;
    const from = Math.max(last - WINDOW_S * 0.8, 0);
    const x = (t) => ((t - from) / WINDOW_S) * width;
    pen.fillStyle = colours.band;
    pen.beginPath();
    for (const px of columns) pen.lineTo(px, pathY(from + (px / width) * WINDOW_S - start) - calm);
    for (const px of columns.toReversed()) pen.lineTo(px, pathY(from + (px / width) * WINDOW_S - start) + calm);
    pen.fill();
    pen.strokeStyle = colours.line;
    pen.lineWidth = 2 * scale;
    pen.beginPath();
    for (const px of columns) pen.lineTo(px, pathY(from + (px / width) * WINDOW_S - start));
    pen.stroke();
    pen.fillStyle = colours.ribbon;
    for (const frame of frames) {
      if (frame.t < from || !frame.f0) continue;
      const cents = hz ? 1200 * Math.log2(frame.f0 / pathHz(frame.t - start)) : 0;
      const share = Math.min(Math.max((frame.level - QUIET_DB) / (LOUD_DB - QUIET_DB), 0), 1);
      const half = (2 + 9 * share) * scale;
      const y = Math.min(Math.max(pathY(frame.t - start) + offset(cents), half), canvas.height - half);
      pen.fillRect(x(frame.t), y - half, Math.max((width / WINDOW_S) * 0.0105, 1), 2 * half);
    }
    pen.strokeStyle = colours.line;
    // Small enough that neighbours leave a missing ring to be seen.
    const ring = Math.min(Math.max((width / WINDOW_S) * 0.025, scale), 3 * scale);
    pen.lineWidth = scale;
    for (const time of bubbles) {
      if (time < from) continue;
      pen.beginPath();
      pen.arc(x(time), canvas.height - 8 * scale, ring, 0, 2 * Math.PI);
      pen.stroke();
    }
  }

  draw();
  return {
    add(state) {
      state.f0_hz.forEach((f0, i) => frames.push({ t: state.t_s + i * 0.01, f0, level: state.level_db[i] }));
      bubbles.push(...(state.bubbles_s ?? []));
      draw();
    },
    draw,
  };
}

export function lineColours(dark) {
  return dark
    ? { band: "#1d3a35", line: "#8fc0c9", ribbon: "#d9c58a" }
    : { band: "#dfe8e4", line: "#22707F", ribbon: "#55702F" };
}
