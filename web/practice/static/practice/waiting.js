// What waits in the page to be sent, and a fresh ticket for it.

export const csrfOf = (part) => part.querySelector("[name=csrfmiddlewaretoken]").value;

// A new upload ticket where the old one came with a former link or is too old; null where that cannot be.
export const renewer = (url, csrf) => async (ticket) => {
  const headers = { "X-CSRFToken": csrf, "Content-Type": "application/json" };
  const answer = await fetch(url, { method: "POST", headers, body: JSON.stringify({ ticket }) });
  return answer.ok ? (await answer.json()).ticket : null;
};

// What waits, in words; "" where everything is with the clinic.
export function waitingWords(kept) {
  const turnedDown = kept.find((one) => one.refused);
  if (turnedDown) return interpolate(gettext("Saved on this page, not accepted: %s"), [turnedDown.refused]);
  if (!kept.length) return "";
  if (navigator.onLine === false) return interpolate(gettext("No internet. %s saved here, to be sent later."), [kept.length]);
  return interpolate(gettext("%s saved on this page, not sent yet."), [kept.length]);
}
