// What an event of the page happened to.

/** @param {Event} event @returns {OnPage} */
export const targetOf = (event) => /** @type {OnPage} */ (event.target);
