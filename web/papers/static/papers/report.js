// The text of a report is copied with one press.

const button = document.getElementById("copy");

button?.addEventListener("click", async () => {
  const text = document.getElementById("text");
  try {
    await navigator.clipboard.writeText(text.textContent);
    button.textContent = button.dataset.done;
  } catch {
    // without leave to the clipboard the text is chosen, to be copied by hand
    const range = document.createRange();
    range.selectNodeContents(text);
    getSelection().removeAllRanges();
    getSelection().addRange(range);
  }
});
