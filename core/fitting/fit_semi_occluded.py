"""Semi-occluded tasks: the forms from easy to hard, the tube, its depth and back pressure."""

from collections.abc import Callable, Mapping
from typing import Any

from core.catalogue.doing import done_as
from core.catalogue.rungs import Rung, SemiOccludedForm
from core.catalogue.tasks import Task
from core.catalogue.touches import Touch
from core.catalogue.tunes import tunes
from core.catalogue.words import Equipment, Growth
from core.errors import PlanError
from core.fitting.back_pressure import back_pressure
from core.fitting.baseline_arithmetic import phonation_quotient_ml_per_s
from core.fitting.fitted import Fitted, StepSpec, fitter, inner_range, number, reachable_s
from core.fitting.known import Fitting, TrialOutcome
from core.notes.note import Note
from core.notes.scale import DEGREES
from core.program import limits
from core.program.lengths import length_words
from core.program.rungs import floored
from core.program.step import Grade, Tube
from core.program.targets import (
    Blow,
    Counted,
    GlidePath,
    Holds,
    HoldTarget,
    Pattern,
    StepTarget,
    Timed,
)
from core.reason import Reason, says
from core.reference.values import (
    AIRFLOW_ASSUMED,
    CAUTIOUS_OUT,
    DEEP_WATER,
    DEPTH_AT_HOME_INSUFFICIENCY,
    DEPTH_AT_HOME_TENSION,
)

INSIDE = says("inside_comfort", "{start} to {end}, inside the comfortable range; {why}")
ASSUMED = says("assumed", "assumed")
_FORM_LEFT_OUT = says(
    "form_left_out", "{task}: “{form}” is left out, the range is too small for it."
)
_AIR_LEFT_OUT = says(
    "air_left_out",
    "{task}: “air only” is left out, since the longest /s/ of {seconds:g} s is too short for it.",
)
_STARTS_WITH_NOTE = says("starts_with_note", "{task} starts with a note: it was better when tried.")
_NEXT_FORM = says("next_form", "the next form when 80 % of attempts run without a cut-out")
_COMFORTABLE = says("comfortable_note", "{note}, a comfortable note; {why}")
_AIR = says("air_to_find_the_stream", "air only, to find the stream")
_TUNE = says("tune_inside", "a short tune, from {start} to {end}, inside {lowest}–{highest}")
_PHRASE = says("phrase_through_it", "through it, then the same phrase open")
_SCALE = says("scale_inside", "from {start} to {end}, inside {lowest}–{highest}")
_IN_AIR = says("tube_in_air", "in air")
_DEEP = says(
    "tube_deep",
    "insufficiency: deeper, under supervision, {depth} deep, at home no deeper than "
    "{deepest_cm:g} cm",
)
_SHALLOW = says(
    "tube_shallow", "tension: shallow, {depth} deep, at home no deeper than {deepest_cm:g} cm"
)
_RESISTS = says("tube_resists", "{why}; resists {cmh2o:.1f} cmH₂O at {flow_ml_s:.0f} mL/s ({flow})")
_RESISTS_ROUGHLY = says(
    "tube_resists_roughly",
    "{why}; resists {cmh2o:.1f} cmH₂O at {flow_ml_s:.0f} mL/s ({flow}), roughly: the stream is not "
    "laminar",
)
_OWN_QUOTIENT = says("own_quotient", "the client's own phonation quotient")

FIVE_NOTES = (1, 2, 3, 4, 5, 4, 3, 2, 1)
OCTAVE_AND_NINTH = (1, 2, 3, 4, 5, 6, 7, 8, 9, 8, 7, 6, 5, 4, 3, 2, 1)
_SCALE_BPM = {FIVE_NOTES: 100.0, OCTAVE_AND_NINTH: 140.0}
_TUNE_BPM = 100.0
_GLIDE_S = 7.0
_AIR_IN_WATER_S, _AIR_IN_AIR_S = 5.0, 15.0
_LEFT_OUT = ("form_does_not_fit", "glide_without_span", "air_too_short")


