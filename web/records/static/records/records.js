// How far the saving or taking in of many records is.

const ASKED_EVERY_MS = 700;
const link = document.getElementById("save-all");
const said = document.getElementById("progress");
let asking = 0;

async function ask() {
  const answer = await fetch(link.dataset.progress).catch(() => null);
  const told = answer?.ok ? await answer.json() : {};
  if (!told.total) return;
  said.textContent = interpolate(said.dataset.words, told, true);
  if (told.done >= told.total) clearInterval(asking);
}

function begin() {
  clearInterval(asking);
  asking = setInterval(ask, ASKED_EVERY_MS);
}

link.addEventListener("click", begin);
document.querySelector('input[type="file"]').closest("form").addEventListener("submit", begin);
