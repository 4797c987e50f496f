"""What a program is made of, without any client: to be fitted anew to another, or kept as a clinic's template."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from typing import Annotated, Any

from pydantic import Field, TypeAdapter, ValidationError

from core.catalogue.tasks import Task
from core.errors import PlanError
from core.fitting.notes import Notes
from core.fitting.schools import schools
from core.program import limits
from core.program.dosing import Dose
from core.program.presentation import Presentation
from core.program.program import Chosen, Program
from core.program.routine import Routine, RoutineKind
from core.program.step import Step
from core.program.targets import Strict
from core.proposing.add_task import Adder, lines_for
from core.proposing.choose import NotFitted, step_of
from core.proposing.request import PlanRequest
from core.reason import Reason, says

FORMAT = 1
_LEFT_OUT = says("left_out", "{task}: {why}")
_REFITTED = says(
    "refitted", "fitted anew to this client, as it stood in the program it is taken from"
)
_NOTHING = says("nothing_of_it", "this client can do none of its tasks")


@dataclass(frozen=True, slots=True, kw_only=True)
class OutlinedStep(Strict):
    """A task, how often, and how it is shown at home; nothing that was fitted to somebody."""

    task: Annotated[str, Field(max_length=60)]
    repetitions: Annotated[int, limits.REPETITIONS.field]
    rest_s: Annotated[float, limits.REST_S.field]
    presented: Presentation = field(default_factory=Presentation)


@dataclass(frozen=True, slots=True, kw_only=True)
class OutlinedRoutine(Strict):
    """A routine's steps and its dose, without dates and times of day."""

    key: str
    kind: RoutineKind
    steps: tuple[OutlinedStep, ...]
    short_day: OutlinedStep | None = None
    dose: Dose


@dataclass(frozen=True, slots=True, kw_only=True)
class Outline(Strict):
    """The schools with what was chosen in them, and the routines."""

    schools: tuple[Chosen, ...]
    routines: Annotated[tuple[OutlinedRoutine, ...], Field(min_length=1, max_length=8)]


_OUTLINE = TypeAdapter(Outline)
_OF_ONE_CLIENT = frozenset({"goal_s", "target", "minutes"})
"""Options of schools that were typed for one client."""


def outline_of(program: Program) -> Outline:
    """The outline of a program; what was fitted, typed or written for its client stays behind."""
    return Outline(
        schools=tuple(replace(one, options=_kept(one.options)) for one in program.schools),
        routines=tuple(
            OutlinedRoutine(
                key=one.key,
                kind=one.kind,
                steps=tuple(map(_outlined, one.steps)),
                short_day=_outlined(one.short_day) if one.short_day else None,
                dose=_undated(one.dose),
            )
            for one in program.routines
        ),
    )


def outline_data(outline: Outline) -> dict[str, Any]:
    """Plain JSON data; `read_outline` gives the equal outline back."""
    return {"format": FORMAT, **_OUTLINE.dump_python(outline, mode="json")}


def read_outline(data: Mapping[str, Any]) -> Outline:
    """PlanError("format_unknown"), ("program_unreadable")."""
    if not isinstance(data, Mapping) or data.get("format") != FORMAT:
        came = data.get("format") if isinstance(data, Mapping) else None
        raise PlanError("format_unknown", came=came, expected=FORMAT)
    try:
        return _OUTLINE.validate_python({k: v for k, v in data.items() if k != "format"})
    except ValidationError as error:
        first = error.errors(include_url=False)[0]
        reason = f"{'.'.join(map(str, first['loc']))}: {first['msg']}"
        raise PlanError("program_unreadable", reason=reason) from error


def refitted(
    outline: Outline,
    wanted: PlanRequest,
    tasks: Mapping[str, Task],
    *,
    new_step_id: Callable[[], str],
) -> Program:
    """A program of that outline, every task fitted to the client of the request, or one of equal purpose in its
    place, or left out with the reason. PlanError("nothing_fits") where nothing of it can be done."""
    known = tuple(one for one in outline.schools if one.school in schools())
    adder = Adder.of(wanted, tasks)
    left_out: list[Reason] = []
    notes, routines = Notes(), []

    def fit(own: OutlinedStep) -> Step | None:
        nonlocal notes
        step, why, found_out = _fitted(own, adder, known, new_step_id)
        notes += found_out
        left_out.extend([why] if why else [])
        return step

    for one in outline.routines:
        kept = tuple(step for each in one.steps if (step := fit(each)) is not None)
        if not kept:
            continue
        short = one.short_day and fit(one.short_day)
        routines.append(
            Routine(
                key=one.key,
                kind=one.kind,
                steps=kept,
                short_day=short or None,
                dose=replace(one.dose, short_day_min=one.dose.short_day_min if short else None),
            )
        )
    if not routines:
        raise PlanError("nothing_fits", why=str(left_out[0] if left_out else _NOTHING()))
    return Program(
        schools=known,
        comfort=wanted.baseline.comfort,
        a4_hz=wanted.a4_hz,
        margin_semitones=notes.margin_semitones,
        reasons=(_REFITTED(), *notes.reasons),
        left_out=tuple(dict.fromkeys(left_out)),
        assumed=notes.assumed,
        asked=notes.asked,
        advice=adder.advice(known),
        routines=tuple(routines),
        shown_s=wanted.baseline.shown_voice_s,
        shown_air_s=wanted.baseline.best_s_s,
    )


def _fitted(
    own: OutlinedStep,
    adder: Adder,
    chosen: tuple[Chosen, ...],
    new_step_id: Callable[[], str],
) -> tuple[Step | None, Reason | None, Notes]:
    """The step, or None if it is left out, with the notes that say why."""
    first, notes = None, Notes()
    task = adder.chooser.tasks.get(own.task)
    for school, spec in lines_for(own.task, task):
        found = adder.fitted(school, spec, chosen)
        notes += found.notes
        if isinstance(found, NotFitted):
            first = first or found.why
            continue
        step = step_of(found.task, found.fitted, spec, step_id=new_step_id(), because=found.because)
        as_outlined = replace(
            step, repetitions=own.repetitions, rest_s=own.rest_s, presented=own.presented
        )
        return as_outlined, None, notes
    why = first or adder.chooser.cannot_do(own.task) or _NOTHING()
    return None, _LEFT_OUT(task=task.name if task else own.task, why=why), notes


def _kept(options: Mapping[str, str]) -> dict[str, str]:
    """Without what was typed; where a goal was typed, the school's own default stands again."""
    kept = {key: value for key, value in options.items() if key not in _OF_ONE_CLIENT}
    return {key: value for key, value in kept.items() if value != "typed"}


def _outlined(step: Step) -> OutlinedStep:
    return OutlinedStep(
        task=step.task,
        repetitions=step.repetitions,
        rest_s=step.rest_s,
        presented=replace(step.presented, cue=""),
    )


def _undated(dose: Dose) -> Dose:
    return replace(
        dose,
        starts_on=None,
        weekdays=(),
        visit_weekdays=(),
        times=(),
        work_from=None,
        work_to=None,
        away=(),
    )
