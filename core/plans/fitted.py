"""What every fitter takes and gives."""

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from core.catalogue.tasks import Task
from core.catalogue.words import Growth
from core.errors import PlanError
from core.notes.note import Note, nearest_note
from core.plans.known import Fitting
from core.plans.rungs import floored
from core.plans.step import Grade, LevelAim, Phase, Tube
from core.plans.targets import Target
from core.reference.values import HIGHEST_PITCH


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
    because: str
    when: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    params: Mapping[str, Any] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class Fitted:
    """A target fitted to a client, with what goes with it. kind None = the task's own."""

    target: Target
    kind: str | None = None
    grade: Grade | None = None
    level: LevelAim | None = None
    tube: Tube | None = None
    cue: str = ""


TOLD_IN_WORDS = (Growth.CUE, Growth.PLACE, Growth.WIDTH)
"""Dimensions whose rungs change what is said, not the target."""
AIR_ONLY = "air only"
"""The form of a semi-occluded task that is done without voice."""

Fitter = Callable[[Fitting, Task, StepSpec], Fitted]


def reachable_s(fitting: Fitting, wanted_s: float, *, share: float = 0.8) -> tuple[float, str]:
    """Seconds of voice that lie within reach, and why: what is wanted, at most a share of the best
    phonation time, on the grid of 0.5 s."""
    best = fitting.baseline.best_phonation_s
    if best is None and fitting.baseline.shown_voice_s is not None:
        fitting.ask("Measure the phonation time on “ah”.")
        best = fitting.baseline.shown_voice_s
        within = max(floored(share * best), 0.5)
        words = f"{min(within, wanted_s):g} s, within the longest voice shown, {best:g} s"
        return min(within, wanted_s, best), words
    if best is None:
        fitting.ask("Measure the phonation time on “ah”.")
        seconds = min(wanted_s, 3.0)
        fitting.assume(f"{seconds:g} s of voice can be held; no phonation time is known.")
        return seconds, f"{seconds:g} s, short because no phonation time is known"
    within = max(floored(share * best), 0.5)
    if within < wanted_s:
        words = f"{within:g} s, not {wanted_s:g} s: {percent(share)} of the best phonation time {best:g} s"
        return min(within, best), words
    return wanted_s, f"{wanted_s:g} s, within the best phonation time {best:g} s"


def percent(share: float) -> str:
    """A share as the pages write it: "80 %"."""
    return f"{100 * share:.0f} %"


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


def cue_grade(fitting: Fitting, task: Task, *, because: str) -> Grade | None:
    """Rungs that are only told in words: fading cues, places, widths; without those that touch what
    is forbidden. PlanError("no_rung_left") where none is left."""
    if task.grows not in TOLD_IN_WORDS:
        return None
    touched = task.rung_touches or (frozenset(),) * len(task.rungs)
    left = [place for place, own in enumerate(touched) if not own & fitting.forbidden]
    if not left:
        raise PlanError("no_rung_left")
    return Grade(
        key=task.key,
        growth=task.grows,
        rungs=tuple(float(place) for place in left),
        words=tuple(task.rungs[place] for place in left),
        because=because,
    )


def semitone_grade(
    key: str,
    notes: Sequence[int],
    *,
    words: Iterable[str],
    targets: tuple[Target, ...],
    because: str,
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
