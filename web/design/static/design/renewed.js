// Puts what the server made anew in the place of what stands on the page, without loading it: parts marked `data-renewed`.

export function renew(html) {
  const made = new DOMParser().parseFromString(html, "text/html");
  const parts = [...document.querySelectorAll("[data-renewed]")];
  if (!parts.every((part) => made.getElementById(part.id))) return false;
  for (const part of parts) part.replaceWith(document.adoptNode(made.getElementById(part.id)));
  return true;
}

// Asks the server; where it answers with another page (signed out meanwhile) that page is gone to. True = renewed.
export async function renewedFrom(url, options = {}) {
  const answer = await fetch(url, options);
  if (renew(await answer.text())) return answer.ok;
  location.assign(answer.url);
  return false;
}
