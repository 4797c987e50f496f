// The practice page: one thing at a time. It draws, records and keeps; the server measures and judges.

import { targetOf } from "../design/target.js";
import { stillLine, lineColours } from "../design/still-line.js";
import { playTone } from "../design/tone.js";
import { beginAttempt, keepTimed } from "../measuring/attempt.js";
import { startSender } from "../measuring/sender.js";
import * as store from "../measuring/store.js";
import { elapsedOf, isHeld, itemAt, itemsOf, mustTalkFirst, startWords, stopWords, usualTalk, voiceQuery } from "./items.js";
import { practiceKeys } from "./practice-keys.js";
import { scale } from "./scale.js";
import { keepShell } from "./shell.js";

const page = document.getElementById("player");
const at = (id) => document.getElementById(id);
const screens = [...page.querySelectorAll("[data-screen]")];
const sessionId = crypto.randomUUID();

const state = { rests: null, bundle: null, items: [], place: 0, running: null, line: null, quietSince: 0, timer: null, pacer: null, count: 0, back: "start" };
const results = new Map();

const flush = startSender({
  current: () => state.running?.id ?? null,
  onChange(kept) {
    const waiting = kept.filter((one) => !one.refused);
    const turnedDown = kept.find((one) => one.refused);
    at("unsent").hidden = !waiting.length && !turnedDown;
    at("unsent").textContent = turnedDown
      ? interpolate(gettext("Kept on this page, not accepted: %s"), [turnedDown.refused])
      : interpolate(gettext("%s kept on this page, sent when the connection is back."), [waiting.length]);
  },
  onKept(kept, status, data) {
    state.rests = data?.rests ?? state.rests;
    results.get(kept.id)?.(status, data);
  },
});

function show(name) {
  screens.forEach((screen) => (screen.hidden = screen.dataset.screen !== name));
  page.dataset.shown = name;
}

function trouble(words) {
  at("trouble").textContent = words;
  show("trouble");
}

async function open() {
  const csrf = page.querySelector("[name=csrfmiddlewaretoken]").value;
  try {
    const answer = await fetch(page.dataset.open, {
      method: "POST",
      headers: { "X-CSRFToken": csrf, "Content-Type": "application/json", Accept: "application/json" },
      body: JSON.stringify({ session_id: sessionId, routine: page.dataset.routine, short_day: at("short-day")?.checked ?? false }),
    });
    const data = await answer.json();
    if (!answer.ok) return trouble(data.error.message);
    state.bundle = { ...data, receivedAt: performance.now() };
    await store.putBundle({ ...data, link: page.dataset.link });
  } catch (error) {
    if (!(error instanceof TypeError || error instanceof SyntaxError)) throw error;
    const kept = await store.latestBundle(page.dataset.link, page.dataset.routine);
    // A page opened without the server has no steady time of the server: times are estimated.
    if (kept) state.bundle = { ...kept, receivedAt: null };
    else return trouble(gettext("The clinic's server cannot be reached. Nothing is lost. Try again in a minute."));
  }
  state.items = itemsOf(state.bundle);
  return item();
}

function item() {
  const now = state.items[state.place];
  if (!now) {
    at("where").textContent = "";
    return show("end");
  }
  if (state.rests) return endForToday(state.rests);
  show("hold");
  at("where").textContent = `${state.place + 1} / ${state.items.length}`;
  at("step-name").textContent = now.step.name;
  at("instruction").textContent = now.step.instruction;
  at("caution").textContent = now.step.caution;
  at("cue").textContent = [now.step.cue, now.step.effort].filter(Boolean).join(" · ");
  at("note").textContent = now.target.label;
  at("note").title = now.target.note;
  const counted = now.step.way === "counted";
  const turn = [now.repetition, now.step.repetitions];
  at("target").textContent = counted
    ? interpolate(gettext("· %s of %s"), turn)
    : interpolate(gettext("· %s s · %s of %s"), [now.target.seconds, ...turn]);
  at("counter").hidden = !counted;
  setCount(0);
  at("hold").textContent = startWords(now);
  at("seconds").textContent = "0.0";
  at("words").textContent = "";
  at("hold").disabled = false;
  at("next").hidden = true;
  at("hold").hidden = false;
  at("tone").hidden = !now.target.hz;
  const drawn = now.step.way === "measured" && now.target.hz && at("input").value !== "stopwatch";
  at("still-line").hidden = at("no-picture").checked || !drawn;
  state.line = newLine(now);
}

// Something was found meanwhile: what was done is kept, nothing new is begun.
async function endForToday(words) {
  state.rests = words;
  state.place = state.items.length;
  await say("finish", ratings);
  trouble(words);
  at("again").textContent = gettext("Finish");
  at("again").onclick = leave;
}

function setCount(count) {
  const most = state.items[state.place]?.target.count ?? 0;
  state.count = Math.min(Math.max(count, 0), most);
  at("count").textContent = interpolate(gettext("%s of %s"), [state.count, most]);
}

