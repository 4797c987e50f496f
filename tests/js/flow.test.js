// What comes next in a home session, without a page: led by the hand, nothing asked twice, nothing done twice.
import assert from "node:assert/strict";
import { test } from "node:test";

globalThis.gettext = (words) => words;
const { itemsOf } = await import("../../web/practice/static/practice/items.js");
const { flow, fresh, keyOf, readySeconds, restSeconds, stepOfSign, SHOWN_S } = await import(
  "../../web/practice/static/practice/flow.js"
);

const target = (rest_s = 15) => ({ seconds: 6.5, rest_s });
const step = (step_id, targets, more = {}) => ({ step_id, targets, repetitions: 1, voiced: true, asked: "strain", instruction: "", caution: "", cue: "", ...more });
const hand = step("hands", [target()], { voiced: false, asked: null });
const power = step("power", [target(), target()], { repetitions: 2 });

const begin = (steps, done = [], answered = []) =>
  flow(fresh(), { type: "opened", items: itemsOf({ steps }), done: new Set(done), answered: new Set(answered) });
const after = (state, ...events) => events.reduce((now, one) => flow(now, typeof one === "string" ? { type: one } : one), state);
const well = { type: "held", words: "Steady.", nothing: false };
const silent = { type: "held", words: "Nothing was heard.", nothing: true };

test("sixteen attempts of four voiced steps take six taps when all goes well", () => {
  const steps = [step("a", [target()], { repetitions: 2 }), step("b", [target()], { repetitions: 2 }), step("c", [target()], { repetitions: 2 }), step("d", Array(5).fill(target()), { repetitions: 2 })];
  let state = begin(steps);
  let taps = 1; // nothing new
  let attempts = 0;
  while (state.screen !== "end") {
    if (state.screen === "ready") state = after(state, "begun");
    else if (state.screen === "hold") {
      state = after(state, well);
      attempts++;
    }
    else if (state.screen === "rest") state = after(state, "went-on"); // by itself
    else if (state.screen === "strain") {
      state = after(state, "answered");
      taps++;
    }
  }
  taps++; // finish
  assert.deepEqual([attempts, taps], [16, 6]);
});

test("strain is asked once, after the last attempt of a voiced step", () => {
  let state = begin([power]);
  const screens = [];
  for (let n = 0; n < 4; n++) {
    state = after(state, "begun", well);
    screens.push(state.screen);
    if (state.screen === "rest") state = after(state, "went-on");
  }
  assert.deepEqual(screens, ["rest", "rest", "rest", "strain"]);
  assert.equal(after(state, "answered").screen, "end");
  assert.equal(after(begin([hand]), "begun", well).screen, "end");
});

test("where nothing was heard it waits, and the strain question still comes", () => {
  const state = after(begin([step("one", [target()])]), "begun", silent);
  assert.deepEqual([state.screen, state.waits], ["rest", true]);
  assert.equal(after(state, "went-on").screen, "strain");
  assert.deepEqual([after(state, "once-more").screen, after(state, "once-more").place], ["ready", 0]);
});

test("what was paused goes on at the first that was not done", () => {
  const items = itemsOf({ steps: [hand, power] });
  const done = items.slice(0, 3).map(keyOf);
  const state = begin([hand, power], done);
  assert.deepEqual([state.screen, state.place, state.resumed], ["ready", 3, 3]);
  const all = begin([hand, power], items.map(keyOf));
  assert.equal(all.screen, "strain"); // the strain of the last step was not said yet
  assert.equal(begin([hand, power], items.map(keyOf), ["power"]).screen, "end");
  assert.deepEqual([begin([hand]).place, begin([]).screen], [0, "end"]);
});

test("a second tap or a late answer changes nothing", () => {
  const resting = after(begin([power]), "begun", well);
  for (const late of [well, "begun", "answered", "skipped", "not-begun"]) assert.equal(after(resting, late), resting);
  const holding = after(begin([power]), "begun");
  for (const late of ["begun", "went-on", "paused", "answered"]) assert.equal(after(holding, late), holding);
});

