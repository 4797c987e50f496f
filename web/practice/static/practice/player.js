// The practice page: one thing at a time, led by the hand. It draws, records and keeps; the server measures and
// judges; what comes next is said by flow.js.

import { playTone } from "../design/tone.js";
import { flow, fresh, readySeconds, restSeconds, runsOn, stepOfSign } from "./flow.js";
import { byTheClock, byVoice, keepWatched, watchedSince } from "./hold.js";
import { breathing, isHeld, isLed, momentWords, mustTalkFirst, nextKey, saidIn, seenAs } from "./items.js";
import { showPlan } from "./planning.js";
import { practiceKeys } from "./practice-keys.js";
import { scale } from "./scale.js";
import { hush, readAloud } from "./aloud.js";
import { answers } from "./answers.js";
import { askBefore, saidBefore } from "./before.js";
import { rememberChoices } from "./choices.js";
import { beating, countIn, inBeats, nextFrame } from "./beats.js";
import { neverFromMemory } from "./leaving.js";
import { lineByLine } from "./lines.js";
import { lookBack, pictureOf } from "./pictures.js";
import { counted, setCount, showItem, showScreen, showWords } from "./screens.js";
import { homeSession } from "./session.js";
import { keepShell } from "./shell.js";
import { stopSigns } from "./stopping.js";
import { unrepeated } from "./taps.js";

const BREATH_MS = 1500;
const QUIET_HELP_S = 8;
const QUIET_END_S = 18;
const LONGEST_S = 110;

const at = (id) => document.getElementById(id);
const page = at("player");
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
const ratings = { effort: null, discomfort: null };

let state = fresh();
let running = null;
let picture = null;
let lines = null;
let quietSince = 0;
let rests = null;
// What counts down or sounds for one screen ends when another comes.
let turn = 0;

const session = homeSession(page, {
  onWaiting(words) {
    at("unsent").hidden = !words;
    at("unsent").textContent = words;
  },
  onRests: (words) => (rests = words),
  onAnswer: answeredLate,
});

const current = () => state.items[state.place];
const input = () => at("input").value;
const ticks = () => at("ticks").value;
// A tick that is heard reaches the microphone: then it is done by the clock.
const ticked = (now) => now.target.beat_s && ticks() === "heard";
const byStopwatch = (now) => now.step.way !== "measured" || input() === "stopwatch" || ticked(now);
// By hand where the client wants it so, and where the stopwatch has nothing to go by.
const byHand = (now) => at("by-hand").checked || now.step.way === "counted" || (isHeld(now) && byStopwatch(now));

// Whether the picture is seen while it is done: as the client wants it, and as prescribed.
const isSeen = (now) => !at("no-picture").checked && seenAs(now);

function move(type, more = {}) {
  const before = state;
  state = flow(state, { type, ...more });
  if (state === before) return;
  turn++;
  hush();
  if (rests && ["ready", "rest", "strain", "end"].includes(state.screen)) endForToday(rests);
  else render();
}

function render() {
  showScreen(page, state.screen);
  showWords(page, state.words);
  at("where").textContent = state.items.length ? `${Math.min(state.place + 1, state.items.length)} / ${state.items.length}` : "";
  if (state.screen === "ready") getReady();
  else if (state.screen === "hold") holdNow();
  else if (state.screen === "rest") rest();
  else if (state.screen === "strain") after.ask();
  else if (state.screen === "trouble" || state.screen === "over") at("trouble").textContent = state.words;
}

// Counts down on this screen; false when another came meanwhile.
async function countDown(seconds, told) {
  const mine = turn;
  const until = performance.now() + seconds * 1000;
  for (let left = seconds; left > 0; left = (until - performance.now()) / 1000) {
    told(Math.ceil(left));
    await pause(Math.min(200, left * 1000));
    if (mine !== turn) return false;
  }
  return true;
}

async function open(anew = false) {
  const opened = await session.open({ shortDay: at("short-day")?.checked ?? false, anew });
  if (opened.refused) return move("trouble", { words: opened.refused });
  move("opened", opened);
  showPlan(opened.plan);
  at("resumed").hidden = !state.resumed;
  const told = ngettext("Going on where you stopped: %s is done.", "Going on where you stopped: %s are done.", state.resumed);
  at("resumed-words").textContent = interpolate(told, [state.resumed]);
  return undefined;
}

async function getReady() {
  const now = current();
  const mine = turn;
  showItem(now, { byHand: byHand(now), seen: isSeen(now) });
  lines = lineByLine(saidIn(now), { over: stopHold }); // they leave less room for the picture
  picture = pictureOf(at("still-line"), now, { next: nextKey(state) });
  if (at("aloud").checked && !runsOn(state)) quietSince = await readAloud(now);
  if (mine !== turn || byHand(now)) return;
  const shown = await countDown(readySeconds(state), (left) => {
    at("words").textContent = interpolate(gettext("Begins in %s s"), [left]);
  });
  if (shown) leadIn();
}

