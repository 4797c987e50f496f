// Phrases near a tone: its band, the pitch of the voice as it moves and comes home.

import { label, paper, stroke } from "../../design/paper.js";

const SEEN_S = 10;
const SEMITONES = 5;
const NEAR_SEMITONES = 1;
const JUMP_SEMITONES = 5;
const FEWEST = 3;

export function near(canvas, { target, colours }) {
  const { pen, width, height, clear } = paper(canvas);
  const middle = height / 2;
  const y = (semitones) => middle - (Math.min(Math.max(semitones, -SEMITONES), SEMITONES) / SEMITONES) * (middle - 16);
  const half = y(-NEAR_SEMITONES) - middle;
  const frames = [];
  let lastS = 0;

  function draw() {
    clear();
    pen.fillStyle = colours.band;
    pen.fillRect(0, middle - half, width, 2 * half);
    stroke(pen, [[0, middle], [width, middle]], { colour: colours.straw, dash: [6, 6] });
    label(pen, gettext("your tone"), { x: 0, y: middle - half - 8, colours, width, align: "left" });
    const fromS = Math.max(lastS - SEEN_S, 0);
    let run = [];
    let before = null;
    const runs = [run];
    for (const { t, semitones } of frames) {
      const apart = semitones === null || (before !== null && Math.abs(semitones - before) > JUMP_SEMITONES);
      if (apart) runs.push((run = []));
      if (semitones !== null && t >= fromS) run.push([((t - fromS) / SEEN_S) * width, y(semitones)]);
      before = semitones;
    }
    // a frame by itself is no pitch of the voice but a slip of the ear
    for (const one of runs) if (one.length >= FEWEST) stroke(pen, one, { colour: colours.line, width: 4 });
  }

  draw();
  return {
    add({ t_s: t, f0_hz: pitches }) {
      pitches.forEach((f0, i) => {
        lastS = t + i * 0.01;
        frames.push({ t: lastS, semitones: f0 ? 12 * Math.log2(f0 / target.hz) : null });
      });
      draw();
    },
  };
}
