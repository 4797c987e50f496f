// The still line: a calm horizontal line (a slide: a shallow channel), the voice as a ribbon over it, a reed
// where the goal is. Draws what the server said.

import { goalReed, LEAD_S, paper, seconds as secondsWords, stretch, stroke } from "./paper.js";

const CALM_CENTS = 50;
const SHORTEST_WINDOW_S = 6;
const QUIET_DB = -60;
const LOUD_DB = -10;
const COLUMNS = 120;

// Where the path is, from 0 (lowest note) to 1 (highest), and its pitch in Hz, at a time from the voice's start.
export function pathOf(legs, hz) {
  const voiced = legs.filter((leg) => leg.hz);
  const notes = voiced.flatMap((leg) => [leg.hz, leg.end_hz]);
  const [low, high] = [Math.min(...notes), Math.max(...notes)];
  const hzAt = (time) => {
    let from = 0;
    for (const leg of voiced) {
      if (time < from + leg.seconds || leg === voiced.at(-1)) {
        const share = Math.min(Math.max((time - from) / leg.seconds, 0), 1);
        return leg.hz * (leg.end_hz / leg.hz) ** share;
      }
      from += leg.seconds;
    }
    return hz;
  };
  const shareOf = (pitch) => (high > low ? Math.log(pitch / low) / Math.log(high / low) : 0.5);
  return { hzAt, shareAt: (time) => (voiced.length ? shareOf(hzAt(time)) : 0.5) };
}

export function stillLine(canvas, { hz, legs = [], seconds = null, swells = false, rings = false, colours }) {
  const { pen, width, height, clear } = paper(canvas);
  const foot = height - (rings ? 34 : 6);
  const middle = seconds ? 24 + (foot - 24) / 2 : foot / 2;
  const calm = (foot - 24) * 0.18;
  const path = pathOf(legs, hz);
  const goalS = seconds ?? 0;
  const windowS = Math.max(goalS * 1.2 + LEAD_S, SHORTEST_WINDOW_S);
  const frames = [];
  const bubbles = [];
  let startedS = null;

  const offset = (cents) => {
    const beyond = Math.max(Math.abs(cents) - CALM_CENTS, 0);
    const inside = Math.min(Math.abs(cents), CALM_CENTS) / CALM_CENTS;
    return -Math.sign(cents) * (inside * calm + Math.log1p(beyond / 60) * calm * 0.55);
  };
  const pathY = (time) => middle + (foot - 24) * 0.3 * (1 - 2 * path.shareAt(time));
  const swollen = (time) => (swells && goalS ? 0.45 + 0.9 * Math.sin((Math.PI * Math.min(Math.max(time / goalS, 0), 1))) : 1);

  function draw() {
    clear();
    const lastS = startedS === null ? 0 : (frames.at(-1)?.t ?? 0) - startedS;
    const { fromS, x, pieceWidth } = stretch({ width, windowS, lastS });
    const times = Array.from({ length: COLUMNS + 1 }, (_, i) => fromS + (i / COLUMNS) * windowS);
    pen.fillStyle = colours.band;
    pen.beginPath();
    for (const time of times) pen.lineTo(x(time), pathY(time) - calm * swollen(time));
    for (const time of times.toReversed()) pen.lineTo(x(time), pathY(time) + calm * swollen(time));
    pen.fill();
    stroke(pen, times.map((time) => [x(time), pathY(time)]), { colour: colours.line });
    if (seconds) {
      const reached = lastS >= goalS;
      goalReed(pen, { x: x(goalS), foot, top: 30, words: secondsWords(goalS), reached, colours, width });
    }
    pen.fillStyle = colours.ribbon;
    for (const frame of frames) {
      const time = frame.t - startedS;
      if (time < fromS || !frame.f0 || (rings && !hz)) continue;
      const cents = hz ? 1200 * Math.log2(frame.f0 / path.hzAt(time)) : 0;
      const share = Math.min(Math.max((frame.level - QUIET_DB) / (LOUD_DB - QUIET_DB), 0), 1);
      const half = 2 + 9 * share;
      const y = Math.min(Math.max(pathY(time) + offset(cents), half), foot - half);
      pen.fillRect(x(time), y - half, pieceWidth, 2 * half);
    }
    if (rings) drawRings();
  }

  // The newest bubbles, each a ring: a missing ring is a stop.
  function drawRings() {
    const shownS = 1.5;
    const lastS = Math.max(frames.at(-1)?.t ?? 0, shownS);
    const radius = Math.min((width / shownS) * 0.022, 8);
    stroke(pen, [[0, height - 16], [width, height - 16]], { colour: colours.band, width: 22 });
    pen.strokeStyle = colours.line;
    pen.lineWidth = 2;
    for (const time of bubbles) {
      if (time < lastS - shownS) continue;
      pen.beginPath();
      pen.arc(width - ((lastS - time) / shownS) * width, height - 16, radius, 0, 2 * Math.PI);
      pen.stroke();
    }
  }

  draw();
  return {
    add(state) {
      state.f0_hz.forEach((f0, i) => frames.push({ t: state.t_s + i * 0.01, f0, level: state.level_db[i] }));
      startedS ??= frames.find((frame) => frame.f0 || (rings && !hz && state.holding))?.t ?? null;
      bubbles.push(...(state.bubbles_s ?? []));
      draw();
    },
  };
}
