"""Breath: paced breathing, hiss ladders, hiss to buzz, the capped breath hold."""

from core.catalogue.tasks import Task
from core.catalogue.words import Growth
from core.errors import PlanError
from core.fitting.fitted import Fitted, StepSpec, fitter, inner_range, number, reachable_s
from core.fitting.known import Fitting
from core.program.rung_words import beats_words, number_grade
from core.program.rungs import floored
from core.program.step import Grade
from core.program.targets import Blow, Join, Pace, Timed, seconds_of
from core.reason import says
from core.reference.values import BREATH_HOLD_CAP, CAUTIOUS_OUT, HISS_OVER_OWN_BEST, LONGEST_HISS

MEASURE_S = says("measure_s", "Measure the longest /s/.")
_OUT_ASSUMED = says("out_assumed", "{seconds:g} s out are within reach; no longest /s/ is known.")
_BEATS = says(
    "beats_out",
    "{beats} beats out at {tempo:g} beats/min = {seconds:.1f} s, within the longest /s/ {best_s:g} s",
)
_FEWER_BEATS = says(
    "fewer_beats_out",
    "{beats} beats out, not {wanted} at {tempo:g} beats/min = {seconds:.1f} s, within the longest "
    "/s/ {best_s:g} s",
)
_NO_LONGER = says("no_longer_than_s", "no longer than the longest /s/ {best_s:g} s")
_HISS_ASSUMED = says(
    "hiss_assumed", "{seconds:g} s of hiss are within reach; no longest /s/ is known."
)
_SHORT_HISS = says("short_without_s", "{seconds:g} s, short because no longest /s/ is known")
_WITHIN_S = says("within_s", "{seconds:g} s, within the longest /s/ {best_s:g} s")
_OVER_S = says("at_most_over_s", "at most 110 % of the longest /s/ {best_s:g} s and 60 s")
_THIRD_UP = says("third_of_the_way", "{note}, a third of the way up {low}–{high}; buzz {why}")
_OTHER_NOTES = says("then_other_notes", "first mid-to-low, then other notes")
_TURNED_ON = says(
    "breath_hold_turned_on",
    "turned on by the clinician; ends at 15 s: of the longer school (30, 60, 90 s) little is "
    "gained and much can go wrong",
)

_JOIN_STEPS = (0, 2, 4)


@fitter
def pace(fitting: Fitting, task: Task, spec: StepSpec) -> Fitted:
    """Breathing on beats; params `ladder` (beats out), `beats_in`, `tempo`, `breaths`, `puff`.

    No rung is longer than the client's own longest /s/, whatever the ladder says.
    """
    tempo = task.setting("tempo").limited(number(spec, "tempo", task.setting("tempo").default))
    ladder = tuple(int(beats) for beats in spec.params.get("ladder", (4, 8, 12)))
    best = fitting.baseline.best_s_s
    if best is None:
        fitting.ask(MEASURE_S())
        fitting.assume(_OUT_ASSUMED(seconds=CAUTIOUS_OUT.number))
        best = CAUTIOUS_OUT.number
    rungs = tuple(beats for beats in ladder if seconds_of(beats, tempo) <= best)
    if not rungs:
        fewer = int(best / seconds_of(1, tempo))
        if fewer < 2:
            raise PlanError("breath_too_short", seconds=best)
        rungs = (fewer,)
    first = rungs[0]
    values = {"tempo": tempo, "seconds": seconds_of(first, tempo), "best_s": best}
    because = (
        _BEATS(beats=first, **values)
        if first == ladder[0]
        else _FEWER_BEATS(beats=first, wanted=ladder[0], **values)
    )
    target = Pace(
        beats_in=int(number(spec, "beats_in", 4)),
        beats_out=first,
        tempo_bpm=tempo,
        breaths=int(number(spec, "breaths", 4)),
        last_puff=bool(spec.params.get("puff", False)),
        because=because,
    )
    grade = Grade(
        key=task.key,
        growth=Growth.BEATS_OUT,
        rungs=tuple(float(beats) for beats in rungs),
        words=tuple(beats_words(beats, tempo) for beats in rungs),
        goal=float(rungs[-1]),
        because=_NO_LONGER(best_s=best),
        shown=best / seconds_of(1, tempo),
    )
    return Fitted(target=target, grade=grade)


@fitter
def hiss(fitting: Fitting, task: Task, spec: StepSpec) -> Fitted:
    """A long hiss; param `ladder`: seconds. Starts within 80 % of the own best, ends at 110 %."""
    best = fitting.baseline.best_s_s
    swell = bool(spec.params.get("swell", False))
    if best is None:
        fitting.ask(MEASURE_S())
        fitting.assume(_HISS_ASSUMED(seconds=CAUTIOUS_OUT.number))
        because = _SHORT_HISS(seconds=CAUTIOUS_OUT.number)
        return Fitted(target=Blow(seconds=CAUTIOUS_OUT.number, because=because, swell=swell))
    setting = task.setting("seconds")
    most = max(
        floored(min(HISS_OVER_OWN_BEST.number * best, LONGEST_HISS.number, setting.high)), 0.5
    )
    start = max(min(floored(0.8 * best), most), 0.5)
    ladder = [float(seconds) for seconds in spec.params.get("ladder", ())]
    within = [seconds for seconds in ladder if seconds <= start]
    start = within[-1] if within else start
    steps = [seconds for seconds in ladder if start < seconds <= most]
    rungs = tuple(dict.fromkeys((start, *steps, most)))
    because = _WITHIN_S(seconds=start, best_s=best)
    grade = number_grade(
        task.key, Growth.SECONDS, rungs, goal=most, because=_OVER_S(best_s=best), shown=best
    )
    return Fitted(target=Blow(seconds=start, because=because, swell=swell), grade=grade)


@fitter
def join(fitting: Fitting, task: Task, _spec: StepSpec) -> Fitted:
    """Hiss to buzz: first on a mid-to-low comfortable note, then two and four semitones up."""
    low, high = inner_range(fitting)
    first = low.up((high.number - low.number) // 3)
    notes = tuple(first.up(step) for step in _JOIN_STEPS if first.number + step <= high.number)
    buzz_s, why = reachable_s(fitting, task.setting("buzz").default)
    hiss_s = task.setting("hiss").default
    best = fitting.baseline.best_s_s
    if best is not None:
        hiss_s = min(hiss_s, max(floored(0.8 * best), 0.5))
    targets = tuple(
        Join(
            hiss_s=hiss_s,
            buzz_s=buzz_s,
            note=note,
            because=_THIRD_UP(note=note.name, low=low.name, high=high.name, why=why),
        )
        for note in notes
    )
    grade = Grade(
        key=task.key,
        growth=Growth.SEMITONES,
        rungs=tuple(float(note.number) for note in notes),
        words=tuple(f"on {note}" for note in notes),
        targets=targets,
        because=_OTHER_NOTES(),
    )
    return Fitted(target=targets[0], grade=grade)


@fitter
def breath_hold(fitting: Fitting, task: Task, _spec: StepSpec) -> Fitted:
    """Off unless the clinician turned it on for this client; never over 15 s."""
    if not fitting.limits.breath_hold:
        raise PlanError("breath_hold_off")
    setting = task.setting("seconds")
    rungs = tuple(s for s in (5.0, 10.0, 15.0) if s <= min(BREATH_HOLD_CAP.number, setting.high))
    because = _TURNED_ON()
    grade = number_grade(task.key, Growth.SECONDS, rungs, goal=rungs[-1], because=because)
    return Fitted(target=Timed(seconds_a_side=rungs[0], because=because), grade=grade)
