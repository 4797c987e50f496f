// A breath as a hill: up while the air comes in, down while it goes, arriving with the air just spent.

import { label, paper, stroke } from "../../design/paper.js";

export function breath(canvas, { target, colours, calmly }) {
  const { pen, width, height, clear } = paper(canvas);
  const foot = height - 34;
  const [into, out] = target.legs;
  const total = into.seconds + out.seconds;
  const margin = 14;
  const x = (time) => margin + (time / total) * (width - 2 * margin);
  const heightAt = (time) => {
    if (time <= into.seconds) return (1 - Math.cos((Math.PI * time) / into.seconds)) / 2;
    return Math.max(1 - (time - into.seconds) / out.seconds, 0);
  };
  const y = (time) => foot - heightAt(time) * (foot - 24);
  const beats = (leg) => (target.beat_s ? Math.round(leg.seconds / target.beat_s) : 0);
  const hill = Array.from({ length: 101 }, (_, i) => (i / 100) * total).map((time) => [x(time), y(time)]);

  function draw(gone = 0) {
    clear();
    pen.fillStyle = colours.band;
    pen.beginPath();
    for (const point of hill) pen.lineTo(...point);
    pen.fill();
    stroke(pen, hill, { colour: colours.line });
    numbers(gone);
    const shown = calmly && target.beat_s ? Math.round(gone / target.beat_s) * target.beat_s : gone;
    const time = Math.min(shown, total);
    stroke(pen, [[x(time), foot], [x(time), y(time)]], { colour: colours.ink });
    pen.beginPath();
    pen.arc(x(time), y(time), 13, 0, 2 * Math.PI);
    pen.fillStyle = colours.straw;
    pen.fill();
    pen.stroke();
  }

  function numbers(gone) {
    const room = Math.floor((width - 2 * margin) / 22);
    let from = 0;
    for (const leg of [into, out]) {
      const count = beats(leg);
      const every = Math.ceil((count * (total / leg.seconds)) / room) || 1;
      for (let beat = 0; beat < count; beat++) {
        const begins = from + beat * target.beat_s;
        const now = gone >= begins && gone < begins + target.beat_s;
        if (beat % every && !now) continue;
        pen.font = `${now ? "700 22px" : "16px"} "Atkinson Hyperlegible Next Variable", sans-serif`;
        label(pen, String(beat + 1), { x: x(begins + target.beat_s / 2), y: height - 10, colours, width });
      }
      from += leg.seconds;
    }
  }

  draw();
  return { add() {}, tick: draw };
}
