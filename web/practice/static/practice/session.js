// The home session in the page: opened or gone on with, what is said in it, what waits to be sent.

import { startSender } from "../measuring/sender.js";
import * as store from "../measuring/store.js";
import { itemsOf } from "./items.js";
import { keyOf } from "./flow.js";
import { chosenPlan, planned } from "./planning.js";
import { csrfOf, renewer, waitingWords } from "./waiting.js";

// Of a bundle that this page can read: what a former version kept here may lack what this one draws.
const FORMAT = 3;
const NOBODY = "00000000-0000-0000-0000-000000000000";

export function homeSession(page, { onWaiting, onRests, onAnswer }) {
  const csrf = csrfOf(page);
  const newId = crypto.randomUUID();
  let bundle = null;

  const flush = startSender({
    renew: renewer(page.dataset.renew, csrf),
    onChange: (kept) => onWaiting(waitingWords(kept)),
    onKept(kept, status, data) {
      if (data?.rests) onRests(data.rests);
      onAnswer(kept.id, status, data);
    },
  });

  async function fromServer({ shortDay, anew }) {
    const answer = await fetch(page.dataset.open, {
      method: "POST",
      headers: { "X-CSRFToken": csrf, "Content-Type": "application/json", Accept: "application/json" },
      body: JSON.stringify({
        session_id: anew ? crypto.randomUUID() : newId,
        routine: page.dataset.routine,
        short_day: shortDay,
        anew,
      }),
    });
    const data = await answer.json();
    return answer.ok ? { ...data, receivedAt: performance.now() } : { refused: data.error.message };
  }

  async function fromThisPage() {
    const kept = await store.latestBundle(page.dataset.link, page.dataset.routine);
    if (kept?.format !== FORMAT) return { refused: gettext("The clinic's server cannot be reached. Nothing is lost. Try again in a minute.") };
    const sameDay = kept.keptOn === new Date().toDateString();
    // A page opened without the server has no steady time of the server: times are estimated.
    // One kept by a former version does not say what was done.
    return { ...kept, done: (sameDay && kept.done) || [], answered: kept.answered ?? [], receivedAt: null };
  }

  const keep = () => store.putBundle({ ...bundle, link: page.dataset.link, keptOn: new Date().toDateString() });

  return {
    flush,
    get bundle() {
      return bundle;
    },

    // What is to be done and what was, or `refused`: words why not.
    async open({ shortDay = false, anew = false } = {}) {
      const opened = await fromServer({ shortDay, anew }).catch((error) => {
        if (error instanceof TypeError || error instanceof SyntaxError) return fromThisPage();
        throw error;
      });
      if (opened.refused) return opened;
      bundle = opened;
      await keep();
      const plan = chosenPlan(bundle.plans);
      return {
        items: itemsOf(plan ? { steps: planned(bundle, plan) } : bundle),
        plan,
        done: new Set(bundle.done.map((one) => one.join(" "))),
        answered: new Set(bundle.answered),
      };
    },

    // Remembered here too, so that a page that is loaded again without a connection goes on where it was.
    async noteDone(item) {
      bundle.done.push(keyOf(item).split(" "));
      await keep();
    },

    // One answer or several at once: all are kept before any is sent.
    async say(...answers) {
      for (const { kind, value, stepId = null } of answers) {
        const said = { kind, value, step_id: stepId };
        await store.putEntry({ id: crypto.randomUUID(), ticket: bundle.ticket, said });
        if (kind === "strain" || kind === "pain") bundle.answered.push(stepId);
      }
      return flush();
    },

    // The address of what was kept, once nothing that was said waits; null while the server cannot be reached.
    async leave() {
      await flush();
      await store.forgetBundle(bundle.session_id);
      const unsent = (await store.allEntries()).filter((entry) => !entry.refused);
      return unsent.length ? null : page.dataset.finished.replace(NOBODY, bundle.session_id);
    },
  };
}
