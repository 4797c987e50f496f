// One page at a time has a thing in its hands: a running hold, an upload. The browser frees what a page
// had that was closed or crashed. Without such locks (an old browser) everything counts as free.

/** @returns {Promise<() => void>} gives the lock back */
export function taken(name) {
  if (!navigator.locks) return Promise.resolve(() => {});
  return new Promise((given, failed) => {
    navigator.locks.request(name, () => new Promise((release) => given(() => release()))).catch(failed);
  });
}

// Does the work if nobody has the lock; null where somebody has.
export function ifFree(name, work) {
  if (!navigator.locks) return work();
  return navigator.locks.request(name, { ifAvailable: true }, (lock) => (lock ? work() : null));
}

export const attemptLock = (id) => `still-reed-attempt-${id}`;
export const entryLock = (id) => `still-reed-entry-${id}`;
