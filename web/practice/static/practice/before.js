// What is asked before a home session, once a day, and not before a reset; what was not asked is not answered.

const at = (id) => document.getElementById(id);
const numberIn = (id) => (at(id)?.value ? Math.round(Number(at(id).value)) : null);

// How it is today, as far as it was asked and answered.
export const saidBefore = () => ({
  hoarser: at("hoarser").checked,
  soft_high_lost: at("soft-high-lost").checked,
  gasped: at("gasped")?.checked ?? null,
  pain: numberIn("pain"),
  tired: numberIn("tired"),
  medication_min: numberIn("medication"),
  flags: [],
});

// Shows the questions where they are due; whether they are.
export function askBefore() {
  const before = at("asked-before");
  const asks = "asks" in before.dataset && before.dataset.askedOn !== new Date().toLocaleDateString("sv");
  before.hidden = !asks;
  at("something-new").hidden = !asks;
  if (!asks) at("nothing-new").textContent = gettext("Start");
  at("tired").addEventListener("change", offerShortDay);
  return asks;
}

// Who is very tired is offered the short version; it can be taken off again.
function offerShortDay() {
  const { value, dataset } = at("tired");
  const short = at("short-day");
  if (short && value !== "" && Number(value) >= Number(dataset.shortFrom)) short.checked = true;
}
