// A warm-up for the minutes there are: the server has worked out every choice, the page takes the one that is asked for.

const TO_SPARE_MIN = 2;

const at = (id) => document.getElementById(id);

// The longest plan that ends before the event; null where none was asked for or fits.
export function chosenPlan(plans) {
  if (!at("plan-minutes")?.value || !plans) return null;
  const until = at("plan-event").value === "" ? Infinity : Number(at("plan-event").value) - TO_SPARE_MIN;
  const most = Math.min(Number(at("plan-minutes").value), until);
  const own = plans.filter(({ purpose, voice }) => purpose === at("plan-purpose").value && voice === at("plan-voice").value);
  return own.filter((plan) => plan.wanted <= most).at(-1) ?? own[0] ?? null;
}

// The steps of a plan as they are done: from the bundle, as often as planned.
export function planned(bundle, plan) {
  const all = [...bundle.steps, ...bundle.more_steps];
  return plan.parts.map(({ step_id: id, repetitions }) => ({ ...all.find((step) => step.step_id === id), repetitions }));
}

// What it comes to, and why something is not in it.
export function showPlan(plan) {
  at("plan-words").hidden = !plan;
  if (!plan) return;
  const length = interpolate(gettext("About %s minutes."), [plan.minutes]);
  at("plan-words").textContent = [length, ...plan.trimmed].join(" ");
}
