// The sound of an attempt, played beside its contour: fetched when it is asked for, once.

const button = document.getElementById("hear");
const player = document.createElement("audio");
const place = document.getElementById("place");
const wrong = document.getElementById("not-heard");
const playhead = document.querySelector(".playhead");

async function fetched() {
  const answer = await fetch(button.dataset.sound, { cache: "no-store" });
  if (!answer.ok) throw new Error(String(answer.status));
  player.src = URL.createObjectURL(new Blob([await answer.arrayBuffer()], { type: "audio/flac" }));
  place.disabled = false;
}

function follow() {
  place.value = String(player.currentTime);
  playhead?.setAttribute("transform", `translate(${player.currentTime * Number(playhead.dataset.pxASecond)} 0)`);
  playhead?.setAttribute("visibility", "visible");
  if (!player.paused) requestAnimationFrame(follow);
}

function told() {
  button.textContent = player.paused ? button.dataset.play : button.dataset.pause;
  follow();
}

button.addEventListener("click", async () => {
  wrong.hidden = true;
  try {
    if (!player.src) await fetched();
    if (player.paused) await player.play();
    else player.pause();
  } catch {
    wrong.hidden = false;
  }
});

place.addEventListener("input", () => {
  player.currentTime = Number(place.value);
});

for (const happening of ["play", "pause", "ended"]) player.addEventListener(happening, told);
player.addEventListener("seeked", follow);
