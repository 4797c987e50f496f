// Leads through a home session: what comes next is said by flow.js, what is seen by a view, what is done to the world
// by effects. Knows no page, no microphone and no clock, so that a test can lead it.

import { flow, fresh, readySeconds, restSeconds, runsOn, stepOfSign } from "./flow.js";
import { breathing, inBeats, isHeld, isLed, momentWords, mustTalkFirst, nextKey, saidIn, seenAs } from "./items.js";

const BREATH_MS = 1500;
const QUIET_HELP_S = 8;
const QUIET_END_S = 18;
const LONGEST_S = 110;
const ENDS_HERE = ["ready", "rest", "strain", "end"];
const WORDS_LAST = ["rest", "strain", "end"];
const PROGRAM_RESTS = 4423;

// session: see session.js; helpers(controller): stop signs and answers, which need the controller themselves.
export function practiceController({ view, effects, session, helpers }) {
  const ratings = { effort: null, discomfort: null };
  let state = fresh();
  let running = null;
  let picture = null;
  let lines = null;
  let quietSince = 0;
  let rests = null;
  // What counts down or sounds for one screen ends when another comes.
  let turn = 0;

  const current = () => state.items[state.place];
  // A tick that is heard reaches the microphone: then it is done by the clock.
  const ticked = (now) => now.target.beat_s && view.ticks() === "heard";
  const byStopwatch = (now) => now.step.way !== "measured" || view.input() === "stopwatch" || ticked(now);
  // By hand where the client wants it so, and where the stopwatch has nothing to go by.
  const byHand = (now) => view.byHand() || now.step.way === "counted" || (isHeld(now) && byStopwatch(now));
  // Whether the picture is seen while it is done: as the client wants it, and as prescribed.
  const isSeen = (now) => !view.withoutPicture() && seenAs(now);

  function move(type, more = {}) {
    const before = state;
    state = flow(state, { type, ...more });
    if (state === before) return;
    turn++;
    effects.hush();
    if (rests && ENDS_HERE.includes(state.screen)) endForToday(rests);
    else render();
  }

  function render() {
    view.screen(state.screen, state.words);
    view.position(state);
    if (state.screen === "ready") getReady();
    else if (state.screen === "hold") holdNow();
    else if (state.screen === "rest") rest();
    else if (state.screen === "strain") after.ask();
    else if (state.screen === "trouble" || state.screen === "over") view.trouble(state.words);
  }

  // Counts down on this screen; false when another came meanwhile.
  async function countDown(seconds, told) {
    const mine = turn;
    const until = effects.nowMs() + seconds * 1000;
    for (let left = seconds; left > 0; left = (until - effects.nowMs()) / 1000) {
      told(Math.ceil(left));
      await effects.pause(Math.min(200, left * 1000));
      if (mine !== turn) return false;
    }
    return true;
  }

  async function open(anew = false) {
    const opened = await session.open({ shortDay: view.shortDay(), anew });
    if (opened.refused) return move("trouble", { words: opened.refused });
    move("opened", opened);
    view.plan(opened.plan);
    view.resumed(state.resumed);
    return undefined;
  }

  async function begin() {
    effects.stayAwake();
    await open();
    const value = view.answersBefore();
    if (!value || !session.bundle) return;
    session.say({ kind: "before", value });
    if (value.pain >= session.bundle.pain_stops) await stops.raise("pain");
  }

  async function getReady() {
    const now = current();
    const mine = turn;
    view.item(now, { byHand: byHand(now), seen: isSeen(now) });
    lines = view.lines(saidIn(now), stopHold); // they leave less room for the picture
    picture = view.picture(now, nextKey(state));
    if (view.aloud() && !runsOn(state)) quietSince = await effects.readAloud(now);
    if (mine !== turn || byHand(now)) return;
    const shown = await countDown(readySeconds(state), (left) => view.words(interpolate(gettext("Begins in %s s"), [left])));
    if (shown) leadIn();
  }

  // The note, a breath, and then by itself; `Start now` leads in at once.
  async function leadIn() {
    effects.hush();
    const now = current();
    const mine = ++turn;
    if (!byHand(now)) {
      if (now.target.hz) {
        view.words(gettext("Listen"));
        await tone();
        if (mine !== turn) return;
      }
      await breatheIn(now, mine);
      if (mine !== turn) return;
    }
    move("begun");
  }

  async function breatheIn(now, mine) {
    if (inBeats(now)) {
      const told = (words) => mine === turn && view.words(words);
      await effects.countIn(now, runsOn(state) ? 2 : 4, { told, ticks: view.ticks() });
    } else if (!breathing(now) || !runsOn(state)) {
      view.words(now.step.voiced ? gettext("Breathe in") : gettext("Now"));
      await effects.pause(BREATH_MS);
    }
  }

  async function tone() {
    const { hz, end_hz: endHz } = current()?.target ?? {};
    if (running || !hz || !view.toneIsFree()) return;
    view.toneBusy(true);
    quietSince = await effects.playTone(hz, { endHz });
    view.toneBusy(false);
  }

  async function holdNow() {
    const now = current();
    const mine = turn;
    view.holdIsFree(false);
    view.noMoreNews();
    view.words("");
    if (byStopwatch(now)) running = await effects.byTheClock({ now, bundle: session.bundle });
    else {
      try {
        running = await effects.byVoice({
          now,
          bundle: session.bundle,
          input: view.input(),
          quietSince,
          onState: (message) => heardSome(now, message),
          onBand: (band) => picture.against(band),
          onRefused: refused,
        });
      } catch {
        return noMicrophone();
      }
      if (mustTalkFirst(now, session.bundle, running.device)) return talkFirst();
    }
    if (mine !== turn) return breakOff(); // left while the microphone opened
    begun(now);
    return undefined;
  }

  function begun(now) {
    view.item(now, { byHand: byHand(now), seen: isSeen(now), holding: true });
    view.nextLine(lines.several && now.step.way !== "counted");
    lines.begin();
    const known = session.bundle.known_devices;
    if (running.device && known.length && !known.includes(running.device)) {
      view.words(gettext("A new microphone: how loud you are is learned anew today."));
    } else if (!byStopwatch(now) && isHeld(now)) view.words(gettext("Now"));
    watch(now, running);
  }

  // The seconds of the clock, breathing in and out, and what has a fixed time ends by itself.
  async function watch(now, mine) {
    const { seconds } = now.target;
    const timed = !isHeld(now) && now.step.way !== "counted";
    const beat = effects.beating(now.target.beat_s, view.ticks());
    const { once } = lines;
    while (running === mine && !mine.stopping) {
      const gone = effects.watchedSince(mine.startedAt);
      if (byStopwatch(now)) view.seconds(now.step.way === "timed" ? Math.max(seconds - gone, 0) : gone);
      picture.tick(gone);
      beat(gone);
      if (isLed(now)) view.words(momentWords(now, gone));
      if ((timed && gone >= seconds * (once ? 2 : 1)) || (!byStopwatch(now) && gone >= LONGEST_S)) return stopHold();
      await effects.nextFrame();
    }
    return undefined;
  }

  function heardSome(now, message) {
    picture.add(message);
    lines.said(message.said);
    view.seconds(message.hold_s);
    if (!running || running.stopping || !(isHeld(now) || lines.once)) return;
    if (message.ended) stopHold();
    else if (!message.holding && message.hold_s === 0 && message.t_s > QUIET_END_S) stopHold();
    else if (!message.holding && message.hold_s === 0 && message.t_s > QUIET_HELP_S) {
      view.words(gettext("Take your time: breathe in, then let the sound come."));
    }
  }

  function noMicrophone() {
    running = null;
    view.stopwatchByHand();
    move("not-begun");
    view.words(gettext("No microphone is open. The stopwatch does the same job: start it, hold, stop it."));
  }

  async function talkFirst() {
    const attempt = running;
    running = null;
    await attempt.drop();
    session.bundle.known_talk.push(attempt.device);
    move("talk-first", { bundle: session.bundle });
    view.talkFirst();
  }

  async function stopHold() {
    if (!running || running.stopping) return;
    const now = current();
    const mine = running;
    const watched = effects.watchedSince(mine.startedAt);
    mine.stopping = true;
    view.holdIsFree(false);
    const message = await mine.stop(view.counted(now));
    if (running === mine) running = null;
    if (state.screen !== "hold") return;
    await session.noteDone(now);
    ended(now, mine, message, watched);
  }

  function ended(now, mine, message, watched) {
    const heard = message?.figures?.hold_s;
    const seconds = heard ?? (byStopwatch(now) ? watched : null);
    const nothing = message?.figures !== undefined && !heard;
    state = { ...state, lastId: mine.id, watched: nothing ? watched : null };
    view.lookBack(now, { drawn: !byStopwatch(now) && !view.withoutPicture() });
    view.lastSeconds(seconds);
    move("held", { words: message?.words ?? gettext("Your try is saved on this page."), nothing });
    if (!message) session.flush();
  }

  // An answer that came after the attempt was over, while its words are still shown.
  function answeredLate(id, status, data) {
    if (id !== state.lastId || !WORDS_LAST.includes(state.screen)) return;
    const words = data.words ?? data.error?.message;
    if (words) view.lastWords((state.words = words));
    const heard = data.figures?.hold_s;
    if (heard) view.lastSeconds(heard);
  }

  async function breakOff() {
    const attempt = running;
    running = null;
    if (!attempt || attempt.stopping) return; // what is being stopped is kept as it is
    await attempt.interrupt();
    session.flush();
  }

  async function refused(code, words) {
    await breakOff();
    if (code === PROGRAM_RESTS) return endForToday(words);
    move("trouble", { words: words || gettext("This hold could not be taken. Open Today and start again.") });
    return undefined;
  }

  async function rest() {
    view.next(current());
    view.keepWatched(state.waits ? state.watched : null);
    view.restSeconds(null);
    if (state.waits) return;
    if (await countDown(restSeconds(state), view.restSeconds)) move("went-on");
  }

  // Something was found meanwhile: what was done is kept, nothing new is begun.
  async function endForToday(words) {
    rests = null;
    await session.say({ kind: "finish", value: ratings });
    move("over", { words });
  }

  async function leave() {
    const finished = await session.leave();
    if (finished) effects.leaveTo(finished);
    else move("over", { words: gettext("Everything is kept on this page. The server cannot be reached: leave the page open and try again.") });
  }

  function again() {
    if (stops.again()) return;
    if (state.screen === "over") leave();
    else if (session.bundle) move("retried");
    else open();
  }

  function mainButton() {
    if (state.screen === "hold") stopHold();
    else if (state.screen === "ready") leadIn();
  }

  // The recording stays kept, as interrupted, whatever is answered then.
  function stopSign() {
    move("stop-asked");
    breakOff();
  }

  function onceMore() {
    breakOff();
    move("once-more");
  }

  async function keepWatched() {
    await effects.keepWatched(state.items[state.place - 1], session.bundle, state.watched);
    session.flush();
    move("went-on");
  }

  async function finish() {
    await session.say({ kind: "finish", value: ratings });
    leave();
  }

  function countBy(more) {
    picture.counted(view.countBy(current(), more));
    if (more > 0) lines.goOn();
  }

  const { stops, after } = helpers({
    open,
    move,
    leave,
    stepOfSign: () => stepOfSign(state),
    stepDone: () => state.items[state.place - 1].step,
  });

  return {
    move,
    begin,
    open,
    again,
    tone,
    mainButton,
    stopSign,
    breakOff: onceMore,
    keepWatched,
    finish,
    countBy,
    nextLine: () => lines.goOn(),
    rate: (which, value) => (ratings[which] = value),
    answer: after.give,
    painGone: after.gone,
    painStays: after.stays,
    raise: stops.raise,
    restsNow: (words) => (rests = words),
    answeredLate,
    show: render,
    screen: () => state.screen,
  };
}