@fitter
def forms(fitting: Fitting, task: Task, spec: StepSpec) -> Fitted:
    """The first form a school starts with, and all that follow and fit the range.

    params: `start` (the code of a form), `purpose` ("tension" or "insufficiency"),
    `depth` in cm for tasks in water.
    """
    wanted_s = number(spec, "seconds", task.setting("seconds").default)
    seconds, why = reachable_s(fitting, wanted_s)
    note = _comfortable(fitting)
    found: list[tuple[Rung, StepTarget]] = []
    for rung in task.rungs:
        try:
            found.append(
                (rung, _form(SemiOccludedForm(rung.code), fitting, task, note, seconds, why))
            )
        except PlanError as error:
            if error.code not in _LEFT_OUT:
                raise
            fitting.reason(_left_out(error, task, rung))
    start = str(spec.params.get("start", task.rungs[0].code))
    if start == SemiOccludedForm.AIR and fitting.tried.get(task.key) is TrialOutcome.BETTER:
        start = SemiOccludedForm.NOTE
        fitting.reason(_STARTS_WITH_NOTE(task=task.name))
    codes = [rung.code for rung, _target in found]
    first = codes.index(start) if start in codes else 0
    usable = found[first:]
    grade = Grade(
        key=task.key,
        growth=Growth.FORM,
        rungs=tuple(float(place) for place in range(len(usable))),
        codes=tuple(rung.code for rung, _target in usable),
        words=tuple(rung.words for rung, _target in usable),
        targets=tuple(target for _rung, target in usable),
        because=_NEXT_FORM(),
    )
    target = usable[0][1]
    return Fitted(
        target=target,
        kind=done_as(task.kind, target.form),
        grade=grade,
        tube=_tube(fitting, task, spec),
    )


def _left_out(error: PlanError, task: Task, rung: Rung) -> Reason:
    if error.code == "air_too_short":
        return _AIR_LEFT_OUT(task=task.name, seconds=error.params["seconds"])
    return _FORM_LEFT_OUT(task=task.name, form=rung.words)


def _air_s(fitting: Fitting, most_s: float) -> float:
    """Seconds of air alone: at most `most_s` and 80 % of the longest /s/; 4 s where no /s/ is known. More could
    make the client light-headed."""
    best = fitting.baseline.best_s_s
    return CAUTIOUS_OUT.number if best is None else min(most_s, max(floored(0.8 * best), 0.5))


def _air(fitting: Fitting, task: Task) -> StepTarget:
    """PlanError("air_too_short") where the client's air does not last for the shortest time that is counted."""
    if task.kind == "bubbles":
        return Blow(seconds=_air_s(fitting, _AIR_IN_WATER_S), because=_AIR())
    seconds = _air_s(fitting, _AIR_IN_AIR_S)
    if seconds < limits.TIMED_S.low:
        raise PlanError("air_too_short", seconds=fitting.baseline.best_s_s)
    return Timed(seconds_a_side=seconds, air=True, because=_AIR())


def _comfortable(fitting: Fitting) -> Note:
    """A note to hold easily: the speaking note, inside the margins."""
    low, high = inner_range(fitting)
    return min(max(fitting.speaking_note(), low), high)


_GLIDES: Mapping[SemiOccludedForm, Callable[[Note, Note], dict[str, Any]]] = {
    SemiOccludedForm.UP: lambda low, high: {"start": low, "end": high},
    SemiOccludedForm.DOWN: lambda low, high: {"start": high, "end": low},
    SemiOccludedForm.UP_AND_DOWN: lambda low, high: {"start": low, "end": high, "back": True},
    SemiOccludedForm.THREE_RISES: lambda low, high: {"start": low, "end": high, "times": 3},
}


