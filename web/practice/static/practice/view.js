// What the practice page shows and what was chosen on it; nothing is decided here.

import { askBefore, saidBefore } from "./before.js";
import { lineByLine } from "./lines.js";
import { lookBack, pictureOf } from "./pictures.js";
import { showPlan } from "./planning.js";
import { counted, setCount, showItem, showScreen, showWords } from "./screens.js";

const at = (id) => document.getElementById(id);
const say = (id, words) => (at(id).textContent = words);

export function practiceView(page) {
  const asksBefore = askBefore();

  return {
    // What was chosen.
    input: () => at("input").value,
    ticks: () => at("ticks").value,
    byHand: () => at("by-hand").checked,
    withoutPicture: () => at("no-picture").checked,
    aloud: () => at("aloud").checked,
    shortDay: () => at("short-day")?.checked ?? false,
    answersBefore: () => (asksBefore ? saidBefore() : null),
    counted,
    toneIsFree: () => !at("tone").disabled,

    // What is shown.
    screen(name, words) {
      showScreen(page, name);
      showWords(page, words);
    },
    lastWords: (words) => showWords(page, words),
    position: ({ items, place }) => say("where", items.length ? `${Math.min(place + 1, items.length)} / ${items.length}` : ""),
    trouble: (words) => say("trouble", words),
    words: (words) => say("words", words),
    seconds: (seconds) => say("seconds", seconds.toFixed(1)),
    lastSeconds: (seconds) => say("last-seconds", seconds ? `${seconds.toFixed(1)} s` : ""),
    restSeconds: (left) => say("rest-seconds", left === null ? "" : `${left} s`),
    plan: showPlan,
    resumed(count) {
      at("resumed").hidden = !count;
      const told = ngettext("Going on where you stopped: %s is done.", "Going on where you stopped: %s are done.", count);
      say("resumed-words", interpolate(told, [count]));
    },
    noMoreNews: () => (at("resumed").hidden = at("plan-words").hidden = true),
    unsent(words) {
      at("unsent").hidden = !words;
      say("unsent", words);
    },
    item: showItem,
    picture: (now, next) => pictureOf(at("still-line"), now, { next }),
    lines: (turn, over) => lineByLine(turn, { over }),
    nextLine: (shown) => (at("next-line").hidden = !shown),
    lookBack,
    holdIsFree: (free) => (at("hold").disabled = !free),
    toneBusy: (busy) => (at("tone").disabled = busy),
    countBy: setCount,
    next(now) {
      say("next-name", now ? interpolate(gettext("Next: %s, %s"), [now.step.name, now.target.label]) : "");
    },
    keepWatched(seconds) {
      at("keep-watched").hidden = !seconds;
      say("keep-watched", interpolate(gettext("Keep the stopwatch's %s s"), [(seconds ?? 0).toFixed(1)]));
    },
    talkFirst() {
      say("instruction", `${gettext("First count as you usually talk: then strong can be compared with it.")} ${at("instruction").textContent}`);
    },
    // Nothing starts by itself while this is read.
    stopwatchByHand() {
      at("input").value = "stopwatch";
      at("by-hand").checked = true;
    },
  };
}