test("once more repeats what was just done, or breaks off what is being done", () => {
  const resting = after(begin([power]), "begun", well, "went-on", "begun", well);
  assert.equal(resting.place, 2);
  assert.deepEqual([after(resting, "once-more").screen, after(resting, "once-more").place], ["ready", 1]);
  const holding = after(begin([power]), "begun");
  assert.deepEqual([after(holding, "once-more").screen, after(holding, "once-more").place], ["ready", 0]);
});

test("a skipped step that was tried is asked about, one that was not tried is not", () => {
  const once = step("once", [target()]);
  assert.equal(after(begin([once]), "skipped").screen, "end");
  const half = after(begin([power]), "begun", well, "went-on", "skipped", "skipped", "skipped");
  assert.equal(half.screen, "strain");
});

test("a pause comes back to where it was", () => {
  const ready = begin([power]);
  assert.equal(after(ready, "paused", "went-on").place, 0);
  assert.equal(after(ready, "paused", "went-on").screen, "ready");
  const resting = after(ready, "begun", well);
  assert.equal(after(resting, "paused", "went-on").screen, "ready");
});

test("a stop sign belongs to the step in hand, between two to the one before", () => {
  const state = begin([hand, power]);
  assert.equal(stepOfSign(fresh()), null);
  assert.equal(stepOfSign(after(state, "stop-asked")), "hands");
  const between = after(state, "begun", well, "stop-asked");
  assert.equal(stepOfSign(between), "hands");
  assert.equal(stepOfSign(after(between, "stop-not-meant", "went-on", "begun", "stop-asked")), "power");
  assert.equal(after(state, "begun", "stop-asked", "stop-not-meant").screen, "ready");
  assert.equal(after(fresh(), "stop-asked", "stop-not-meant").screen, "start");
});

test("a new step is shown for as long as it takes to read, a rest for as long as its words", () => {
  const long = step("long", [target(2), target(2)], { instruction: "one two three four five six seven eight nine ten " + "word ".repeat(15) });
  const state = begin([long]);
  assert.equal(readySeconds(state), 10); // 25 words at 2.5 a second
  const second = after(state, "begun", well);
  assert.equal(restSeconds(second), SHOWN_S);
  assert.equal(readySeconds(after(second, "went-on")), 2);
  assert.equal(restSeconds(after(begin([power]), "begun", well)), 15);
});

test("usual talk comes before the strong work it was missing for", () => {
  const bundle = { usual_talk: step("talk", [target()], { voiced: false }) };
  const state = after(begin([power]), "begun", { type: "talk-first", bundle });
  assert.deepEqual([state.screen, state.items[state.place].step.step_id, state.items.length], ["ready", "talk", 5]);
});

test("breaths and keys run on by themselves; one done once more is shown as ever", () => {
  const breaths = step("breaths", [target(0), target(0), target(15)], { voiced: false, asked: null });
  const first = after(begin([breaths]), "begun", well);
  assert.deepEqual([restSeconds(first), readySeconds(after(first, "went-on"))], [0, 0]);
  const again = after(first, "once-more");
  assert.ok(readySeconds(again) > 0);
  const sung = step("keys", [target(0), target(15)]);
  const key = after(begin([sung]), "begun", well);
  assert.deepEqual([restSeconds(key), readySeconds(after(key, "went-on"))], [1.5, 0]);
  const paused = after(key, "went-on", "paused", "went-on");
  assert.ok(readySeconds(paused) > 0);
});

test("after letting go pain is asked, also where nothing is voiced", () => {
  const release = step("neck", [target()], { voiced: false, asked: "pain" });
  const state = after(begin([release, power]), "begun", well);
  assert.equal(state.screen, "strain");
  assert.equal(after(state, "answered").screen, "rest");
});
