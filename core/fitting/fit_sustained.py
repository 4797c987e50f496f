"""The sustained-note ladder: warm-up hold, stretch glide, contract glide, power notes."""

from core.catalogue.tasks import Task
from core.catalogue.words import Growth
from core.errors import PlanError
from core.fitting.fitted import Fitted, StepSpec, fitter, measured_top, reachable_s
from core.fitting.hold_goals import Goal, hold_goal
from core.fitting.known import MEASURE_SPEAKING, Fitting
from core.fitting.pitches import PitchSchool, PitchSet, fit_pitches
from core.notes.note import Note
from core.program.program import SUSTAINED
from core.program.rung_words import number_grade
from core.program.step import Grade
from core.program.targets import GlidePath, Holds, HoldTarget
from core.reason import says
from core.reference.values import GLIDE_SECONDS

_NOTES = says("notes_held", "{notes}: {why}.")
_GOAL = says("hold_goal", "Hold goal: {why}.")
_FROM_PROBES = says("first_from_probes", "first rung from the probes {probes_s:list} s")
_FROM_STAND_IN = says("first_from_stand_in", "first rung from what stands for the probes")
_HELD_FOR = says("held_for", "{notes}; {seconds:g} s: {first}")
_WHOLE_RANGE = says("whole_range", "the whole comfortable range, {start} to {end}; {why}")


@fitter
def ladder_warm_up(fitting: Fitting, _task: Task, _spec: StepSpec) -> Fitted:
    pitches = _pitches(fitting)
    return _held(fitting, pitches, (pitches.warm_up,))


@fitter
def ladder_power(fitting: Fitting, _task: Task, _spec: StepSpec) -> Fitted:
    pitches = _pitches(fitting)
    return _held(fitting, pitches, pitches.notes)


@fitter
def ladder_up(fitting: Fitting, _task: Task, _spec: StepSpec) -> Fitted:
    comfort = fitting.comfort
    return Fitted(target=_glide(fitting, comfort.lowest, measured_top(comfort.highest)))


@fitter
def ladder_down(fitting: Fitting, _task: Task, _spec: StepSpec) -> Fitted:
    comfort = fitting.comfort
    return Fitted(target=_glide(fitting, measured_top(comfort.highest), comfort.lowest))


def _pitches(fitting: Fitting) -> PitchSet:
    school = PitchSchool(fitting.options.get("pitches", PitchSchool.SHIFTED))
    try:
        pitches = fit_pitches(fitting.comfort, fitting.baseline.voice_group, school)
    except PlanError as error:
        if error.code == "speaking_missing":
            fitting.ask(MEASURE_SPEAKING())
        raise
    fitting.notebook.margin_semitones = pitches.margin_semitones
    fitting.reason(_NOTES(notes=_names(pitches.notes), why=pitches.because))
    return pitches


def _held(fitting: Fitting, pitches: PitchSet, notes: tuple[Note, ...]) -> Fitted:
    goal = hold_goal(fitting)
    fitting.reason(_GOAL(why=goal.because))
    seconds = goal.rungs_s[0]
    probes = fitting.baseline.probes_s
    first = _FROM_PROBES(probes_s=probes) if probes else _FROM_STAND_IN()
    because = _HELD_FOR(notes=pitches.because, seconds=seconds, first=first)
    holds = tuple(HoldTarget(note=note, seconds=seconds, because=because) for note in notes)
    return Fitted(target=Holds(holds=holds), grade=_grade(fitting, goal))


def _grade(fitting: Fitting, goal: Goal) -> Grade:
    return number_grade(
        SUSTAINED,
        Growth.SECONDS,
        goal.rungs_s,
        goal=goal.seconds,
        because=goal.because,
        shown=max(fitting.baseline.probes_s, default=goal.rungs_s[0]),
    )


def _glide(fitting: Fitting, start: Note, end: Note) -> GlidePath:
    seconds, why = reachable_s(fitting, GLIDE_SECONDS.number, share=1.0)
    because = _WHOLE_RANGE(start=start.name, end=end.name, why=why)
    return GlidePath(start=start, end=end, seconds=seconds, because=because)


def _names(notes: tuple[Note, ...]) -> str:
    return " ".join(note.name for note in notes)
