// A warm-up of the day: the longest that is wanted and ends before the event.
import assert from "node:assert/strict";
import { test } from "node:test";

const fields = {};
globalThis.document = /** @type {any} */ ({ getElementById: (id) => (id in fields ? { value: fields[id] } : null) });
globalThis.gettext = (words) => words;
const { chosenPlan, planned } = await import("../../web/practice/static/practice/planning.js");

const plan = (wanted, purpose = "speaking", voice = "fresh") => ({ wanted, purpose, voice, parts: [], trimmed: [] });
const plans = [5, 10, 20].flatMap((wanted) => [plan(wanted), plan(wanted, "singing"), plan(wanted, "speaking", "tired")]);
const ask = (minutes, event = "", purpose = "speaking", voice = "fresh") =>
  Object.assign(fields, { "plan-minutes": minutes, "plan-event": event, "plan-purpose": purpose, "plan-voice": voice });

test("without minutes it is done as prescribed", () => {
  ask("");
  assert.equal(chosenPlan(plans), null);
  ask("10");
  assert.equal(chosenPlan(null), null);
});

test("the longest of the wanted length, of that purpose and voice", () => {
  ask("20", "", "singing");
  assert.deepEqual([chosenPlan(plans).wanted, chosenPlan(plans).purpose], [20, "singing"]);
  ask("15", "", "speaking", "tired");
  assert.deepEqual([chosenPlan(plans).wanted, chosenPlan(plans).voice], [10, "tired"]);
});

test("two minutes are spared before the event; where nothing fits it is the shortest", () => {
  ask("20", "12");
  assert.equal(chosenPlan(plans).wanted, 10);
  ask("20", "11");
  assert.equal(chosenPlan(plans).wanted, 5);
  ask("20", "3");
  assert.equal(chosenPlan(plans).wanted, 5);
});

test("steps come from the bundle, also those of other routines, as often as planned", () => {
  const bundle = { steps: [{ step_id: "a", repetitions: 4 }], more_steps: [{ step_id: "b", repetitions: 3 }] };
  const parts = [{ step_id: "b", repetitions: 1 }, { step_id: "a", repetitions: 2 }];
  assert.deepEqual(planned(bundle, { parts }), [{ step_id: "b", repetitions: 1 }, { step_id: "a", repetitions: 2 }]);
});
