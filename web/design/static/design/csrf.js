/** The token of this browser's sign-in as it is now: the one in the page is old once somebody has signed in again. */
export function csrfToken() {
  return document.cookie.match(/(?:^|;\s*)csrftoken=([^;]+)/)?.[1] ?? "";
}
