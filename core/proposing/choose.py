"""Which tasks this client can do: the school's own, else an equal-purpose substitute, else none."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from core.catalogue.doing import fitter_of
from core.catalogue.tasks import Task
from core.catalogue.touches import Touch
from core.catalogue.words import (
    EQUIPMENT_WORDS,
    SKILL_WORDS,
    Growth,
    Skill,
)
from core.errors import PlanError
from core.fitting.fitted import Fitted, StepSpec
from core.fitting.fitters import fitters
from core.fitting.known import FitInputs, TrialOutcome
from core.fitting.notes import CannotFit, Notes, to_ask
from core.fitting.why_words import why_of
from core.program.step import Step
from core.program.targets import lowest_and_highest
from core.proposing.request import PlanRequest
from core.reason import Reason, says
from core.safety.condition import Condition, in_plain_words
from core.safety.conditions import Effect, allows, touching
from core.safety.program_gate import touches_of

_NOT_KNOWN = says("not_in_catalogue", "it is not in the catalogue")
_HIDDEN = says("hidden", "the clinic has hidden it")
_CANNOT = says("cannot", "the client cannot {skill}")
_NOT_AT_HOME = says("not_at_home", "there is no {thing} at home")
_FORBIDDEN = says("condition_forbids", "{having}: {why}")
_WORSE = says("worse_when_tried", "it made the voice worse when it was tried")
_WATER_NOT_SCREENED = says("water_not_screened", "no screening says that water is safe")
_STANDS_ALREADY = says("stands_already", "it is in the program already")
_ANOTHER_STANDS = says("another_stands", "it is in the program already in its place")
_IN_PLACE = says("in_place_of", "{why}; in place of {task}: {against}")

_WATER = {Touch.WATER, Touch.DEEP_WATER, Touch.SIP}


@dataclass(frozen=True, slots=True)
class LeftOut:
    """A task of a school that is not in the program, and why."""

    school: str
    task: str
    why: Reason
    essential: bool


@dataclass(frozen=True, slots=True)
class Chooser:
    """Chooses and fits tasks for one request. tasks: the catalogue of the clinic."""

    request: PlanRequest
    tasks: Mapping[str, Task]
    conditions: frozenset[Condition]

    @property
    def forbidden(self) -> frozenset[Touch]:
        """What this client must not be made to touch: by a condition, by what they cannot do, or,
        with water, because no screening has allowed it."""
        found = {touch for touch in Touch if not allows(self.conditions, touch)}
        if Skill.LYING_DOWN in self.request.cannot:
            found.add(Touch.LYING_FLAT)
        return frozenset(found | (set() if self.request.screening else _WATER))

    def inputs(self, options: Mapping[str, str] | None = None) -> FitInputs:
        """What is known of this client for a school with these options."""
        return FitInputs(
            forbidden=self.forbidden,
            breathless=Condition.BREATHLESS in self.conditions,
            hurt_folds=Condition.LESIONS_STRAINED in self.conditions,
            baseline=self.request.baseline,
            limits=self.request.limits,
            tried=self.request.tried,
            options=options or {},
            a4_hz=self.request.a4_hz,
        )

    def cannot_do(self, key: str) -> Reason | None:
        """Why this client cannot or must not do a task; None where nothing speaks against it."""
        task = self.tasks.get(key)
        if task is None:
            return _NOT_KNOWN()
        if key in self.request.hidden:
            return _HIDDEN()
        if why := self.must_not_touch(task.touches | task.by_nature):
            return why
        if missing := sorted(task.skills & self.request.cannot):
            return _CANNOT(skill=SKILL_WORDS[missing[0]])
        if missing_things := sorted(task.equipment - self.request.equipment):
            return _NOT_AT_HOME(thing=EQUIPMENT_WORDS[missing_things[0]])
        if self.request.tried.get(key) is TrialOutcome.WORSE:
            return _WORSE()
        return None

    def must_not_touch(self, touches: frozenset[Touch]) -> Reason | None:
        """Which condition forbids it and why; None where none does."""
        for rule in touching(self.conditions, touches, Effect.BLOCK):
            having = in_plain_words(rule.having(self.conditions))
            return _FORBIDDEN(having=having, why=rule.why)
        if touches & _WATER and self.request.screening is None:
            return _WATER_NOT_SCREENED()
        return None

    def fitted(
        self, spec: StepSpec, inputs: FitInputs, taken: frozenset[str]
    ) -> "FittedTask | NotFitted":
        """The task of a line fitted to the client, or another of equal purpose in its place, or why neither can be.

        taken: tasks the program has already; they are not doubled.
        """
        if spec.task in taken:
            return NotFitted(_STANDS_ALREADY())
        first = self._try(spec.task, spec, inputs)
        if isinstance(first, FittedTask) or spec.params.get("alone"):
            return first
        task, asked = self.tasks.get(spec.task), first.notes
        for other in task.substitutes if task else ():
            if other in taken:
                continue
            second = self._try(other, spec, inputs)
            if isinstance(second, FittedTask):
                name = task.name if task else spec.task
                because = _IN_PLACE(why=spec.because, task=name, against=first.why)
                return replace(second, because=because, notes=asked + second.notes)
            asked += second.notes
        why = _ANOTHER_STANDS() if self.stands_for(spec, taken) else first.why
        return NotFitted(why, asked)

    def stands_for(self, spec: StepSpec, taken: frozenset[str]) -> bool:
        """Whether the task, or one of equal purpose, is in the program already."""
        if spec.params.get("alone"):
            return spec.task in taken
        task = self.tasks.get(spec.task)
        return bool(taken & {spec.task, *(task.substitutes if task else ())})

    def _try(self, key: str, spec: StepSpec, inputs: FitInputs) -> "FittedTask | NotFitted":
        if why := self.cannot_do(key):
            return NotFitted(why)
        task = self.tasks[key]
        own = spec if key == spec.task else _as_substitute(spec, task)
        try:
            found = fitters()[own.fit](inputs, task, own)
            step = step_of(task, found, own, step_id="tried", because=spec.because)
            against = _outside(found, inputs) or self.must_not_touch(touches_of(step, self.tasks))
        except CannotFit as error:
            return NotFitted(why_of(error), to_ask(*error.asked))
        except PlanError as error:
            return NotFitted(why_of(error))
        if against:
            return NotFitted(against, to_ask(*found.notes.asked))
        return FittedTask(task, found, spec.because, found.notes)


@dataclass(frozen=True, slots=True)
class FittedTask:
    """A task fitted to the client: what is done, why, and what was found out on the way to it."""

    task: Task
    fitted: Fitted
    because: Reason
    notes: Notes


@dataclass(frozen=True, slots=True)
class NotFitted:
    """Why a line cannot be fitted, and what to ask so that it can."""

    why: Reason
    notes: Notes = field(default_factory=Notes)


def _outside(found: Fitted, inputs: FitInputs) -> Reason | None:
    ends, comfort = lowest_and_highest(found.target.notes), inputs.baseline.comfort
    if ends is None or comfort is None:
        return None
    return comfort.why_outside(ends[0]) or comfort.why_outside(ends[1])


def _as_substitute(spec: StepSpec, task: Task) -> StepSpec:
    """The line of the school for another task; what was set for the first one's fitter is kept only
    where the fitter is the same."""
    fit = fit_for(task)
    if fit == spec.fit:
        params = spec.params
        if Skill.READING not in task.skills:
            params = {name: value for name, value in params.items() if name != "words"}
        return replace(spec, task=task.key, params=params)
    return replace(spec, task=task.key, fit=fit, params={}, repetitions=min(spec.repetitions, 3))


def fit_for(task: Task) -> str:
    """The fitter of a task outside a school: of substitutes and of tasks a clinic has written. Whatever holds
    the breath is fitted as breath holds are: off unless turned on, and capped."""
    if Touch.BREATH_HOLD in task.touches:
        return "breath_hold"
    if task.grows is Growth.FORM:
        return "forms"
    return fitter_of(task.kind, task.family)


def step_of(task: Task, found: Fitted, spec: StepSpec, *, step_id: str, because: Reason) -> Step:
    """The step with the task's texts copied in."""
    return Step(
        step_id=step_id,
        task=task.key,
        phase=spec.phase,
        kind=found.kind or task.kind,
        voiced=task.voiced and not found.target.air_only,
        name=task.name,
        sound=task.sound,
        instruction=task.instruction,
        caution=task.caution,
        because=because,
        repetitions=spec.repetitions,
        rest_s=spec.rest_s,
        target=found.target,
        grade=found.grade,
        level=found.level,
        tube=found.tube,
        touches=tuple(sorted(task.touches)),
    )
