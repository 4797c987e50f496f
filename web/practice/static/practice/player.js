// The practice page, put together: buttons and keys to the controller, the controller to session, view and effects.

import { answers } from "./answers.js";
import { rememberChoices } from "./choices.js";
import { practiceController } from "./controller.js";
import { effectsOf } from "./effects.js";
import { neverFromMemory } from "./leaving.js";
import { practiceKeys } from "./practice-keys.js";
import { scale } from "./scale.js";
import { homeSession } from "./session.js";
import { keepShell } from "./shell.js";
import { stopSigns } from "./stopping.js";
import { unrepeated } from "./taps.js";
import { practiceView } from "./view.js";

const at = (id) => document.getElementById(id);
const page = at("player");
const view = practiceView(page);

const session = homeSession(page, {
  onWaiting: view.unsent,
  onRests: (words) => lead.restsNow(words),
  onAnswer: (id, status, data) => lead.answeredLate(id, status, data),
});

const lead = practiceController({
  view,
  effects: effectsOf(page),
  session,
  helpers({ open, move, leave, stepOfSign, stepDone }) {
    const stops = stopSigns({ session, open, move, step: stepOfSign, leave });
    return { stops, after: answers({ session, stops, move, step: stepDone }) };
  },
});

const buttons = {
  "nothing-new": lead.begin,
  "start-over": () => lead.open(true),
  "something-new": () => lead.move("stop-asked"),
  "stop-sign": lead.stopSign,
  "not-stop": () => lead.move("stop-not-meant"),
  again: lead.again,
  tone: lead.tone,
  hold: lead.mainButton,
  skip: () => lead.move("skipped"),
  later: () => lead.move("skipped"), // it stands on Today, to be ticked off
  "break-off": lead.breakOff,
  "skip-rest": () => lead.move("went-on"),
  repeat: () => lead.move("once-more"),
  "keep-watched": lead.keepWatched,
  "pause-ready": () => lead.move("paused"),
  "pause-rest": () => lead.move("paused"),
  "go-on": () => lead.move("went-on"),
  "one-more": () => lead.countBy(+1),
  "one-less": () => lead.countBy(-1),
  "all-of-them": () => lead.countBy(Infinity),
  "next-line": lead.nextLine,
  said: lead.nextLine,
  "no-strain": () => lead.answer(null),
  "pain-gone": lead.painGone,
  "pain-stays": lead.painStays,
  finish: lead.finish,
};
for (const [id, act] of Object.entries(buttons)) unrepeated(at(id), act);
page.querySelectorAll("[data-sign]").forEach((button) => unrepeated(button, () => lead.raise(button.dataset.sign, button.dataset.flag)));
scale(at("strain"), lead.answer);
for (const which of ["effort", "discomfort"]) scale(at(which), (value) => lead.rate(which, value));
rememberChoices();
practiceKeys({ screen: lead.screen, at, tone: lead.tone, onward: () => lead.move("went-on"), pause: () => lead.move("paused") });
document.addEventListener("visibilitychange", () => {
  if (document.hidden) lead.move("paused");
});

neverFromMemory();
lead.show();
at("nothing-new").disabled = at("something-new").disabled = false;
session.flush();
// Without it (an old browser, a private window) practice works all the same.
navigator.serviceWorker?.register("/service-worker.js").then(keepShell).catch(() => null);
