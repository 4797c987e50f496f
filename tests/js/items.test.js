// The order of a home session in the page: what comes next, what a stop sign belongs to, what is said.
import assert from "node:assert/strict";
import { test } from "node:test";

globalThis.gettext = (words) => words;
const { elapsedOf, isHeld, itemsOf, momentWords, mustTalkFirst, nextKey, seenAs, startWords, stopWords, usualTalk, voiceQuery } = await import(
  "../../web/practice/static/practice/items.js"
);

const target = (note, more = {}) => ({ note, seconds: 6.5, hz: 220, aim: note, ...more });
const step = (name, targets, more = {}) => ({ name, targets, repetitions: 1, held: true, kind: "hold", strong: false, ...more });

test("every note of a step comes once a repetition, in order", () => {
  const items = itemsOf({ steps: [step("power", [target("C4"), target("D4")], { repetitions: 2 }), step("glide", [target("")])] });
  assert.deepEqual(
    items.map((item) => [item.step.name, item.target.note, item.repetition, item.lastOfStep]),
    [
      ["power", "C4", 1, false],
      ["power", "D4", 1, false],
      ["power", "C4", 2, false],
      ["power", "D4", 2, true],
      ["glide", "", 1, true],
    ],
  );
});

test("a session whose steps all rest has nothing to do", () => {
  assert.deepEqual(itemsOf({ steps: [] }), []);
});

test("an entry is counted empty, breathed on seven, sounded, and counted in again", () => {
  // 80 beats/min: 6 beats 4.5 s, 2 beats 1.5 s, 4 beats 3 s; the next one begins after 9 s
  const legs = [["count", 4.5], ["breath_in", 1.5], ["voice", 3]].map(([doing, seconds]) => ({ doing, seconds }));
  const entry = { step: { way: "counted", sound: "ah" }, target: { legs } };
  const words = [0, 4.4, 4.6, 6.1, 8.9, 9.1, 13.6].map((gone) => momentWords(entry, gone));
  assert.deepEqual(words, ["Count, empty", "Count, empty", "Breathe in", "“ah”", "“ah”", "Count, empty", "Breathe in"]);
});

test("a breath out that lasts a little longer does not turn into the next one", () => {
  const legs = [{ doing: "breath_in", seconds: 2.4 }, { doing: "breath_out", seconds: 7.2 }];
  assert.equal(momentWords({ step: { way: "measured" }, target: { legs } }, 9.7), "Breathe out");
});

test("strong work on a device that has not heard usual talk takes it first", () => {
  const bundle = { usual_talk: step("talk", [target("")]), known_talk: ["tablet"] };
  const strong = { step: step("strong", [target("A3")], { strong: true }) };
  const soft = { step: step("soft", [target("A3")]) };
  assert.ok(mustTalkFirst(strong, bundle, "phone"));
  assert.ok(!mustTalkFirst(strong, bundle, "tablet"));
  assert.ok(!mustTalkFirst(soft, bundle, "phone"));
  assert.ok(!mustTalkFirst(strong, { usual_talk: null, known_talk: [] }, "phone"));
  assert.equal(usualTalk(bundle).lastOfStep, true);
});

test("what is held says hold, what is spoken or breathed does not", () => {
  const held = { step: step("power", [target("C4")]) };
  const spoken = { step: step("talk", [target("")], { held: false }) };
  assert.equal(isHeld(held), true);
  assert.deepEqual([startWords(held), stopWords(held)], ["Start hold", "Stop hold"]);
  assert.deepEqual([startWords(spoken), stopWords(spoken)], ["Start", "Done"]);
});

test("without the time of the server nothing is said of how long ago", () => {
  assert.equal(elapsedOf({ receivedAt: null }), null);
  assert.ok(elapsedOf({ receivedAt: performance.now() - 1500 }) >= 1500);
});

test("the simulated voice is asked for the target, a slide to its end and never over 90 s", () => {
  const asked = (item) => Object.fromEntries(new URLSearchParams(voiceQuery(item)));
  const hold = asked({ step: step("power", []), target: target("B♭3") });
  assert.deepEqual([hold.task, hold.hz, hold.aim, hold.seconds], ["hold", "220", "B♭3", String(6.5 * 1.06)]);
  const slide = asked({ step: step("up", [], { kind: "glide" }), target: target("", { end_hz: 440, seconds: 8 }) });
  assert.deepEqual([slide.end_hz, slide.seconds], ["440", "8"]);
  const speech = asked({ step: step("read", [], { kind: "level" }), target: target("", { hz: null, seconds: 90 }) });
  assert.deepEqual([speech.hz, speech.seconds], ["220", "90"]);
});

test("the picture is seen as prescribed: always, every third time, not at all", () => {
  const seen = (feedback) => [0, 1, 2, 3].map((number) => seenAs({ step: { feedback }, number }));
  assert.deepEqual(seen("live"), [true, true, true, true]);
  assert.deepEqual(seen("third"), [true, false, false, true]);
  assert.deepEqual(seen("after"), [false, false, false, false]);
});

test("where the next key lies is said only between keys of one pattern", () => {
  const keys = { picture: "keys" };
  const at = (hz, of = keys) => ({ step: of, target: { hz } });
  assert.equal(nextKey({ items: [at(200), at(210)], place: 0 }), "the next one starts higher");
  assert.equal(nextKey({ items: [at(210), at(200)], place: 0 }), "the next one starts lower");
  assert.equal(nextKey({ items: [at(210), at(200, { picture: "keys" })], place: 0 }), "");
  assert.equal(nextKey({ items: [at(210)], place: 0 }), "");
});
