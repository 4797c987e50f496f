// How strong, against the client's own talk on this device: a strong hold as a ribbon, talk as bars.

import { goalReed, label, LEAD_S, paper, seconds as secondsWords, stretch, stroke } from "../../design/paper.js";

const TALK_WINDOW_S = 10;
const SYLLABLE_GAP = 14;

// band: undefined before the server has said it, null where this device has not heard usual talk.
function ground({ pen, width, height, colours }, band) {
  const foot = height - 30;
  const top = Math.max(0.3 * height, 30);
  const perDb = band ? (foot - top) / (band.shouted_db - band.talk_db) : 0;
  const y = (level) => (band ? Math.min(Math.max(foot - (level - band.talk_db) * perDb, 30), foot + 18) : (foot + top) / 2);
  return {
    foot,
    y,
    draw() {
      stroke(pen, [[0, foot], [width, foot]], { colour: colours.straw });
      if (band === null) label(pen, gettext("no level here: go by how strong it feels"), { x: 0, y: height - 8, colours, width, align: "left" });
      if (!band) return;
      pen.fillStyle = colours.band;
      pen.fillRect(0, top, width, y(band.strong_db) - top);
      for (const at of [top, y(band.strong_db)]) stroke(pen, [[0, at], [width, at]], { colour: colours.line, width: 1 });
      label(pen, gettext("your strong voice"), { x: 0, y: top - 8, colours, width, align: "left" });
      label(pen, gettext("how you usually talk"), { x: 0, y: height - 8, colours, width, align: "left" });
    },
  };
}

export function strong(canvas, { target, colours }) {
  const sheet = { ...paper(canvas), colours };
  const { pen, width, clear } = sheet;
  const windowS = target.seconds * 1.2 + LEAD_S;
  const frames = [];
  let startedS = null;
  let on = ground(sheet);

  function draw() {
    clear();
    on.draw();
    const lastS = startedS === null ? 0 : frames.at(-1).t - startedS;
    const { fromS, x, pieceWidth } = stretch({ width, windowS, lastS });
    const reached = lastS >= target.seconds;
    goalReed(pen, { x: x(target.seconds), foot: on.foot, top: 30, words: secondsWords(target.seconds), reached, colours, width });
    pen.fillStyle = colours.ribbon;
    for (const { t, level } of frames) {
      const time = t - startedS;
      if (time >= Math.max(fromS, 0)) pen.fillRect(x(time), on.y(level) - 7, pieceWidth, 14);
    }
  }

  draw();
  return {
    against(band) {
      on = ground(sheet, band);
      draw();
    },
    add({ t_s: t, f0_hz: pitches, level_db: levels, hold_s: held }) {
      if (!held) return;
      startedS ??= t + levels.length * 0.01 - held;
      pitches.forEach((f0, i) => f0 && frames.push({ t: t + i * 0.01, level: levels[i] }));
      draw();
    },
  };
}

export function talk(canvas, { colours }) {
  const sheet = { ...paper(canvas), colours };
  const { pen, width, clear } = sheet;
  const bars = [];
  let on = ground(sheet);
  let lastS = 0;
  let quiet = SYLLABLE_GAP;

  function draw() {
    clear();
    on.draw();
    const fromS = Math.max(lastS - TALK_WINDOW_S, 0);
    pen.fillStyle = colours.ribbon;
    for (const { from, to, sum, count } of bars) {
      if (to < fromS) continue;
      const [left, right] = [from, to].map((time) => ((time - fromS) / TALK_WINDOW_S) * width);
      const top = on.y(sum / count);
      pen.beginPath();
      pen.roundRect(left, top, Math.max(right - left, 3), Math.max(on.foot - top, 4), 2);
      pen.fill();
    }
  }

  draw();
  return {
    against(band) {
      on = ground(sheet, band);
      draw();
    },
    add({ t_s: t, f0_hz: pitches, level_db: levels }) {
      pitches.forEach((f0, i) => {
        lastS = t + i * 0.01;
        if (!f0) return quiet++;
        if (quiet >= SYLLABLE_GAP) bars.push({ from: lastS, to: lastS, sum: 0, count: 0 });
        quiet = 0;
        const bar = bars.at(-1);
        Object.assign(bar, { to: lastS, sum: bar.sum + levels[i], count: bar.count + 1 });
        return undefined;
      });
      draw();
    },
  };
}
