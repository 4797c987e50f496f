/** Asks the server window by window: what a number would have changed, and to bring Rounds up to date. */

/**
 * @param {HTMLElement} place
 * @param {number} done
 * @param {number} of
 */
function show(place, done, of) {
  const bar = place.querySelector("progress");
  const count = place.querySelector(".count");
  if (bar) {
    bar.hidden = false;
    bar.setAttribute("max", String(Math.max(of, 1)));
    bar.setAttribute("value", String(done));
  }
  if (count) count.textContent = `${done} / ${of}`;
}

/**
 * @param {HTMLElement} place
 * @param {string} words
 */
function stopped(place, words) {
  const count = place.querySelector(".count");
  if (count) count.textContent = words;
}

/** @param {HTMLElement} place */
async function tryOnCaseload(place) {
  const list = place.querySelector("ul");
  const asked = new URLSearchParams({ path: place.dataset.path ?? "", value: place.dataset.value ?? "" });
  for (let start = 0; ; ) {
    const answer = await fetch(`${place.dataset.from}?${asked}&start=${start}`);
    const said = await answer.json();
    if (!answer.ok) return stopped(place, said.wrong);
    for (const client of said.clients) {
      const item = document.createElement("li");
      const name = document.createElement("a");
      name.href = client.href;
      name.textContent = client.name;
      item.append(name, `: ${client.lines.join("; ")}`);
      list?.append(item);
    }
    show(place, said.done, said.of);
    if (said.done >= said.of || said.done === start) break;
    start = said.done;
  }
  if (list && !list.children.length) list.append(place.dataset.nothing ?? "");
}

/** @param {HTMLFormElement} form */
async function bring(form) {
  for (let start = 0; ; ) {
    const body = new FormData(form);
    body.set("start", String(start));
    const answer = await fetch(form.action, { method: "POST", body });
    const said = await answer.json();
    if (!answer.ok) return stopped(form, said.wrong);
    show(form, said.done, said.of);
    if (said.done >= said.of || said.done === start) break;
    start = said.done;
  }
}

const caseload = document.querySelector("#caseload");
if (caseload instanceof HTMLElement) tryOnCaseload(caseload);
const form = document.querySelector("#bring");
if (form instanceof HTMLElement) {
  const asked = /** @type {HTMLFormElement} */ (/** @type {unknown} */ (form));
  asked.addEventListener("submit", (event) => {
    event.preventDefault();
    bring(asked);
  });
  if (asked.dataset.now) bring(asked);
}
