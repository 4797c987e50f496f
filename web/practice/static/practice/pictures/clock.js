// What is done by the clock: a strip that fills, one for each side; what is counted: a bead for each.

import { label, paper } from "../../design/paper.js";
import { counting } from "./counting.js";

export function clock(canvas, { target, colours }) {
  const { pen, width, height, clear } = paper(canvas);
  const gap = 8;
  const legs = target.legs.length ? target.legs : [{ seconds: target.seconds }];
  const each = (width - gap * (legs.length - 1)) / legs.length;
  const names = legs.length > 1 ? [gettext("first side"), gettext("other side")] : [];
  const top = height / 2 - 26;

  function draw(gone = 0) {
    clear();
    let from = 0;
    legs.forEach((leg, place) => {
      const share = Math.min(Math.max((gone - from) / leg.seconds, 0), 1);
      const left = place * (each + gap);
      pen.fillStyle = colours.band;
      pen.fillRect(left, top, each, 40);
      pen.fillStyle = colours.ribbon;
      pen.fillRect(left, top, each * share, 40);
      if (names[place]) label(pen, names[place], { x: left + each / 2, y: top + 64, colours, width });
      from += leg.seconds;
    });
  }

  draw();
  return { add() {}, tick: draw };
}

export function beads(canvas, { target, step, colours }) {
  const { pen, width, height, clear } = paper(canvas);
  const most = target.count;
  const inRow = Math.min(most, Math.max(Math.floor(width / 44), 1));
  const rows = Math.ceil(most / inRow);
  const pitch = Math.min(width / inRow, 64);
  const radius = Math.min(13, (height - 20) / rows / 2.9);
  const { now, told } = counting({ beatS: target.beat_s, changed: draw });

  function draw() {
    clear();
    const { count, beat } = now;
    for (let place = 0; place < most; place++) {
      const x = ((place % inRow) + 0.5) * pitch;
      const y = 22 + Math.floor(place / inRow) * Math.min((height - 10) / rows, 56) + radius;
      if (place === count && beat % 2 === 0) {
        pen.fillStyle = `${colours.straw}77`;
        pen.beginPath();
        pen.arc(x, y, radius * 1.5, 0, 2 * Math.PI);
        pen.fill();
      }
      pen.beginPath();
      pen.arc(x, y, radius, 0, 2 * Math.PI);
      pen.fillStyle = place < count ? colours.reed : "transparent";
      pen.fill();
      pen.strokeStyle = place === count ? colours.ink : colours.reed;
      pen.lineWidth = place === count ? 3 : 2;
      pen.stroke();
      if (step.cues?.[place]) cueOver(x, y - radius - 6);
    }
  }

  // A small wedge over each that is helped by the cue; it grows less from rung to rung.
  function cueOver(x, y) {
    pen.fillStyle = colours.line;
    pen.beginPath();
    for (const [dx, dy] of [[-6, -8], [6, -8], [0, 0]]) pen.lineTo(x + dx, y + dy);
    pen.fill();
  }

  draw();
  return told;
}
