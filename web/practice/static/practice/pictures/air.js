// Air as an even band: as high as it began, a reed where the goal is; or growing and fading where that is asked.

import { goalReed, LEAD_S, paper, seconds as secondsWords, stretch, stroke } from "../../design/paper.js";

const REFERENCE_S = 0.5;
const BAND_DB = 3;
const SHOWN_DB = 12;

export function air(canvas, { target, colours }) {
  const { pen, width, height, clear } = paper(canvas);
  const foot = height - 6;
  const middle = 24 + (foot - 24) / 2;
  const windowS = target.seconds * 1.2 + LEAD_S;
  const perDb = (foot - 40) / 2 / SHOWN_DB;
  const frames = [];
  let startedS = null;
  let beganDb = null;

  const asked = (time) => (target.swells ? 6 * Math.sin(Math.PI * Math.min(Math.max(time / target.seconds, 0), 1)) - 3 : 0);

  function draw() {
    clear();
    const lastS = startedS === null ? 0 : frames.at(-1).t - startedS;
    const { fromS, x, pieceWidth } = stretch({ width, windowS, lastS });
    const times = Array.from({ length: 81 }, (_, i) => fromS + (i / 80) * windowS);
    const edge = (side) => times.map((time) => [x(time), middle - (asked(time) + side * BAND_DB) * perDb]);
    pen.fillStyle = colours.band;
    pen.beginPath();
    for (const [px, y] of [...edge(1), ...edge(-1).toReversed()]) pen.lineTo(px, y);
    pen.fill();
    stroke(pen, edge(1), { colour: colours.line, width: 1 });
    stroke(pen, edge(-1), { colour: colours.line, width: 1 });
    const reached = lastS >= target.seconds;
    goalReed(pen, { x: x(target.seconds), foot, top: 30, words: secondsWords(target.seconds), reached, colours, width });
    pen.fillStyle = colours.ribbon;
    for (const { t, level } of frames) {
      const time = t - startedS;
      if (beganDb === null || time < Math.max(fromS, 0)) continue;
      const over = Math.min(Math.max(level - beganDb + asked(0), -SHOWN_DB), SHOWN_DB);
      const y = middle - over * perDb;
      pen.fillRect(x(time), y - 5, pieceWidth, 10);
    }
  }

  draw();
  return {
    // The server says since when the air goes.
    add({ t_s: t, level_db: levels, hold_s: held, holding }) {
      if (!held || !holding) return;
      startedS ??= t + levels.length * 0.01 - held;
      levels.forEach((level, i) => frames.push({ t: t + i * 0.01, level }));
      if (beganDb === null && held >= REFERENCE_S) {
        const known = frames.map((frame) => frame.level).toSorted((a, b) => a - b);
        beganDb = known[Math.floor(known.length / 2)];
      }
      draw();
    },
  };
}
