// What comes next in a home session: a state machine without a page, a microphone or a clock.
//
// screen: start, ready (the next attempt is shown), hold (it is being done), rest, strain, end, pause, stop,
// trouble, over. place: of the item that comes or is being done. words: said of the last attempt.
// waits: a rest that ends by a tap only, because nothing was heard.

import { usualTalk } from "./items.js";

export const keyOf = ({ step, place, repetition }) => `${step.step_id} ${place} ${repetition}`;

export const fresh = () => ({ screen: "start", items: [], place: 0, words: "", waits: false, follows: false, back: null });

// follows: whether what comes was reached by doing what was before, so that a run of keys or breaths goes on.
const onward = (state, more) => ({ ...state, waits: false, follows: false, ...more });
const atEnd = (state) => state.place >= state.items.length;
const toNext = (state) => onward(state, { screen: atEnd(state) ? "end" : "ready" });

// Where a home session that was begun goes on: at the first item that was not done.
function opened(state, { items, done, answered }) {
  const first = items.findIndex((item) => !done.has(keyOf(item)));
  const place = first < 0 ? items.length : first;
  const before = items[place - 1];
  const owes = before?.lastOfStep && before.step.asked && !answered.has(before.step.step_id);
  const now = { ...state, items, place, resumed: place, words: "" };
  return owes ? { ...now, screen: "strain" } : toNext(now);
}

// After an attempt: strain, or pain, where its step is over, else rest; nothing heard waits for the client.
function held(state, { words, nothing }) {
  const item = state.items[state.place];
  const now = onward(state, { place: state.place + 1, words });
  if (nothing) return { ...now, screen: "rest", waits: true };
  return afterItem(now, item);
}

function afterItem(state, item) {
  if (item.lastOfStep && item.step.asked) return onward(state, { screen: "strain" });
  return onward(state, { screen: atEnd(state) ? "end" : "rest", follows: true });
}

function skipped(state) {
  const item = state.items[state.place];
  const now = onward(state, { place: state.place + 1, words: "" });
  const tried = state.tried?.has(item.step.step_id);
  return item.lastOfStep && item.step.asked && tried ? { ...now, screen: "strain" } : toNext(now);
}

function talkFirst(state, { bundle }) {
  const items = state.items.toSpliced(state.place, 0, usualTalk(bundle));
  return onward(state, { screen: "ready", items });
}

const MOVES = {
  opened,
  begun: (state) => onward(state, { screen: "hold", tried: new Set(state.tried).add(state.items[state.place].step.step_id) }),
  held,
  "talk-first": talkFirst,
  "not-begun": (state) => onward(state, { screen: "ready" }),
  "once-more": (state) => onward(state, { screen: "ready", place: Math.max(state.place - (state.screen === "hold" ? 0 : 1), 0), words: "" }),
  skipped,
  "went-on": (state) => (state.waits ? afterItem(state, state.items[state.place - 1]) : { ...toNext(state), follows: state.follows }),
  answered: (state) => onward(state, { screen: atEnd(state) ? "end" : "rest" }),
  paused: (state) => onward(state, { screen: "pause" }),
  "stop-asked": (state) => (state.screen === "stop" ? state : { ...state, screen: "stop", back: state.screen }),
  "stop-not-meant": (state) => onward(state, { screen: state.back === "hold" ? "ready" : state.back, back: null }),
  retried: toNext,
  trouble: (state, { words }) => onward(state, { screen: "trouble", words }),
  over: (state, { words = "" }) => onward(state, { screen: "over", words }),
};

// From one state to the next; what makes no sense on this screen changes nothing (a second tap, a late answer).
const FROM = {
  opened: ["start", "trouble", "ready"],
  retried: ["trouble"],
  begun: ["ready"],
  held: ["hold"],
  "talk-first": ["hold"],
  "not-begun": ["hold"],
  "once-more": ["hold", "rest", "strain"],
  skipped: ["ready"],
  "went-on": ["rest", "pause"],
  answered: ["strain"],
  paused: ["ready", "rest"],
};

export function flow(state, event) {
  const from = FROM[event.type];
  return from && !from.includes(state.screen) ? state : MOVES[event.type](state, event);
}

// The step that a stop sign came with: the one in hand, between two the one before.
export function stepOfSign(state) {
  const screen = state.screen === "stop" ? state.back : state.screen;
  if (screen === "start" || !state.items.length) return null;
  const before = ["rest", "strain", "end", "pause"].includes(screen) ? 1 : 0;
  return state.items[Math.max(state.place - before, 0)]?.step.step_id ?? null;
}

const WORDS_A_SECOND = 2.5;
const SHORTEST_READY_S = 2;
const LONGEST_READY_S = 12;
export const SHOWN_S = 4;
const RUN_ON_S = 1.5;

// Keys of a pattern, breaths of a pace and pieces of a text run on without a rest.
export function runsOn({ items, place, follows }) {
  const before = items[place - 1];
  return Boolean(follows && before && before.step === items[place]?.step && before.target.rest_s === 0);
}

// How long the next attempt is shown before it begins: a new step takes as long as its words take to read.
export function readySeconds(state) {
  const { items, place } = state;
  if (runsOn(state)) return 0;
  const now = items[place];
  if (items[place - 1]?.step === now.step) return SHORTEST_READY_S;
  const words = [now.step.instruction, now.step.caution, now.step.cue].join(" ").split(/\s+/).filter(Boolean).length;
  return Math.min(Math.max(Math.round(words / WORDS_A_SECOND), 2 * SHORTEST_READY_S), LONGEST_READY_S);
}

// The rest after what was just done, never shorter than its words are shown; between breaths there is none.
export function restSeconds(state) {
  const done = state.items[state.place - 1];
  if (runsOn(state)) return done.step.voiced ? RUN_ON_S : 0;
  return Math.max(done?.target.rest_s ?? 0, SHOWN_S);
}
