// The order of attempts in a home session: every note of a step, once a repetition.

export function itemsOf(bundle) {
  return bundle.steps.flatMap((step) => {
    const own = [];
    for (let repetition = 1; repetition <= step.repetitions; repetition++) {
      step.targets.forEach((target, place) => own.push({ step, target, place, repetition, number: own.length, lastOfStep: false }));
    }
    own.at(-1).lastOfStep = true;
    return own;
  });
}

export function elapsedOf(bundle) {
  return bundle.receivedAt === null ? null : Math.round(performance.now() - bundle.receivedAt);
}

export const isHeld = (now) => now.step.held;
export const saidIn = ({ step, number }) => step.said[number % step.said.length];
// Whether the picture is seen while it is done, as prescribed: always, every third time, afterwards or not at all.
export const seenAs = ({ step, number }) => step.feedback === "live" || (step.feedback === "third" && number % 3 === 0);
// Where the next key of a pattern lies; "" where there is none.
export function nextKey({ items, place }) {
  const [now, next] = items.slice(place, place + 2);
  if (now.step.picture !== "keys" || next?.step !== now.step || next.target.hz === now.target.hz) return "";
  return next.target.hz > now.target.hz ? gettext("the next one starts higher") : gettext("the next one starts lower");
}
// Counted in and out by beats.
export const inBeats = ({ step, target }) => step.picture === "keys" && Boolean(target.beat_s);
export const breathing = (now) => now.step.picture === "breath";
// Led by time from moment to moment.
export const isLed = ({ step }) => step.picture === "breath" || step.picture === "entry";
// What is done at that moment of what is led by time, in a word.
export function momentWords({ step, target }, gone) {
  const all = target.legs.reduce((sum, leg) => sum + leg.seconds, 0);
  let left = step.way === "counted" ? gone % all : gone;
  const leg = target.legs.find(({ seconds }) => (left -= seconds) < 0) ?? target.legs.at(-1);
  if (leg.doing === "count") return gettext("Count, empty");
  if (leg.doing === "voice") return step.sound ? `“${step.sound}”` : gettext("Now");
  return leg.doing === "breath_in" ? gettext("Breathe in") : gettext("Breathe out");
}
export const startWords = (now) => (isHeld(now) ? gettext("Start hold") : gettext("Start"));
export const stopWords = (now) => (isHeld(now) ? gettext("Stop hold") : gettext("Done"));

// What the demo's simulated voice is asked to do for one attempt.
export function voiceQuery(now) {
  const length = Math.min(now.target.end_hz ? now.target.seconds : now.target.seconds * 1.06, 90);
  const seed = Math.floor(Math.random() * 1e6);
  const end = now.target.end_hz ? `&end_hz=${now.target.end_hz}` : "";
  const aim = `&aim=${encodeURIComponent(now.target.aim)}`;
  return `task=${now.step.kind}&hz=${now.target.hz ?? 220}&seconds=${length}&seed=${seed}${end}${aim}`;
}

// Strong is compared with usual talk on the same device: a device that has not heard it takes it first.
export const mustTalkFirst = (now, bundle, device) =>
  now.step.strong && bundle.usual_talk && !bundle.known_talk.includes(device);

export function usualTalk({ usual_talk: step }) {
  return { step, target: step.targets[0], place: 0, repetition: 1, number: 0, lastOfStep: true };
}