// The note, a breath, and then by itself; `Start now` leads in at once.
async function leadIn() {
  hush();
  const now = current();
  const mine = ++turn;
  if (!byHand(now)) {
    if (now.target.hz) {
      at("words").textContent = gettext("Listen");
      await tone();
      if (mine !== turn) return;
    }
    if (inBeats(now)) await countIn(now, runsOn(state) ? 2 : 4, { told: (words) => mine === turn && (at("words").textContent = words), ticks: ticks() });
    else if (!breathing(now) || !runsOn(state)) {
      at("words").textContent = now.step.voiced ? gettext("Breathe in") : gettext("Now");
      await pause(BREATH_MS);
    }
    if (mine !== turn) return;
  }
  move("begun");
}

async function tone() {
  const { hz, end_hz: endHz } = current()?.target ?? {};
  if (running || !hz || at("tone").disabled) return;
  at("tone").disabled = true;
  quietSince = await playTone(hz, { endHz });
  at("tone").disabled = false;
}

async function holdNow() {
  const now = current();
  const mine = turn;
  at("hold").disabled = true;
  at("resumed").hidden = at("plan-words").hidden = true;
  at("words").textContent = "";
  if (byStopwatch(now)) running = await byTheClock({ now, bundle: session.bundle });
  else {
    try {
      running = await byVoice({
        now,
        bundle: session.bundle,
        input: input(),
        page,
        quietSince,
        onState: (message) => heardSome(now, message),
        onBand: (band) => picture.against(band),
        onRefused: refused,
      });
    } catch {
      return noMicrophone();
    }
    if (mustTalkFirst(now, session.bundle, running.device)) return talkFirst();
  }
  if (mine !== turn) return breakOff(); // left while the microphone opened
  begun(now);
  return undefined;
}

function begun(now) {
  showItem(now, { byHand: byHand(now), seen: isSeen(now), holding: true });
  at("next-line").hidden = !lines.several || now.step.way === "counted";
  lines.begin();
  const known = session.bundle.known_devices;
  if (running.device && known.length && !known.includes(running.device)) {
    at("words").textContent = gettext("A new microphone: how loud you are is learned anew today.");
  } else if (!byStopwatch(now) && isHeld(now)) at("words").textContent = gettext("Now");
  watch(now, running);
}

// The seconds of the clock, breathing in and out, and what has a fixed time ends by itself.
async function watch(now, mine) {
  const { seconds } = now.target;
  const timed = !isHeld(now) && now.step.way !== "counted";
  const beat = beating(now.target.beat_s, ticks());
  const { once } = lines;
  while (running === mine && !mine.stopping) {
    const gone = watchedSince(mine.startedAt);
    if (byStopwatch(now)) at("seconds").textContent = (now.step.way === "timed" ? Math.max(seconds - gone, 0) : gone).toFixed(1);
    picture.tick(gone);
    beat(gone);
    if (isLed(now)) at("words").textContent = momentWords(now, gone);
    if ((timed && gone >= seconds * (once ? 2 : 1)) || (!byStopwatch(now) && gone >= LONGEST_S)) return stopHold();
    await nextFrame();
  }
  return undefined;
}

function heardSome(now, message) {
  picture.add(message);
  lines.said(message.said);
  at("seconds").textContent = message.hold_s.toFixed(1);
  if (!running || running.stopping || !(isHeld(now) || lines.once)) return;
  if (message.ended) stopHold();
  else if (!message.holding && message.hold_s === 0 && message.t_s > QUIET_END_S) stopHold();
  else if (!message.holding && message.hold_s === 0 && message.t_s > QUIET_HELP_S) {
    at("words").textContent = gettext("Take your time: breathe in, then let the sound come.");
  }
}

function noMicrophone() {
  running = null;
  at("input").value = "stopwatch";
  at("by-hand").checked = true; // nothing starts by itself while this is read
  move("not-begun");
  at("words").textContent = gettext("No microphone is open. The stopwatch does the same job: start it, hold, stop it.");
}

async function talkFirst() {
  const attempt = running;
  running = null;
  await attempt.drop();
  session.bundle.known_talk.push(attempt.device);
  move("talk-first", { bundle: session.bundle });
  at("instruction").textContent = `${gettext("First count as you usually talk: then strong can be compared with it.")} ${at("instruction").textContent}`;
}

async function stopHold() {
  if (!running || running.stopping) return;
  const now = current();
  const mine = running;
  const watched = watchedSince(mine.startedAt);
  mine.stopping = true;
  at("hold").disabled = true;
  const message = await mine.stop(counted(now));
  if (running === mine) running = null;
  if (state.screen !== "hold") return;
  await session.noteDone(now);
  ended(now, mine, message, watched);
}

function ended(now, mine, message, watched) {
  const heard = message?.figures?.hold_s;
  const seconds = heard ?? (byStopwatch(now) ? watched : null);
  const nothing = message?.figures !== undefined && !heard;
  state = { ...state, lastId: mine.id, watched: nothing ? watched : null };
  lookBack(now, { drawn: !byStopwatch(now) && !at("no-picture").checked });
  at("last-seconds").textContent = seconds ? `${seconds.toFixed(1)} s` : "";
  move("held", { words: message?.words ?? gettext("Your try is saved on this page."), nothing });
  if (!message) session.flush();
}