function newLine(now) {
  const colours = lineColours(document.documentElement.classList.contains("dark"));
  const { hz, end_hz: endHz, seconds } = now.target;
  if (!hz) return { add() {} };
  return stillLine(at("still-line"), { hz, endHz, glideSeconds: seconds, colours });
}

async function tone() {
  const { hz, end_hz: endHz } = state.items[state.place].target;
  if (state.running || !hz) return;
  at("tone").disabled = true;
  state.quietSince = await playTone(hz, { endHz });
  at("tone").disabled = false;
}

function offerNow() {
  const now = state.items[state.place];
  return {
    attempt_id: crypto.randomUUID(),
    step_id: now.step.step_id,
    place: now.place,
    repetition: now.repetition,
    elapsed_ms: elapsedOf(state.bundle),
    device_time: new Date().toISOString(),
  };
}

async function startHold() {
  const now = state.items[state.place];
  const offer = offerNow();
  const input = now.step.way === "measured" ? at("input").value : "stopwatch";
  at("next").hidden = true;
  at("hold").disabled = true;
  at("words").textContent = "";
  state.line = newLine(now);
  const began = () => {
    at("hold").textContent = stopWords(now);
    at("hold").classList.add("hold-on");
    at("hold").disabled = false;
    at("tone").hidden = true;
    pace(now);
  };
  if (input === "stopwatch") {
    state.running = { id: null, offer, startedAt: performance.now() };
    tick();
    return began();
  }
  state.running = { id: offer.attempt_id, offer, startedAt: performance.now() };
  try {
    const attempt = await beginAttempt({
      ticket: state.bundle.ticket,
      offer,
      input,
      worklet: page.dataset.worklet,
      voiceUrl: `${page.dataset.voice}?${voiceQuery(now)}`,
      quietSince: state.quietSince,
      onState(message) {
        state.line.add(message);
        at("seconds").textContent = message.hold_s.toFixed(1);
        if (message.ended && isHeld(now) && state.running && !state.running.stopping) stopHold();
      },
      onRefused: refused,
    });
    if (mustTalkFirst(now, state.bundle, attempt.device)) return talkFirst(attempt);
    Object.assign(state.running, { attempt, startedAt: performance.now() });
    const known = state.bundle.known_devices;
    if (known.length && !known.includes(attempt.device)) {
      at("words").textContent = gettext("A new microphone: how loud you are is learned anew today.");
    }
  } catch {
    state.running = null;
    at("input").value = "stopwatch";
    at("still-line").hidden = true;
    at("words").textContent = gettext("No microphone is open. The stopwatch does the same job: start it, hold, stop it.");
    at("hold").disabled = false;
    return undefined;
  }
  return began();
}

async function talkFirst(attempt) {
  state.running = null;
  await attempt.drop();
  state.bundle.known_talk.push(attempt.device);
  state.items.splice(state.place, 0, usualTalk(state.bundle));
  item();
  at("words").textContent = gettext("First count as you usually talk: then strong can be compared with it.");
}

function tick() {
  if (!state.running || state.running.attempt) return;
  const gone = (performance.now() - state.running.startedAt) / 1000;
  const { step, target } = state.items[state.place];
  at("seconds").textContent = (step.way === "timed" ? Math.max(target.seconds - gone, 0) : gone).toFixed(1);
  requestAnimationFrame(tick);
}

// Breathing in and out is told to the client, and what has a fixed time ends by itself.
function pace(now) {
  clearInterval(state.pacer);
  const { pace: breath, seconds } = now.target;
  if (isHeld(now) || now.step.way === "counted") return;
  state.pacer = setInterval(() => {
    if (!state.running || state.running.stopping) return clearInterval(state.pacer);
    const gone = (performance.now() - state.running.startedAt) / 1000;
    if (breath) at("words").textContent = gone < breath.in_s ? gettext("Breathe in") : gettext("Breathe out");
    if (gone >= seconds) stopHold();
    return undefined;
  }, 100);
}

async function refused(code, words) {
  const attempt = state.running?.attempt;
  if (code === 4401) return undefined; // the recording goes on and is sent whole
  state.running = null;
  resetHold();
  await attempt?.drop();
  if (code === 4423) return endForToday(words);
  return trouble(words || gettext("This hold could not be taken. Open Today and start again."));
}

function resetHold() {
  const now = state.items[state.place];
  clearInterval(state.pacer);
  at("hold").textContent = startWords(now);
  at("hold").classList.remove("hold-on");
  at("tone").hidden = !now.target.hz;
  at("hold").disabled = false;
}

async function stopHold() {
  const { offer, attempt, startedAt } = state.running;
  const watched = Math.round((performance.now() - startedAt) / 10) / 100;
  state.running.stopping = true;
  at("hold").disabled = true;
  if (attempt) {
    const message = await attempt.stop();
    state.running = null;
    resetHold();
    if (message) return held(message, watched);
  } else {
    state.running = null;
    resetHold();
    at("seconds").textContent = watched.toFixed(1);
    const count = state.items[state.place].step.way === "counted" ? state.count : null;
    await keepTimed({ ticket: state.bundle.ticket, offer, seconds: watched, count });
  }
  held({ words: gettext("Kept on this page; it is being sent.") }, watched);
  const place = state.place;
  results.set(offer.attempt_id, (status, data) => {
    if (state.place !== place || page.dataset.shown !== "hold") return;
    if (data.words) held(data, watched);
    else if (data.error) at("words").textContent = data.error.message;
  });
  return flush();
}

