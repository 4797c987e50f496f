// The reference tone: soft, with three partials so that small speakers carry it.

let context = null;

// As the client wants to hear it, where the page asks: an octave higher or lower, softer or louder.
function wanted(id) {
  return Number(document.getElementById(id)?.value || 1);
}

/** For who does not hear it: the phone vibrates as long as the note lasts, and its name is marked. */
async function showTone(seconds) {
  const mark = document.getElementById("note");
  mark?.classList.add("tone-shown");
  navigator.vibrate?.(seconds * 1000);
  await new Promise((resolve) => setTimeout(resolve, seconds * 1000));
  mark?.classList.remove("tone-shown");
  return performance.now();
}

export async function playTone(lowHz, { seconds = 1.4, endHz: lowEndHz = null } = {}) {
  if (document.getElementById("tone-loud")?.value === "felt") return showTone(seconds);
  const octave = wanted("tone-octave");
  const [hz, endHz] = [lowHz * octave, lowEndHz && lowEndHz * octave];
  const loud = wanted("tone-loud") * (document.body.classList.contains("loud") ? 2 : 1);
  context ??= new AudioContext();
  await context.resume();
  const now = context.currentTime;
  const out = new GainNode(context, { gain: 0 });
  out.connect(context.destination);
  out.gain.setTargetAtTime(0.2 * loud, now, 0.04);
  out.gain.setTargetAtTime(0, now + seconds - 0.2, 0.06);
  for (const [partial, gain] of [[1, 1], [2, 0.35], [3, 0.12]]) {
    const tone = new OscillatorNode(context, { frequency: hz * partial });
    tone.frequency.setValueAtTime(hz * partial, now);
    tone.frequency.exponentialRampToValueAtTime((endHz ?? hz) * partial, now + seconds);
    tone.connect(new GainNode(context, { gain })).connect(out);
    tone.start(now);
    tone.stop(now + seconds);
  }
  await new Promise((resolve) => setTimeout(resolve, seconds * 1000));
  return performance.now();
}

// A short soft click for a beat.
export async function playTick() {
  context ??= new AudioContext();
  await context.resume();
  const now = context.currentTime;
  const out = new GainNode(context, { gain: 0.2 });
  out.gain.setTargetAtTime(0, now, 0.012);
  const click = new OscillatorNode(context, { frequency: 880 });
  click.connect(out).connect(context.destination);
  click.start(now);
  click.stop(now + 0.08);
}
