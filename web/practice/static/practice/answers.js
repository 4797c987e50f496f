// After a step: strain where it was voiced, pain where it was let go. Pain that is too much, or that stays after
// letting go, stops here.

const at = (id) => document.getElementById(id);

function showLasting(lasting) {
  at("pain-lasts").hidden = !lasting;
  at("strain").hidden = at("how-much").hidden = at("no-strain").hidden = lasting;
}

// step: of what was just done.
export function answers({ session, stops, move, step }) {
  return {
    ask() {
      const { asked } = step();
      for (const one of document.querySelectorAll("[data-asked]")) /** @type {any} */ (one).hidden = /** @type {any} */ (one).dataset.asked !== asked;
      showLasting(false);
    },
    give(value) {
      const { asked, step_id: stepId } = step();
      if (value !== null) session.say({ kind: asked, value, stepId });
      if (asked !== "pain" || !value) return move("answered");
      if (value >= session.bundle.pain_stops) return stops.raise("pain");
      return showLasting(true);
    },
    gone: () => move("answered"),
    stays: () => stops.raise("pain"),
  };
}