def _form(
    form: SemiOccludedForm, fitting: Fitting, task: Task, note: Note, seconds: float, why: Reason
) -> StepTarget:
    if form is SemiOccludedForm.AIR:
        return _air(fitting, task)
    if form in (SemiOccludedForm.NOTE, SemiOccludedForm.SWELL):
        because = _COMFORTABLE(note=note.name, why=why)
        held = HoldTarget(note=note, seconds=seconds, because=because)
        return Holds(holds=(held,), swell=form is SemiOccludedForm.SWELL)
    low, high = inner_range(fitting)
    if form in _GLIDES:
        glide_s, glide_why = reachable_s(fitting, _GLIDE_S)
        within = INSIDE(start=low.name, end=high.name, why=glide_why)
        return GlidePath(seconds=glide_s, because=within, **_GLIDES[form](low, high))
    if form is SemiOccludedForm.FIVE_NOTES:
        return _scale(FIVE_NOTES, low, high, note)
    if form is SemiOccludedForm.OCTAVE_AND_NINTH:
        return _scale(OCTAVE_AND_NINTH, low, high, note)
    if form is SemiOccludedForm.TUNE:
        return _tune(low, high, note)
    return Counted(count=5, unit="phrases", seconds_each=8, because=_PHRASE())


def _scale(degrees: tuple[int, ...], low: Note, high: Note, note: Note) -> Pattern:
    span = max(DEGREES[degree] for degree in degrees)
    if high.number - low.number < span:
        raise PlanError("form_does_not_fit", span=span)
    key = Note(min(max(note.number, low.number), high.number - span))
    return Pattern(
        degrees=degrees,
        keys=(key,),
        tempo_bpm=_SCALE_BPM[degrees],
        because=_SCALE(start=key.name, end=key.up(span).name, lowest=low.name, highest=high.name),
    )


def _tune(low: Note, high: Note, note: Note) -> Pattern:
    """The widest tune that fits, near the comfortable note, then two semitones higher, or lower where
    there is no room."""
    fits = [tune for tune in tunes() if tune.span <= high.number - low.number]
    if not fits:
        raise PlanError("form_does_not_fit", span=tunes()[0].span)
    tune = fits[-1]
    last = high.number - tune.span
    first = min(max(note.number, low.number), last)
    second = first + 2 if first + 2 <= last else first - 2
    keys = tuple(Note(key) for key in (first, second) if key >= low.number)
    return Pattern(
        degrees=tune.degrees,
        keys=keys,
        tempo_bpm=_TUNE_BPM,
        tune=tune.name,
        because=_TUNE(
            start=min(keys).name,
            end=max(keys).up(tune.span).name,
            lowest=low.name,
            highest=high.name,
        ),
    )


def _tube(fitting: Fitting, task: Task, spec: StepSpec) -> Tube | None:
    names = {setting.name for setting in task.settings}
    if "bore" not in names:
        return None
    flow, flow_from = _airflow(fitting)
    bore, length = task.setting("bore").default, task.setting("length").default
    depth, deepest, why = 0.0, 0.0, _IN_AIR()
    if Equipment.GLASS_OF_WATER in task.equipment:
        insufficient = spec.params.get("purpose") == "insufficiency"
        home = DEPTH_AT_HOME_INSUFFICIENCY if insufficient else DEPTH_AT_HOME_TENSION
        deepest = min(home.number, task.setting("depth").high)
        if Touch.DEEP_WATER in fitting.forbidden:
            deepest = min(deepest, DEEP_WATER.number - 0.5)
        depth = min(number(spec, "depth", 1.0), deepest)
        deep = _DEEP if insufficient else _SHALLOW
        why = deep(depth=length_words(depth), deepest_cm=deepest)
    found = back_pressure(bore_mm=bore, length_cm=length, depth_cm=depth, flow_ml_s=flow)
    resists = _RESISTS if found.laminar else _RESISTS_ROUGHLY
    return Tube(
        bore_mm=bore,
        length_cm=length,
        depth_cm=depth,
        deepest_cm=deepest,
        flow_ml_s=round(flow),
        back_pressure_cmh2o=round(found.total, 1),
        because=resists(why=why, cmh2o=found.total, flow_ml_s=flow, flow=flow_from),
    )


def _airflow(fitting: Fitting) -> tuple[float, Reason]:
    known = fitting.baseline
    if known.capacity and known.best_phonation_s:
        quotient = phonation_quotient_ml_per_s(known.capacity.ml, known.best_phonation_s)
        return min(max(quotient, 20.0), 1000.0), _OWN_QUOTIENT()
    return AIRFLOW_ASSUMED.number, ASSUMED()
