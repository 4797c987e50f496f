// The visit note: saved as it is typed, with the revision it was read at; entries go into it with one press.

import { csrfToken } from "../design/csrf.js";

const PAUSE_MS = 1500; // the longest that is typed without a pause while nothing is saved is bounded by LATEST_MS
const LATEST_MS = 10_000;
const AGAIN_MS = 15_000;

/** warn: says what cannot be overlooked.
 * @param {HTMLFormElement} form @param {(text: string) => void} warn */
export function savedNote(form, warn) {
  const area = form.querySelector("textarea");
  const revision = /** @type {HTMLInputElement} */ (form.elements.namedItem("revision"));
  const keys = form.querySelector("#note-entries");
  const state = form.querySelector("#note-state small");
  const settled = () => [...keys.querySelectorAll("input")].map((one) => one.value);
  const now = () => JSON.stringify([area.value.trim(), settled()]);
  let saved = now();
  let timer = null;
  let waitingSince = 0;
  let queue = Promise.resolve(true);

  /** @param {string} text @param {boolean} [wrong] */
  function say(text, wrong = false) {
    state.textContent = text;
    state.classList.toggle("wrong", wrong);
  }

  function later(ms) {
    clearTimeout(timer);
    timer = setTimeout(save, ms);
  }

  function signInLink() {
    const link = document.createElement("a");
    link.href = state.closest("[data-sign-in]").dataset.signIn;
    link.target = "_blank";
    link.textContent = gettext("Sign in");
    state.append(" ", link);
  }

  /** What a colleague wrote is put below, never in the place of what is typed.
   * @param {{message: string, theirs: string, revision: number}} error */
  function putTheirsBelow(error) {
    warn(error.message);
    if (error.theirs) area.value = `${area.value.trimEnd()}\n\n${error.theirs}`;
    revision.value = String(error.revision);
    say(gettext("Not saved yet"));
  }

  /** True = what is typed is saved. */
  async function send() {
    const typed = now();
    if (typed === saved) return true;
    const body = new FormData(form);
    body.set("act", "keep");
    body.set("csrfmiddlewaretoken", csrfToken());
    let answer;
    let data;
    try {
      const headers = { Accept: "application/json" };
      answer = await fetch(form.action, { method: "POST", body, headers });
      data = await answer.json();
    } catch {
      say(gettext("Not saved: the server cannot be reached. Your text stays here and is saved when it can be."), true);
      later(AGAIN_MS);
      return false;
    }
    if (answer.status === 409) {
      putTheirsBelow(data.error);
      return false;
    }
    if (!answer.ok) {
      say(data.error.message, true);
      if (answer.status === 401) signInLink();
      return false;
    }
    saved = typed;
    delete form.dataset.fromRecord;
    revision.value = String(data.revision);
    say(interpolate(gettext("Saved %s"), [data.saved_at]));
    return true;
  }

  function save() {
    clearTimeout(timer);
    waitingSince = 0;
    queue = queue.then(send, send);
    return queue;
  }

  function changed() {
    if (now() === saved) return;
    waitingSince ||= performance.now();
    say(gettext("Not saved yet"));
    later(Math.max(0, Math.min(PAUSE_MS, waitingSince + LATEST_MS - performance.now())));
  }

  /** @param {string} key */
  function settle(key) {
    const field = document.createElement("input");
    field.type = "hidden";
    field.name = "settled";
    field.value = key;
    keys.append(field);
  }

  /** @param {HTMLButtonElement} button */
  function takeUp(button) {
    const offers = [...form.querySelectorAll("[data-entry]")].filter((one) => button.value === "all" || one.getAttribute("data-entry") === button.value);
    for (const offer of offers) {
      settle(offer.getAttribute("data-entry"));
      if (button.name === "add") area.value = `${area.value.trimEnd()}\n${offer.querySelector("span").textContent}`.trimStart();
      offer.remove();
    }
    hideSettled();
    if (!form.querySelector("[data-entry]")) warn("");
    save();
  }

  /** What the page says after another form was saved: a first draft nobody has touched is taken over whole.
   * @param {string} html */
  function takeNews(html) {
    const made = new DOMParser().parseFromString(html, "text/html");
    if ("fromRecord" in form.dataset && now() === saved) takeWhole(made);
    hideSettled();
  }

  /** The next note, after this one was signed.
   * @param {string} html */
  function beginAnew(html) {
    const made = new DOMParser().parseFromString(html, "text/html");
    form.dataset.fromRecord = "";
    revision.value = made.querySelector("#note-form [name=revision]").value;
    say(made.querySelector("#note-state").textContent.trim());
    takeWhole(made);
  }

  /** @param {Document} made */
  function takeWhole(made) {
    area.value = made.querySelector("#note-form textarea").textContent;
    keys.innerHTML = made.getElementById("note-entries").innerHTML;
    saved = now();
  }

  /** The page knows of what is saved; what was taken up since is not offered twice. */
  function hideSettled() {
    const known = new Set(settled());
    for (const offer of form.querySelectorAll("[data-entry]")) if (known.has(offer.getAttribute("data-entry"))) offer.remove();
    if (!form.querySelector("[data-entry]")) form.querySelector("#note-offers").replaceChildren();
  }

  area.addEventListener("input", changed);
  area.addEventListener("blur", save);
  window.addEventListener("online", save);
  document.addEventListener("visibilitychange", save);
  window.addEventListener("beforeunload", (event) => {
    if (now() !== saved) event.preventDefault();
  });
  form.addEventListener("submit", (event) => {
    const pressed = /** @type {HTMLButtonElement} */ (event.submitter);
    if (pressed?.value === "sign") return;
    event.preventDefault();
    if (pressed?.name === "add" || pressed?.name === "leave") takeUp(pressed);
    else save();
  });
  return { save, takeNews, beginAnew };
}
