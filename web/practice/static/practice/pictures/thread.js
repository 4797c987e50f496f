// A hiss that turns into a buzz as one thread: air as grain, voice as a ribbon, and where it turns.

import { goalReed, label, LEAD_S, paper, seconds as secondsWords, stretch, stroke } from "../../design/paper.js";

const GRAIN = 7;

export function thread(canvas, { target, colours }) {
  const { pen, width, height, clear } = paper(canvas);
  const foot = height - 6;
  const middle = 24 + (foot - 24) / 2;
  const calm = (foot - 24) * 0.2;
  const [hiss, buzz] = target.legs;
  const windowS = target.seconds * 1.2 + LEAD_S;
  const frames = [];
  let startedS = null;

  function draw() {
    clear();
    const lastS = startedS === null ? 0 : frames.at(-1).t - startedS;
    const { fromS, x, pieceWidth } = stretch({ width, windowS, lastS });
    const turn = x(hiss.seconds);
    pen.fillStyle = colours.band;
    pen.fillRect(x(0), middle - calm, turn - x(0), 2 * calm);
    pen.fillRect(turn, middle - calm, x(target.seconds) - turn, 2 * calm);
    stroke(pen, [[x(0), middle], [turn, middle]], { colour: colours.line, dash: [1, 8] });
    stroke(pen, [[turn, middle], [x(target.seconds), middle]], { colour: colours.line });
    stroke(pen, [[turn, middle - calm], [turn, middle + calm]], { colour: colours.line, width: 1 });
    label(pen, gettext("hiss"), { x: x(hiss.seconds / 2), y: middle + calm + 20, colours, width });
    label(pen, gettext("buzz"), { x: x(hiss.seconds + buzz.seconds / 2), y: middle + calm + 20, colours, width });
    const reached = lastS >= target.seconds;
    goalReed(pen, { x: x(target.seconds), foot, top: 30, words: secondsWords(target.seconds), reached, colours, width });
    pen.fillStyle = colours.ribbon;
    frames.forEach(({ t, f0 }, place) => {
      const time = t - startedS;
      if (time < Math.max(fromS, 0)) return;
      if (f0) {
        const cents = 1200 * Math.log2(f0 / buzz.hz);
        const y = middle - Math.sign(cents) * Math.min(Math.abs(cents) / 100, 1.4) * calm * 0.8;
        pen.fillRect(x(time), y - 5, pieceWidth, 10);
      } else if (place % GRAIN === 0) {
        pen.fillRect(x(time), middle - 4 + ((place / GRAIN) % 3) * 3, 2.5, 2.5);
      }
    });
  }

  draw();
  return {
    add({ t_s: t, f0_hz: pitches, level_db: levels, hold_s: held, holding }) {
      if (!held || !holding) return;
      startedS ??= t + levels.length * 0.01 - held;
      pitches.forEach((f0, i) => frames.push({ t: t + i * 0.01, f0 }));
      draw();
    },
  };
}
