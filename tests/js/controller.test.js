// The practice page without a page: led by a clock that the test owns, with attempts that do what the test says.
import assert from "node:assert/strict";
import { test } from "node:test";

globalThis.gettext = (words) => words;
globalThis.interpolate = (words, values) => values.reduce((said, value) => said.replace("%s", value), words);
const { itemsOf } = await import("../../web/practice/static/practice/items.js");
const { practiceController } = await import("../../web/practice/static/practice/controller.js");

const target = (more = {}) => ({ seconds: 2, rest_s: 15, label: "long", hz: null, legs: [], ...more });
const step = (step_id, more = {}) => ({
  step_id,
  name: step_id,
  targets: [target()],
  repetitions: 1,
  voiced: true,
  asked: "strain",
  held: false,
  way: "timed",
  instruction: "",
  caution: "",
  cue: "",
  said: [],
  picture: "line",
  feedback: "live",
  ...more,
});
const measured = (step_id, more = {}) => step(step_id, { way: "measured", held: true, ...more });
const settled = () => new Promise((resolve) => setTimeout(resolve));

// A page of which everything that happens is told: `shown` what was seen, `said` what was sent, `done` what was kept.
function page(steps, { chosen = {}, voice = null, refusedOpening = null } = {}) {
  const told = { shown: [], said: [], kept: [], interrupted: [], left: null, words: [], raised: [] };
  let nowMs = 0;
  const options = { input: "microphone", ticks: "off", byHand: false, before: null, ...chosen };
  const bundle = { steps, known_devices: [], known_talk: [], usual_talk: null, pain_stops: 3 };
  const nothing = () => undefined;
  const view = {
    input: () => options.input,
    ticks: () => options.ticks,
    byHand: () => options.byHand,
    withoutPicture: () => false,
    aloud: () => false,
    shortDay: () => false,
    answersBefore: () => options.before,
    counted: () => null,
    toneIsFree: () => true,
    screen: (name, words) => told.shown.push([name, words]),
    words: (words) => words && told.words.push(words),
    lastWords: (words) => told.words.push(words),
    picture: () => ({ add: nothing, tick: nothing, against: nothing, counted: nothing }),
    lines: () => ({ several: false, once: false, begin: nothing, said: nothing, goOn: nothing }),
    stopwatchByHand: () => Object.assign(options, { input: "stopwatch", byHand: true }),
    countBy: () => 1,
  };
  for (const name of ["position", "trouble", "seconds", "lastSeconds", "restSeconds", "plan", "resumed", "noMoreNews", "item", "nextLine", "lookBack", "holdIsFree", "toneBusy", "next", "keepWatched", "talkFirst"]) view[name] = nothing;
  const attempt = (id) => ({
    id,
    startedAt: nowMs,
    device: options.device ?? null,
    stop: async () => (told.kept.push(id), options.message ?? null),
    interrupt: async () => told.interrupted.push(id),
    drop: nothing,
  });
  let count = 0;
  const effects = {
    nowMs: () => nowMs,
    pause: async (ms) => void (nowMs += ms),
    nextFrame: async () => {
      nowMs += 100;
      await settled();
    },
    watchedSince: (startedAt) => (nowMs - startedAt) / 1000,
    hush: nothing,
    stayAwake: nothing,
    readAloud: async () => 0,
    playTone: async () => 0,
    beating: () => nothing,
    countIn: nothing,
    byTheClock: async () => attempt(`timed-${++count}`),
    byVoice: async (asked) => {
      if (!voice) throw new Error("no microphone");
      told.voice = asked;
      await voice;
      return attempt(`voice-${++count}`);
    },
    keepWatched: nothing,
    leaveTo: (address) => (told.left = address),
  };
  const session = {
    bundle: null,
    async open() {
      if (refusedOpening) return { refused: refusedOpening };
      this.bundle = bundle;
      return { items: itemsOf(bundle), done: new Set(), answered: new Set() };
    },
    say: async (...entries) => told.said.push(...entries),
    noteDone: nothing,
    flush: nothing,
    leave: async () => "/finished/",
  };
  const lead = practiceController({
    view,
    effects,
    session,
    helpers: ({ move, stepDone }) => ({
      stops: { raise: async (sign) => told.raised.push(sign), again: () => false },
      after: {
        ask: nothing,
        give(value) {
          session.say({ kind: "strain", value, stepId: stepDone().step_id });
          move("answered");
        },
        gone: nothing,
        stays: nothing,
      },
    }),
  });
  const until = async (screen) => {
    for (let turns = 0; turns < 2000 && lead.screen() !== screen; turns++) await settled();
    assert.equal(lead.screen(), screen);
  };
  return { lead, told, until, options };
}

