// A pattern as reeds, one a note, as high as the note: the one to sing now is lit in tempo, the voice is drawn
// over them.

import { label, paper, stroke } from "../../design/paper.js";

const HEAD = 11;

export function keys(canvas, { target, colours, next }) {
  const { pen, width, height, clear } = paper(canvas);
  const foot = height - 30;
  const notes = target.legs;
  const beatS = target.beat_s;
  const slots = notes.length + 2;
  const pitches = notes.map((note) => Math.log2(note.hz));
  const [low, high] = [Math.min(...pitches), Math.max(...pitches)];
  const x = (beat) => ((beat + 0.7) / slots) * width;
  const y = (hz) => 26 + (foot - 70) * (1 - (high > low ? (Math.log2(hz) - low) / (high - low) : 0.5));
  const frames = [];
  let lit = -1;
  let beganS = null;

  function draw() {
    clear();
    stroke(pen, [[0, foot], [width, foot]], { colour: colours.straw, width: 3 });
    notes.forEach((note, place) => {
      const at = [x(place), y(note.hz)];
      if (place === lit) {
        pen.fillStyle = `${colours.straw}77`;
        pen.beginPath();
        pen.arc(at[0], at[1], 2.1 * HEAD, 0, 2 * Math.PI);
        pen.fill();
      }
      stroke(pen, [[at[0], foot], [at[0], at[1] + HEAD]], { colour: colours.reed, width: place === lit ? 3.5 : 1.5 });
      pen.beginPath();
      pen.roundRect(at[0] - 6, at[1] - HEAD, 12, 2 * HEAD, 6);
      pen.fillStyle = place < lit ? colours.reed : place === lit ? colours.straw : "transparent";
      pen.fill();
      pen.strokeStyle = place === lit ? colours.ink : colours.reed;
      pen.lineWidth = 2;
      pen.stroke();
    });
    const breathing = lit >= notes.length;
    label(pen, breathing ? gettext("breathe") : gettext("then breathe"), { x: x(notes.length), y: height - 8, colours, width });
    if (next) label(pen, next, { x: 0, y: height - 8, colours, width, align: "left" });
    let run = [];
    const runs = [run];
    for (const { t, f0 } of frames) {
      if (!f0) runs.push((run = []));
      else run.push([x(t / beatS - 0.5), Math.min(Math.max(y(f0), 4), foot)]);
    }
    for (const one of runs) stroke(pen, one, { colour: colours.line, width: 3 });
  }

  draw();
  return {
    // Beats are counted from where the voice began, so that one who breathes longer is not behind.
    add({ t_s: t, f0_hz: pitch, level_db: levels, hold_s: held }) {
      if (!held) return;
      beganS ??= t + levels.length * 0.01 - held;
      pitch.forEach((f0, i) => frames.push({ t: t + i * 0.01 - beganS, f0 }));
      draw();
    },
    // The first reed is lit until the voice begins; from there the light moves in tempo.
    tick(gone) {
      const now = beganS === null ? 0 : Math.max(Math.floor((gone - beganS) / beatS), 0);
      if (now === lit) return;
      lit = now;
      draw();
    },
  };
}