function held(message, watched) {
  const hold = message.figures?.hold_s;
  if (typeof hold === "number") at("seconds").textContent = hold.toFixed(1);
  at("words").textContent = message.words;
  const nothing = hold === 0 || hold === null;
  at("hold").hidden = !nothing;
  at("tone").hidden = !nothing || !state.items[state.place].target.hz;
  at("counter").hidden = true;
  at("next").hidden = false;
  at("next").classList.add("main-action");
  at("next").focus();
  if (message.figures && hold === null) offerStopwatch(watched);
}

function offerStopwatch(watched) {
  const button = document.createElement("button");
  button.textContent = interpolate(gettext("Keep the stopwatch's %s s"), [watched.toFixed(1)]);
  button.addEventListener("click", async () => {
    await keepTimed({ ticket: state.bundle.ticket, offer: offerNow(), seconds: watched });
    button.remove();
    flush();
  });
  at("words").append(" ", button);
}

function next() {
  const done = state.items[state.place++];
  if (done.lastOfStep && done.step.voiced) return show("strain");
  return rest(done.target.rest_s);
}

function rest(seconds) {
  if (!state.items[state.place] || !seconds) return item();
  show("rest");
  const until = performance.now() + seconds * 1000;
  clearInterval(state.timer);
  const count = () => {
    const left = Math.ceil((until - performance.now()) / 1000);
    at("rest-seconds").textContent = `${Math.max(left, 0)} s`;
    if (left <= 0) goOn();
  };
  count();
  state.timer = setInterval(count, 250);
  return undefined;
}

function goOn() {
  clearInterval(state.timer);
  item();
}

async function say(kind, value, stepId = null) {
  const id = crypto.randomUUID();
  await store.putEntry({ id, ticket: state.bundle.ticket, said: { kind, value, step_id: stepId } });
  return flush();
}

function answered(value) {
  const { step, target } = state.items[state.place - 1];
  if (value !== null) say("strain", value, step.step_id);
  rest(target.rest_s);
}

const ratings = { effort: null, discomfort: null };

async function leave() {
  await flush();
  await store.forgetBundle(state.bundle.session_id);
  const unsent = (await store.allEntries()).filter((entry) => !entry.refused);
  const finished = page.dataset.finished.replace("00000000-0000-0000-0000-000000000000", state.bundle.session_id);
  if (!unsent.length) return location.assign(finished);
  trouble(gettext("Everything is kept on this page. The server cannot be reached: leave the page open and try again."));
  at("again").onclick = leave;
  return undefined;
}

async function stopSign(sign) {
  const attempt = state.running?.attempt;
  state.running = null;
  await attempt?.drop();
  if (!state.bundle) {
    await open();
    if (!state.bundle) return undefined;
  }
  const now = state.back === "start" ? null : itemAt(state.items, state.place, state.back);
  await say("stop", sign, now?.step.step_id ?? null);
  return leave();
}

at("nothing-new").addEventListener("click", open);
at("something-new").addEventListener("click", () => show("stop"));
at("stop-sign").addEventListener("click", () => {
  clearInterval(state.timer);
  state.back = page.dataset.shown;
  show("stop");
});
at("not-stop").addEventListener("click", () => (state.bundle ? item() : show("start")));
page.querySelectorAll("[data-sign]").forEach((b) => b.addEventListener("click", () => stopSign(b.dataset.sign)));
at("again").addEventListener("click", () => (state.rests ? undefined : state.bundle ? item() : open()));
at("tone").addEventListener("click", tone);
at("hold").addEventListener("click", () => (state.running ? stopHold() : startHold()));
at("next").addEventListener("click", next);
at("one-more").addEventListener("click", () => setCount(state.count + 1));
at("one-less").addEventListener("click", () => setCount(state.count - 1));
at("all-of-them").addEventListener("click", () => setCount(Infinity));
at("skip-rest").addEventListener("click", goOn);
at("no-strain").addEventListener("click", () => answered(null));
at("finish").addEventListener("click", async () => {
  await say("finish", ratings);
  leave();
});
at("dark").addEventListener("change", (event) => document.documentElement.classList.toggle("dark", targetOf(event).checked));
scale(at("strain"), answered);
scale(at("effort"), (value) => (ratings.effort = value));
scale(at("discomfort"), (value) => (ratings.discomfort = value));

practiceKeys({ shown: () => page.dataset.shown, at, tone, next, pause: () => state.running || show("rest") });

show("start");
at("nothing-new").disabled = at("something-new").disabled = false;
flush();
// Without it (an old browser, a private window) practice works all the same.
navigator.serviceWorker?.register("/service-worker.js").then(keepShell).catch(() => null);