test("one tap leads through two timed steps up to the question after each", async () => {
  const { lead, told, until } = page([step("hum"), step("stretch", { asked: null, voiced: false })]);
  lead.begin();
  await until("strain");
  assert.deepEqual(told.kept, ["timed-1"]);
  lead.answer(2);
  await until("end");
  assert.deepEqual(told.kept, ["timed-1", "timed-2"]);
  assert.deepEqual(told.said, [{ kind: "strain", value: 2, stepId: "hum" }]);
  lead.finish();
  await settled();
  await settled();
  assert.equal(told.left, "/finished/");
});

test("without a microphone the stopwatch waits for a tap, and nothing is lost", async () => {
  const { lead, told, until, options } = page([measured("power")]);
  lead.begin();
  for (let turns = 0; turns < 200 && !told.words.some((words) => words.startsWith("No microphone")); turns++) await settled();
  assert.equal(lead.screen(), "ready");
  assert.deepEqual([options.input, options.byHand], ["stopwatch", true]);
  lead.mainButton();
  await until("hold");
  await settled();
  lead.mainButton();
  await until("strain");
  assert.deepEqual(told.kept, ["timed-1"]);
});

test("a page left while the microphone opens breaks the attempt off", async () => {
  let opened;
  const voice = new Promise((resolve) => (opened = resolve));
  const { lead, told, until } = page([measured("power")], { voice });
  lead.begin();
  await until("hold");
  lead.stopSign();
  opened();
  await settled();
  await settled();
  assert.equal(lead.screen(), "stop");
  assert.deepEqual(told.interrupted, ["voice-1"]);
  assert.deepEqual(told.kept, []);
});

test("a stop sign within a hold keeps the recording as interrupted", async () => {
  const { lead, told, until } = page([measured("power")], { voice: Promise.resolve() });
  lead.begin();
  await until("hold");
  await settled();
  lead.stopSign();
  await settled();
  assert.deepEqual(told.interrupted, ["voice-1"]);
  lead.move("stop-not-meant");
  assert.equal(lead.screen(), "ready");
});

test("the server's word that the program rests ends the home session before the next attempt", async () => {
  const { lead, told, until } = page([step("hum", { asked: null, repetitions: 3 })]);
  lead.begin();
  await until("hold");
  lead.restsNow("Call the clinic.");
  await until("over");
  assert.deepEqual(told.kept, ["timed-1"]);
  assert.deepEqual(told.shown.at(-1), ["over", "Call the clinic."]);
  assert.equal(told.said.at(-1).kind, "finish");
});

test("a hold that is refused because the program rests is interrupted, and the session ends", async () => {
  const { lead, told, until } = page([measured("power", { repetitions: 2 })], { voice: Promise.resolve() });
  lead.begin();
  await until("hold");
  await settled();
  told.voice.onRefused(4423, "Your program rests.");
  await until("over");
  assert.deepEqual(told.interrupted, ["voice-1"]);
  assert.equal(told.said.at(-1).kind, "finish");
});

test("pain before the session at the limit raises a stop sign", async () => {
  for (const [pain, raised] of [
    [2, []],
    [3, ["pain"]],
  ]) {
    const { lead, told } = page([step("hum")], { chosen: { before: { pain } } });
    lead.begin();
    for (let turns = 0; turns < 20; turns++) await settled();
    assert.deepEqual(told.raised, raised);
    assert.equal(told.said[0].kind, "before");
  }
});

test("silence ends a hold after eighteen seconds and waits for the client", async () => {
  const { lead, told, until, options } = page([measured("power")], { voice: Promise.resolve() });
  options.message = { figures: { hold_s: 0 }, words: "Nothing was heard." };
  lead.begin();
  await until("hold");
  await settled();
  const heard = (t_s) => told.voice.onState({ t_s, hold_s: 0, holding: false, ended: false, said: 0 });
  heard(9);
  assert.match(told.words.at(-1), /Take your time/);
  heard(18.1);
  await until("rest");
  for (let turns = 0; turns < 100; turns++) await settled();
  assert.equal(lead.screen(), "rest");
});

test("a late answer changes the words of the last attempt only while they are shown", async () => {
  const { lead, told, until } = page([step("hum")]);
  lead.begin();
  await until("strain");
  lead.answeredLate("another", 200, { words: "Steady." });
  assert.ok(!told.words.includes("Steady."));
  lead.answeredLate("timed-1", 200, { words: "Steady." });
  assert.equal(told.words.at(-1), "Steady.");
});

test("what the server refuses to open is said, and the next tap tries again", async () => {
  const { lead, told } = page([step("hum")], { refusedOpening: "There is no program yet." });
  lead.begin();
  await settled();
  assert.deepEqual(told.shown.at(-1), ["trouble", "There is no program yet."]);
});
