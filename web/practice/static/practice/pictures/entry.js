// An entry after its count-in: beats as posts, the breath as a wedge that opens on its beat, the sound as a ribbon.

import { label, paper, stroke } from "../../design/paper.js";
import { counting } from "./counting.js";

const MARK = 11;

export function entry(canvas, { target, colours }) {
  const { pen, width, height, clear } = paper(canvas);
  const [before, into, sounds] = target.legs.map((leg) => Math.round(leg.seconds / target.beat_s));
  const all = before + into + sounds;
  const [foot, top] = [height - 34, 60];
  const x = (beat) => ((beat + 0.5) / all) * width;
  const { now, told } = counting({ beatS: target.beat_s, beats: all, changed: draw });

  function draw() {
    clear();
    doneSoFar();
    stroke(pen, [[0, foot], [width, foot]], { colour: colours.straw });
    wedge(x(before) - 6, x(before + into) - 10);
    pen.fillStyle = colours.ribbon;
    pen.fillRect(x(before + into) - 6, top + 8, width - x(before + into), 16);
    for (let place = 0; place < all; place++) post(place);
    label(pen, gettext("breathe in"), { x: x(before + into / 2) - 8, y: top - 8, colours, width });
  }

  function wedge(left, right) {
    pen.fillStyle = colours.band;
    pen.beginPath();
    for (const point of [[left, foot], [right, foot], [right, top]]) pen.lineTo(...point);
    pen.fill();
    stroke(pen, [[left, foot], [right, top]], { colour: colours.line });
  }

  function post(place) {
    const lit = place === Math.max(now.beat, 0);
    const high = place === before + into ? top + 8 : foot - MARK;
    stroke(pen, [[x(place), foot], [x(place), high]], { colour: lit ? colours.ink : colours.reed, width: lit ? 4 : 2 });
    if (lit) {
      pen.fillStyle = colours.straw;
      pen.beginPath();
      pen.arc(x(place), foot, MARK, 0, 2 * Math.PI);
      pen.fill();
    }
    if (place >= before + into) return;
    const usual = pen.font;
    if (lit) pen.font = usual.replace("16px", "700 22px");
    label(pen, String(place + 1), { x: x(place), y: height - 6, colours, width });
    pen.font = usual;
  }

  function doneSoFar() {
    const pitch = Math.min(width / target.count, 30);
    for (let place = 0; place < target.count; place++) {
      pen.beginPath();
      pen.arc((place + 0.5) * pitch, 14, 8, 0, 2 * Math.PI);
      pen.fillStyle = place < now.count ? colours.reed : "transparent";
      pen.fill();
      pen.strokeStyle = colours.reed;
      pen.lineWidth = 2;
      pen.stroke();
    }
  }

  draw();
  return told;
}
