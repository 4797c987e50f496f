"""One more task for a client: which can be added, the rest with its reason, fitted like a proposal."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from functools import cache

from core.catalogue.doing import ADVICE
from core.catalogue.tasks import Task
from core.errors import PlanError
from core.plans.arranging import with_added
from core.plans.fitted import Fitted, StepSpec, purpose_of
from core.plans.known import Fitting
from core.plans.program import Program
from core.plans.schools import School, schools
from core.plans.step import Phase
from core.proposing.choose import Chooser, fit_for, step_of
from core.proposing.request import PlanRequest
from core.reason import Reason, says
from core.safety.condition import Condition
from core.safety.conditions import known_conditions

_ADDED = says("added_by_hand", "added by hand: {why}")
_PHASE_OF = {
    "A": Phase.RELEASE,
    "B": Phase.BREATH,
    "C": Phase.SEMI_OCCLUDED,
    "D": Phase.VOICE,
    "E": Phase.VOICE,
    "F": Phase.RESONANCE,
    "G": Phase.RANGE,
    "H": Phase.ARTICULATION,
    "I": Phase.CARRY_OVER,
    "J": Phase.COOL_DOWN,
    "K": Phase.RANGE,
}
_REST_S = 10.0
_REPETITIONS = 2


@dataclass(frozen=True, slots=True)
class OnShelf:
    """A task of the catalogue and, where it cannot be added for this client, why."""

    task: Task
    against: Reason | None


def shelf(request: PlanRequest, tasks: Mapping[str, Task]) -> tuple[OnShelf, ...]:
    """Every task that can be a step, those this client cannot do with the reason; hidden ones are left out."""
    chooser, fitting = _chooser(request, tasks)
    return tuple(
        OnShelf(task, _against(chooser, fitting, task))
        for task in tasks.values()
        if task.kind != ADVICE and task.key not in request.hidden
    )


def added(
    program: Program,
    request: PlanRequest,
    tasks: Mapping[str, Task],
    *,
    task_key: str,
    routine_key: str,
    step_id: str,
) -> Program:
    """The program with that task, fitted to the client, in a routine, where its phase belongs.

    It is fitted as the first school that has it does, with what was chosen in that school; of no school's,
    as a substitute would be. PlanError("task_not_for_client") with the reason, ("routine_unknown"),
    ("too_many_steps").
    """
    chooser, fitting = _chooser(request, tasks)
    task = tasks.get(task_key)
    found = _fitted(chooser, fitting, task, program) if task else None
    if task is None or found is None or isinstance(found, Reason):
        why = found if isinstance(found, Reason) else chooser.cannot_do(task_key)
        raise PlanError("task_not_for_client", task=task.name if task else task_key, why=str(why))
    spec, fit, said = found
    step = step_of(task, fit, spec, step_id=step_id, because=_ADDED(why=purpose_of(task)))
    return replace(
        with_added(program, step, routine_key),
        asked=tuple(dict.fromkeys((*program.asked, *said.asked))),
        assumed=tuple(dict.fromkeys((*program.assumed, *said.assumed))),
    )


def _chooser(request: PlanRequest, tasks: Mapping[str, Task]) -> tuple[Chooser, Fitting]:
    screening = request.screening
    known = known_conditions(screening, request.today) if screening else frozenset[Condition]()
    if request.baseline.minor:
        known |= {Condition.MINOR}
    chooser = Chooser(request, tasks, known)
    fitting = Fitting(
        forbidden=chooser.forbidden,
        baseline=request.baseline,
        limits=request.limits,
        tried=request.tried,
        a4_hz=request.a4_hz,
    )
    return chooser, fitting


def _against(chooser: Chooser, fitting: Fitting, task: Task) -> Reason | None:
    found = _fitted(chooser, fitting, task, None)
    return found if isinstance(found, Reason) else None


def _fitted(
    chooser: Chooser, fitting: Fitting, task: Task, program: Program | None
) -> tuple[StepSpec, Fitted, Fitting] | Reason:
    """The line it is fitted by, its target, what is asked and assumed for it; the first reason against it
    where no line fits."""
    first: Reason | None = None
    for school, spec in _lines_of(task.key) or ((None, _own_line(task)),):
        alone = replace(spec, params={**spec.params, "alone": True})
        options = _options(school, program)
        own = replace(fitting, options=options, asked=[], assumed=[], reasons=[])
        found = chooser.fitted(alone, own, frozenset())
        if not isinstance(found, Reason):
            return spec, found[1], own
        first = first or found
    assert first is not None  # there is always a line
    return first


def _options(school: School | None, program: Program | None) -> Mapping[str, str]:
    if school is None:
        return {}
    chosen = program.schools if program else ()
    own = next((one.options for one in chosen if one.school == school.key), {})
    return school.chosen(own)


@cache
def _lines_of(key: str) -> tuple[tuple[School, StepSpec], ...]:
    return tuple(_each_line(key))


def _each_line(key: str) -> Iterator[tuple[School, StepSpec]]:
    for school in schools().values():
        usual = school.chosen({})
        yield from ((school, spec) for spec in school.specs(usual) if spec.task == key)


def _own_line(task: Task) -> StepSpec:
    """The line of a task that no school sets."""
    return StepSpec(
        task=task.key,
        fit=fit_for(task),
        phase=_PHASE_OF[task.family],
        repetitions=_REPETITIONS,
        rest_s=_REST_S,
        essential=False,
        because=purpose_of(task),
    )