// An answer that came after the attempt was over, while its words are still shown.
function answeredLate(id, status, data) {
  if (id !== state.lastId || !["rest", "strain", "end"].includes(state.screen)) return;
  const words = data.words ?? data.error?.message;
  if (words) showWords(page, (state.words = words));
  const heard = data.figures?.hold_s;
  if (heard) at("last-seconds").textContent = `${heard.toFixed(1)} s`;
}

async function breakOff() {
  const attempt = running;
  running = null;
  if (!attempt || attempt.stopping) return; // what is being stopped is kept as it is
  await attempt.interrupt();
  session.flush();
}

async function refused(code, words) {
  await breakOff();
  if (code === 4423) return endForToday(words);
  move("trouble", { words: words || gettext("This hold could not be taken. Open Today and start again.") });
  return undefined;
}

async function rest() {
  const now = current();
  at("next-name").textContent = now ? interpolate(gettext("Next: %s, %s"), [now.step.name, now.target.label]) : "";
  at("keep-watched").hidden = !(state.waits && state.watched);
  at("keep-watched").textContent = interpolate(gettext("Keep the stopwatch's %s s"), [(state.watched ?? 0).toFixed(1)]);
  at("rest-seconds").textContent = "";
  if (state.waits) return;
  const over = await countDown(restSeconds(state), (left) => (at("rest-seconds").textContent = `${left} s`));
  if (over) move("went-on");
}

// Something was found meanwhile: what was done is kept, nothing new is begun.
async function endForToday(words) {
  rests = null;
  await session.say({ kind: "finish", value: ratings });
  move("over", { words });
}

async function leave() {
  const finished = await session.leave();
  if (finished) location.assign(finished);
  else move("over", { words: gettext("Everything is kept on this page. The server cannot be reached: leave the page open and try again.") });
}

const stops = stopSigns({ session, open, move, step: () => stepOfSign(state), leave });

const after = answers({ session, stops, move, step: () => state.items[state.place - 1].step });

const asks = askBefore();

async function begin() {
  // Led by the hand nobody taps for minutes: the screen stays on where the browser can do that.
  navigator.wakeLock?.request("screen").catch(() => null);
  await open();
  if (!asks || !session.bundle) return;
  const value = saidBefore();
  session.say({ kind: "before", value });
  if (value.pain >= session.bundle.pain_stops) await stops.raise("pain");
}

function countBy(more) {
  picture.counted(setCount(current(), more));
  if (more > 0) lines.goOn();
}

function mainButton() {
  if (state.screen === "hold") stopHold();
  else if (state.screen === "ready") leadIn();
}

const doing = {
  "nothing-new": begin,
  "start-over": () => open(true),
  "something-new": () => move("stop-asked"),
  // The recording stays kept, as interrupted, whatever is answered then.
  "stop-sign": () => {
    move("stop-asked");
    breakOff();
  },
  "not-stop": () => move("stop-not-meant"),
  again() {
    if (stops.again()) return;
    if (state.screen === "over") leave();
    else if (session.bundle) move("retried");
    else open();
  },
  tone,
  hold: mainButton,
  skip: () => move("skipped"),
  later: () => move("skipped"), // it stands on Today, to be ticked off
  "break-off": () => {
    breakOff();
    move("once-more");
  },
  "skip-rest": () => move("went-on"),
  repeat: () => move("once-more"),
  "keep-watched": async () => {
    await keepWatched(state.items[state.place - 1], session.bundle, state.watched);
    session.flush();
    move("went-on");
  },
  "pause-ready": () => move("paused"),
  "pause-rest": () => move("paused"),
  "go-on": () => move("went-on"),
  "one-more": () => countBy(+1),
  "one-less": () => countBy(-1),
  "all-of-them": () => countBy(Infinity),
  "next-line": () => lines.goOn(),
  said: () => lines.goOn(),
  "no-strain": () => after.give(null),
  "pain-gone": after.gone,
  "pain-stays": after.stays,
  finish: async () => {
    await session.say({ kind: "finish", value: ratings });
    leave();
  },
};
for (const [id, act] of Object.entries(doing)) unrepeated(at(id), act);
page.querySelectorAll("[data-sign]").forEach((button) => unrepeated(button, () => stops.raise(button.dataset.sign, button.dataset.flag)));
scale(at("strain"), after.give);
for (const which of ["effort", "discomfort"]) scale(at(which), (value) => (ratings[which] = value));
rememberChoices();
practiceKeys({ screen: () => state.screen, at, tone, onward: () => move("went-on"), pause: () => move("paused") });
document.addEventListener("visibilitychange", () => {
  if (document.hidden) move("paused");
});

neverFromMemory();
render();
at("nothing-new").disabled = at("something-new").disabled = false;
session.flush();
// Without it (an old browser, a private window) practice works all the same.
navigator.serviceWorker?.register("/service-worker.js").then(keepShell).catch(() => null);
