// After a step: strain where it was voiced, then effort where it was strong; pain where it was let go. Pain that is
// too much, or that stays after letting go, stops here.

const at = (id) => document.getElementById(id);

function showLasting(lasting) {
  at("pain-lasts").hidden = !lasting;
  at("strain").hidden = at("how-much").hidden = at("no-strain").hidden = lasting;
}

function showQuestion(asked) {
  for (const one of document.querySelectorAll("[data-asked]")) /** @type {any} */ (one).hidden = /** @type {any} */ (one).dataset.asked !== asked;
  at("strain").querySelectorAll("button").forEach((button) => button.removeAttribute("aria-pressed"));
  showLasting(false);
}

// step: of what was just done.
export function answers({ session, stops, move, step }) {
  let asking = null;

  return {
    ask() {
      asking = step().asked;
      showQuestion(asking);
    },
    give(value) {
      const { step_id: stepId, strong } = step();
      if (value !== null) session.say({ kind: asking, value, stepId });
      if (asking === "strain" && strong) {
        asking = "effort";
        return showQuestion(asking);
      }
      if (asking !== "pain" || !value) return move("answered");
      if (value >= session.bundle.pain_stops) return stops.raise("pain");
      return showLasting(true);
    },
    gone: () => move("answered"),
    stays: () => stops.raise("pain"),
  };
}
