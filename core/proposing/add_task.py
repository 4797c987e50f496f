"""One more task for a client: which can be added, the rest with its reason, fitted like a proposal."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cache

from core.catalogue.doing import ADVICE
from core.catalogue.tasks import Task
from core.editing.step_order import with_added
from core.errors import PlanError
from core.fitting.fitted import StepSpec, purpose_of
from core.fitting.notes import Notes
from core.fitting.schools import School, school_of, schools
from core.program.program import Advice, Chosen, Program
from core.program.step import Phase, Step
from core.proposing.advice import advice_for
from core.proposing.choose import Chooser, FittedTask, NotFitted, fit_for, step_of
from core.proposing.request import PlanRequest, conditions_of
from core.reason import Reason, says

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
Line = tuple[School | None, StepSpec]


@dataclass(frozen=True, slots=True)
class Adder:
    """Fits single tasks to one client."""

    chooser: Chooser

    @classmethod
    def of(cls, request: PlanRequest, tasks: Mapping[str, Task]) -> "Adder":
        return cls(Chooser(request, tasks, conditions_of(request)))

    def fitted(
        self, school: School | None, spec: StepSpec, chosen: Sequence[Chosen]
    ) -> FittedTask | NotFitted:
        """Like `Chooser.fitted`, with the options chosen for the line's school."""
        inputs = self.chooser.inputs(_options(school, chosen))
        return self.chooser.fitted(spec, inputs, frozenset())

    def advice(self, chosen: Sequence[Chosen]) -> tuple[Advice, ...]:
        """Care of the voice as a proposal of these schools would give it."""
        return advice_for(self.chooser, [school_of(one.school) for one in chosen])


@dataclass(frozen=True, slots=True)
class OnShelf:
    """A task of the catalogue and, where it cannot be added for this client, why."""

    task: Task
    against: Reason | None = field(default=None)


def shelf(request: PlanRequest, tasks: Mapping[str, Task]) -> tuple[OnShelf, ...]:
    """Every task that can be a step, those this client cannot do with the reason; hidden ones are left out."""
    adder = Adder.of(request, tasks)
    return tuple(
        OnShelf(task, _against(adder, task))
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
    adder = Adder.of(request, tasks)
    step, notes = _step(adder, task_key, program.schools, step_id)
    return replace(
        with_added(program, step, routine_key),
        asked=tuple(dict.fromkeys((*program.asked, *notes.asked))),
        assumed=tuple(dict.fromkeys((*program.assumed, *notes.assumed))),
    )


def fitted_step(request: PlanRequest, tasks: Mapping[str, Task], task_key: str) -> Step:
    """The step that a task would be for this client, to try it; PlanError("task_not_for_client")."""
    return _step(Adder.of(request, tasks), task_key, (), "tried")[0]


def _step(adder: Adder, key: str, chosen: Sequence[Chosen], step_id: str) -> tuple[Step, Notes]:
    found = _alone(adder, key, chosen)
    if isinstance(found, Reason):
        known = adder.chooser.tasks.get(key)
        raise PlanError("task_not_for_client", task=known.name if known else key, why=str(found))
    spec, fit, notes = found
    because = _ADDED(why=purpose_of(fit.task))
    return step_of(fit.task, fit.fitted, spec, step_id=step_id, because=because), notes


def lines_for(key: str, task: Task | None) -> tuple[Line, ...]:
    """The lines of schools that have a task; where none has it, the line of a substitute; none for no task."""
    return _lines_of(key) or (((None, _own_line(task)),) if task else ())


def _against(adder: Adder, task: Task) -> Reason | None:
    found = _alone(adder, task.key, ())
    return found if isinstance(found, Reason) else None


def _alone(
    adder: Adder, key: str, chosen: Sequence[Chosen]
) -> tuple[StepSpec, FittedTask, Notes] | Reason:
    """The line a task is fitted by, its target, no other in its place, and what was found out on the way; the
    first reason against it."""
    first, notes = adder.chooser.cannot_do(key), Notes()
    if first is not None:
        return first
    for school, spec in lines_for(key, adder.chooser.tasks.get(key)):
        alone = replace(spec, params={**spec.params, "alone": True})
        found = adder.fitted(school, alone, chosen)
        notes += found.notes
        if isinstance(found, FittedTask):
            return spec, found, notes
        first = first or found.why
    assert first is not None  # a task that is known has a line
    return first


def _options(school: School | None, chosen: Sequence[Chosen]) -> Mapping[str, str]:
    if school is None:
        return {}
    own = next((one.options for one in chosen if one.school == school.key), {})
    return school.chosen(own)


@cache
def _lines_of(key: str) -> tuple[Line, ...]:
    return tuple(_each_line(key))


def _each_line(key: str) -> Iterator[Line]:
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
