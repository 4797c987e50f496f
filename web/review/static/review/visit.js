// The visit page: every form is sent without leaving it, so that nothing half-typed in another is lost. The note is
// saved first, and while it cannot be saved the page is not left without a warning.

import { csrfToken } from "../design/csrf.js";
import { renew } from "../design/renewed.js";
import { savedNote } from "./visit-note.js";

/** @param {string} text */
function warn(text) {
  const place = document.getElementById("visit-wrong");
  place.replaceChildren();
  if (!text) return;
  const line = document.createElement("p");
  line.className = "said error mt-2";
  line.setAttribute("role", "alert");
  line.textContent = text;
  place.append(line);
}

const note = savedNote(document.forms.namedItem("note-form"), warn);

/** Puts in the renewed parts; an addendum half typed in one of them stays, but for the one that was sent.
 * @param {HTMLFormElement} sent @param {string} html */
function renewBeside(sent, html) {
  const forms = () => [...document.forms].filter((one) => one.closest("#signed-notes") && one.action !== sent.action);
  const field = (form) => /** @type {HTMLInputElement} */ (form.elements.namedItem("text"));
  const typed = new Map(forms().map((one) => [one.action, field(one).value]));
  const done = renew(html);
  for (const form of forms().filter((one) => typed.get(one.action))) {
    field(form).value = typed.get(form.action);
    form.closest("details").setAttribute("open", "");
  }
  return done;
}

/** @param {HTMLFormElement} form @param {HTMLButtonElement | null} pressed */
async function sendInPlace(form, pressed) {
  if (!(await note.save())) {
    if (!document.getElementById("visit-wrong").textContent) warn(gettext("The note could not be saved, so nothing else was sent. The reason stands above the note."));
    return;
  }
  warn("");
  const body = new FormData(form, pressed);
  body.set("csrfmiddlewaretoken", csrfToken());
  let answer;
  try {
    answer = await fetch(form.action, { method: "POST", body });
  } catch {
    warn(gettext("The server cannot be reached. Nothing was saved; what you typed is still here."));
    return;
  }
  if (new URL(answer.url).pathname.startsWith("/accounts/") || answer.status === 403) {
    warn(gettext("You are signed out. Sign in again in another tab; this page keeps what you typed."));
    return;
  }
  const html = await answer.text();
  if (!renewBeside(form, html)) {
    warn(gettext("This could not be saved. What you typed is still here; try again."));
    return;
  }
  if (answer.ok && pressed?.value === "sign") note.beginAnew(html);
  else note.takeNews(html);
  if (answer.ok && "resets" in form.dataset) form.reset();
}

document.addEventListener("submit", (event) => {
  const form = /** @type {HTMLFormElement} */ (event.target);
  const pressed = /** @type {HTMLButtonElement | null} */ (event.submitter);
  if (!form.matches("[data-in-place]") && pressed?.value !== "sign") return;
  event.preventDefault();
  if (form.dataset.sending) return;
  form.dataset.sending = "yes";
  sendInPlace(form, pressed).finally(() => delete form.dataset.sending);
});
