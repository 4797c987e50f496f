// On every other page of the client: what practice left in the browser is sent from here too.

import { startSender } from "../measuring/sender.js";
import { forgetOnLeaving, neverFromMemory } from "./leaving.js";
import { csrfOf, renewer, waitingWords } from "./waiting.js";

const told = document.getElementById("unsent");

const flush = startSender({
  renew: renewer(told.dataset.renew, csrfOf(document)),
  onChange(kept) {
    told.textContent = waitingWords(kept);
    told.hidden = !kept.length;
  },
});
flush();
neverFromMemory();
forgetOnLeaving(document.querySelector("form[action$='/leave/']"));
