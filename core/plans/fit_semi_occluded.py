"""Semi-occluded tasks: the forms from easy to hard, the tube, its depth and back pressure."""

from core.catalogue.doing import done_as
from core.catalogue.tasks import Task
from core.catalogue.touches import Touch
from core.catalogue.words import Equipment, Growth
from core.errors import PlanError
from core.notes.note import Note
from core.plans.back_pressure import back_pressure
from core.plans.figures import phonation_quotient_ml_per_s
from core.plans.fitted import AIR_ONLY, Fitted, StepSpec, inner_range, number, reachable_s
from core.plans.known import Fitting, Tried
from core.plans.lengths import length_words
from core.plans.step import Grade, Tube
from core.plans.targets import (
    DEGREES,
    Blow,
    Counted,
    GlidePath,
    Holds,
    HoldTarget,
    Pattern,
    Target,
    Timed,
)
from core.reference.values import (
    AIRFLOW_ASSUMED,
    DEEP_WATER,
    DEPTH_AT_HOME_INSUFFICIENCY,
    DEPTH_AT_HOME_TENSION,
)

FIVE_NOTES = (1, 2, 3, 4, 5, 4, 3, 2, 1)
OCTAVE_AND_NINTH = (1, 2, 3, 4, 5, 6, 7, 8, 9, 8, 7, 6, 5, 4, 3, 2, 1)
_SCALE_BPM = {FIVE_NOTES: 100.0, OCTAVE_AND_NINTH: 140.0}
_GLIDE_S = 7.0


def forms(fitting: Fitting, task: Task, spec: StepSpec) -> Fitted:
    """The first form a school starts with, and all that follow and fit the range.

    params: `start` (a rung of the task in words), `purpose` ("tension" or "insufficiency"),
    `depth` in cm for tasks in water.
    """
    wanted_s = number(spec, "seconds", task.setting("seconds").default)
    seconds, why = reachable_s(fitting, wanted_s)
    note = _comfortable(fitting)
    found: list[tuple[str, Target]] = []
    for form in task.rungs:
        try:
            found.append((form, _form(form, fitting, task, note, seconds, why)))
        except PlanError as error:
            if error.code not in ("form_does_not_fit", "glide_without_span"):
                raise
            fitting.reason(f"{task.name}: “{form}” is left out, the range is too small for it.")
    start = str(spec.params.get("start", task.rungs[0]))
    if start == AIR_ONLY and fitting.tried.get(task.key) is Tried.BETTER:
        start = "one comfortable note"
        fitting.reason(f"{task.name} starts with a note: it was better when tried.")
    names = [form for form, _target in found]
    first = names.index(start) if start in names else 0
    usable = found[first:]
    grade = Grade(
        key=task.key,
        growth=Growth.FORM,
        rungs=tuple(float(place) for place in range(len(usable))),
        words=tuple(form for form, _target in usable),
        targets=tuple(target for _form, target in usable),
        because="the next form when 80 % of attempts run without a cut-out",
    )
    target = usable[0][1]
    return Fitted(
        target=target,
        kind=done_as(task.kind, target.form),
        grade=grade,
        tube=_tube(fitting, task, spec),
        cue=usable[0][0],
    )


def _comfortable(fitting: Fitting) -> Note:
    """A note to hold easily: the speaking note, inside the margins."""
    low, high = inner_range(fitting)
    return min(max(fitting.speaking_note(), low), high)


def _form(form: str, fitting: Fitting, task: Task, note: Note, seconds: float, why: str) -> Target:
    low, high = inner_range(fitting)
    held = HoldTarget(note=note, seconds=seconds, because=f"{note}, a comfortable note; {why}")
    glide_s, glide_why = reachable_s(fitting, _GLIDE_S)
    within = f"{low} to {high}, inside the comfortable range; {glide_why}"
    if form == AIR_ONLY:
        if task.kind == "bubbles":
            return Blow(seconds=5.0, because="air only, to find the stream")
        return Timed(seconds_a_side=15.0, air=True, because="air only, to find the stream")
    if form == "one comfortable note":
        return Holds(holds=(held,))
    if form == "swell":
        return Holds(holds=(held,), swell=True)
    if form == "glide up":
        return GlidePath(start=low, end=high, seconds=glide_s, because=within)
    if form == "glide down":
        return GlidePath(start=high, end=low, seconds=glide_s, because=within)
    if form == "up and down":
        return GlidePath(start=low, end=high, seconds=glide_s, because=within, back=True)
    if form == "three rises in one breath":
        return GlidePath(start=low, end=high, seconds=glide_s, because=within, times=3)
    if form == "five-note scale":
        return _scale(FIVE_NOTES, low, high, note)
    if form == "octave-and-a-ninth scale":
        return _scale(OCTAVE_AND_NINTH, low, high, note)
    if form == "a tune":
        return Counted(count=2, unit="tunes", seconds_each=15, because="a tune of your own")
    if form == "a phrase, then open":
        words = "through it, then the same phrase open"
        return Counted(count=5, unit="phrases", seconds_each=8, because=words)
    raise PlanError("form_unknown", form=form, task=task.key)


def _scale(degrees: tuple[int, ...], low: Note, high: Note, note: Note) -> Pattern:
    span = max(DEGREES[degree] for degree in degrees)
    if high.number - low.number < span:
        raise PlanError("form_does_not_fit", span=span)
    key = Note(min(max(note.number, low.number), high.number - span))
    return Pattern(
        degrees=degrees,
        keys=(key,),
        tempo_bpm=_SCALE_BPM[degrees],
        because=f"from {key} to {key.up(span)}, inside {low}–{high}",
    )


def _tube(fitting: Fitting, task: Task, spec: StepSpec) -> Tube | None:
    names = {setting.name for setting in task.settings}
    if "bore" not in names:
        return None
    flow, flow_words = _airflow(fitting)
    bore, length = task.setting("bore").default, task.setting("length").default
    depth, deepest, why = 0.0, 0.0, "in air"
    if Equipment.GLASS_OF_WATER in task.equipment:
        insufficient = spec.params.get("purpose") == "insufficiency"
        home = DEPTH_AT_HOME_INSUFFICIENCY if insufficient else DEPTH_AT_HOME_TENSION
        deepest = min(home.number, task.setting("depth").high)
        if Touch.DEEP_WATER in fitting.forbidden:
            deepest = min(deepest, DEEP_WATER.number - 0.5)
        depth = min(number(spec, "depth", 1.0), deepest)
        purpose = "insufficiency: deeper, under supervision" if insufficient else "tension: shallow"
        why = f"{purpose}, {length_words(depth)} deep, at home no deeper than {deepest:g} cm"
    found = back_pressure(bore_mm=bore, length_cm=length, depth_cm=depth, flow_ml_s=flow)
    rough = "" if found.laminar else ", roughly: the stream is not laminar"
    return Tube(
        bore_mm=bore,
        length_cm=length,
        depth_cm=depth,
        deepest_cm=deepest,
        flow_ml_s=round(flow),
        back_pressure_cmh2o=round(found.total, 1),
        because=f"{why}; resists {found.total:.1f} cmH₂O at {flow:.0f} mL/s ({flow_words}){rough}",
    )


def _airflow(fitting: Fitting) -> tuple[float, str]:
    known = fitting.baseline
    if known.capacity and known.best_phonation_s:
        quotient = phonation_quotient_ml_per_s(known.capacity.ml, known.best_phonation_s)
        return min(max(quotient, 20.0), 1000.0), "the client's own phonation quotient"
    return AIRFLOW_ASSUMED.number, "assumed"
