// What is read, said or answered, one line at a time: the next by voice (a pause, told by the server), key or tap.

const FASTEST_WORDS_A_SECOND = 4;
const LONG_LINE = 48;
const WORDS_AHEAD = 5;

const at = (id) => document.getElementById(id);

function wordsOf(line) {
  return line.words.split(" ").flatMap((word, place) => {
    const one = document.createElement(place === line.stress ? "mark" : "span");
    one.textContent = word;
    return [one, " "];
  });
}

// Enough of a line to know what comes.
function begun(words) {
  const first = words.split(" ").slice(0, WORDS_AHEAD).join(" ");
  return first === words ? words : `${first} …`;
}

// turn: {lines, round} of one attempt, or none. over: called once the last line is said, where there is no round.
export function lineByLine(turn, { over }) {
  const lines = turn?.lines ?? [];
  let place = 0;
  let shownAt = 0;
  let began = false;
  let heard = 0;

  function show() {
    at("said").hidden = !lines.length;
    if (!lines.length) return;
    at("line-map").innerHTML = turn.map; // drawn and escaped by the server
    at("line").replaceChildren(...wordsOf(lines[place]));
    at("line").classList.toggle("long-line", lines[place].words.length > LONG_LINE);
    const next = lines[place + 1] ?? (turn.round ? lines[0] : null);
    at("following").textContent = lines.length > 1 && next ? interpolate(gettext("next: %s"), [begun(next.words)]) : "";
    shownAt = performance.now();
  }

  function goOn() {
    if (!began || !lines.length) return;
    if (place + 1 < lines.length || turn.round) {
      place = (place + 1) % lines.length;
      show();
    } else over();
  }

  show();
  return {
    several: lines.length > 1,
    once: lines.length > 0 && !turn.round,
    begin() {
      began = true;
      shownAt = performance.now();
    },
    goOn,
    // Somebody who stops within a line has not said it yet.
    said(phrases) {
      const fresh = phrases > heard;
      heard = phrases;
      const least = lines.length ? lines[place].words.split(" ").length / FASTEST_WORDS_A_SECOND : 0;
      if (fresh && lines.length > 1 && performance.now() - shownAt >= least * 1000) goOn();
    },
  };
}
