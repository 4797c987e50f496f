"""What every fitter takes and gives."""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

from core.catalogue.tasks import Task
from core.catalogue.words import TOLD_IN_WORDS, Growth
from core.errors import PlanError
from core.fitting.known import FitInputs, Fitting
from core.fitting.notes import CannotFit, Notes
from core.notes.note import Note, nearest_note
from core.program.rungs import floored
from core.program.step import Grade, LevelAim, Phase, Tube
from core.program.targets import StepTarget
from core.reason import Reason, says, table_reason
from core.reference.values import BREATHLESS_SHARE, HIGHEST_PITCH

MEASURE_PHONATION = says("measure_phonation", "Measure the phonation time on “ah”.")
_WITHIN_LONGEST = says(
    "within_longest_voice", "{seconds:g} s, within the longest voice shown, {best_s:g} s"
)
_SHORT_ASSUMED = says(
    "short_voice_assumed", "{seconds:g} s of voice can be held; no phonation time is known."
)
_SHORT_FOR_WANT = says(
    "short_without_phonation", "{seconds:g} s, short because no phonation time is known"
)
_SHARE_OF_BEST = says(
    "share_of_best",
    "{seconds:g} s, not {wanted_s:g} s: {percent:.0f} % of the best phonation time {best_s:g} s",
)
USUAL = says("usual", "{amount:g} {unit}, usual for this task")
_WITHIN_BEST = says("within_best", "{seconds:g} s, within the best phonation time {best_s:g} s")


@dataclass(frozen=True, slots=True, kw_only=True)
class StepSpec:
    """One line of a school: which task, how its target is found, how often.

    essential: the school makes no sense without it. params: numbers and words of the fitter.
    """

    task: str
    fit: str
    phase: Phase
    repetitions: int
    rest_s: float
    essential: bool
    because: Reason
    when: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    params: Mapping[str, Any] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class Fitted:
    """A target fitted to a client, with its grade, level, tube and notes. kind None = the task's own."""

    target: StepTarget
    kind: str | None = None
    grade: Grade | None = None
    level: LevelAim | None = None
    tube: Tube | None = None
    notes: Notes = field(default_factory=Notes)


Fitter = Callable[[FitInputs, Task, StepSpec], Fitted]
"""Fits the task of one line of a school to a client. Raises CannotFit if that is impossible."""
FitFunction = Callable[[Fitting, Task, StepSpec], Fitted]
_REGISTERED: dict[str, Fitter] = {}


def fitter(function: FitFunction) -> FitFunction:
    """Register a function as a fitter. Schools refer to it by its name."""

    def fit(inputs: FitInputs, task: Task, spec: StepSpec) -> Fitted:
        fitting = Fitting.of(inputs)
        try:
            found = function(fitting, task, spec)
        except PlanError as error:
            raise CannotFit(error, fitting.notes.asked) from error
        return replace(found, notes=fitting.notes)

    _REGISTERED[function.__name__] = fit
    return function


def registered() -> Mapping[str, Fitter]:
    """Fitters of all loaded modules; `core.fitting.fitters` loads every module."""
    return _REGISTERED


def reachable_s(fitting: Fitting, wanted_s: float, *, share: float = 0.8) -> tuple[float, Reason]:
    """Seconds of voice that lie within reach, and why: what is wanted, at most a share of the best
    phonation time, on the grid of 0.5 s."""
    best = fitting.baseline.best_phonation_s
    if fitting.breathless:
        share = min(share, BREATHLESS_SHARE.number)
    if best is None and fitting.baseline.shown_voice_s is not None:
        fitting.ask(MEASURE_PHONATION())
        best = fitting.baseline.shown_voice_s
        within = max(floored(share * best), 0.5)
        why = _WITHIN_LONGEST(seconds=min(within, wanted_s), best_s=best)
        return min(within, wanted_s, best), why
    if best is None:
        fitting.ask(MEASURE_PHONATION())
        seconds = min(wanted_s, 3.0)
        fitting.assume(_SHORT_ASSUMED(seconds=seconds))
        return seconds, _SHORT_FOR_WANT(seconds=seconds)
    within = max(floored(share * best), 0.5)
    if within < wanted_s:
        why = _SHARE_OF_BEST(seconds=within, wanted_s=wanted_s, percent=100 * share, best_s=best)
        return min(within, best), why
    return wanted_s, _WITHIN_BEST(seconds=wanted_s, best_s=best)


def purpose_of(task: Task) -> Reason:
    """What the task is for, as its file says it."""
    return table_reason("purpose", task.purpose, task=task.key)


def inner_range(fitting: Fitting) -> tuple[Note, Note]:
    """The comfortable range less a margin of 2 semitones, or 1, at each end; whole where it is
    too small for a margin."""
    comfort = fitting.comfort
    margin = 2 if comfort.semitones >= 8 else 1 if comfort.semitones >= 5 else 0
    return comfort.lowest.up(margin), min(
        comfort.highest.up(-margin), measured_top(comfort.highest)
    )


def measured_top(highest: Note) -> Note:
    """The highest note that is asked for: the highest comfortable one, as far as it is measured."""
    return highest if highest.measurable else nearest_note(HIGHEST_PITCH.number)[0]


def cue_grade(fitting: Fitting, task: Task, *, because: Reason) -> Grade | None:
    """Rungs that are only told in words: fading cues, places, widths; without those that touch what
    is forbidden. PlanError("no_rung_left") where none is left."""
    if task.grows not in TOLD_IN_WORDS:
        return None
    left = [
        (place, rung)
        for place, rung in enumerate(task.rungs)
        if not task.touched_by(rung.code) & fitting.forbidden
    ]
    if not left:
        raise PlanError("no_rung_left")
    return Grade(
        key=task.key,
        growth=task.grows,
        rungs=tuple(float(place) for place, _rung in left),
        codes=tuple(rung.code for _place, rung in left),
        words=tuple(rung.words for _place, rung in left),
        because=because,
    )


def semitone_grade(
    key: str,
    notes: Sequence[int],
    *,
    words: Iterable[str],
    targets: tuple[StepTarget, ...],
    because: Reason,
) -> Grade:
    """Rungs from note to note, by their numbers, a whole target each; the last is the goal."""
    return Grade(
        key=key,
        growth=Growth.SEMITONES,
        rungs=tuple(float(note) for note in notes),
        words=tuple(words),
        targets=targets,
        goal=float(notes[-1]),
        because=because,
    )


def number(spec: StepSpec, name: str, default: float) -> float:
    """A number of a school's line; PlanError("school_broken") if it is none."""
    came = spec.params.get(name, default)
    if not isinstance(came, int | float):
        raise PlanError("school_broken", task=spec.task, reason=f"{name} is no number")
    return float(came)
