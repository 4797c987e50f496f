"""Where steps stand in a program: order, routine, copies; each change gives a new program."""

from collections.abc import Sequence
from dataclasses import replace

from core.errors import PlanError
from core.program.program import Program
from core.program.routine import Routine, RoutineKind
from core.program.step import Phase, Step

_PHASES = tuple(Phase)
_OWN_ROUTINE = {
    Phase.RELEASE: RoutineKind.RELEASE,
    Phase.BREATH: RoutineKind.BREATH,
    Phase.SEMI_OCCLUDED: RoutineKind.SEMI_OCCLUDED,
    Phase.VOICE: RoutineKind.PRACTICE,
    Phase.RANGE: RoutineKind.RANGE,
    Phase.RESONANCE: RoutineKind.RESONANCE,
    Phase.ARTICULATION: RoutineKind.CLEAR_SPEECH,
    Phase.CARRY_OVER: RoutineKind.CARRY_OVER,
    Phase.COOL_DOWN: RoutineKind.COOL_DOWN,
}


def moved(program: Program, step_id: str, by: int) -> Program:
    """The step so many places later in its routine (negative: earlier), no further than its ends."""
    program.step(step_id)
    routine = program.routine_of(step_id)
    place = _place(routine, step_id) + by
    return placed(program, step_id, routine.key, max(0, min(place, len(routine.steps) - 1)))


def placed(program: Program, step_id: str, key: str, place: int) -> Program:
    """The step at a place of a routine, counted without it, from 0; a routine it leaves empty goes.

    PlanError("step_unknown"), ("routine_unknown"), ("place_unknown"), ("too_many_steps").
    """
    step, was = program.step(step_id), program.routine_of(step_id)
    goal = program.routine(key)
    others = [one for one in goal.steps if one.step_id != step_id]
    if not 0 <= place <= len(others):
        raise PlanError("place_unknown", came=place, high=len(others))
    arranged = replace(goal, steps=(*others[:place], step, *others[place:]))
    left = arranged if was.key == goal.key else _left(was, step_id)
    changed = {was.key: left, goal.key: arranged}
    routines = (changed.get(one.key, one) for one in program.routines)
    return replace(program, routines=tuple(one for one in routines if one is not None))


def on_its_own(program: Program, step_id: str) -> Program:
    """The step in a routine of its own, with the dose of the one it leaves, after it."""
    step, was = program.step(step_id), program.routine_of(step_id)
    if len(was.steps) == 1:
        return program
    kind = _OWN_ROUTINE[step.phase]
    own = Routine(
        key=free_key(kind, [one.key for one in program.routines]),
        kind=kind,
        steps=(step,),
        dose=was.dose,
    )
    at = program.routines.index(was) + 1
    rest = replace(was, steps=_others(was, step_id))
    return replace(
        program, routines=(*program.routines[: at - 1], rest, own, *program.routines[at:])
    )


def duplicated(program: Program, step_id: str, *, new_step_id: str) -> Program:
    """The program with a copy of the step behind it. PlanError("too_many_steps")."""
    step, routine = program.step(step_id), program.routine_of(step_id)
    at = _place(routine, step_id) + 1
    copy = replace(step, step_id=new_step_id)
    steps = (*routine.steps[:at], copy, *routine.steps[at:])
    return program.with_routine(replace(routine, steps=steps))


def with_added(program: Program, step: Step, key: str) -> Program:
    """The program with a new step in a routine, behind the last of its phase or an earlier one."""
    routine = program.routine(key)
    before = [
        place
        for place, one in enumerate(routine.steps)
        if _PHASES.index(one.phase) <= _PHASES.index(step.phase)
    ]
    at = before[-1] + 1 if before else 0
    steps = (*routine.steps[:at], step, *routine.steps[at:])
    return program.with_routine(replace(routine, steps=steps))


def without_step(program: Program, step_id: str) -> Program:
    """The program less one step, and less its routine where that was its last; the last of the
    program cannot go (PlanError "program_empty")."""
    program.step(step_id)
    routine = program.routine_of(step_id)
    left = _left(routine, step_id)
    own = (left if one.key == routine.key else one for one in program.routines)
    return replace(program, routines=tuple(one for one in own if one is not None))


def _left(routine: Routine, step_id: str) -> Routine | None:
    """The routine less one step; None where that was its last."""
    steps = _others(routine, step_id)
    return replace(routine, steps=steps) if steps else None


def _others(routine: Routine, step_id: str) -> tuple[Step, ...]:
    return tuple(one for one in routine.steps if one.step_id != step_id)


def _place(routine: Routine, step_id: str) -> int:
    return [one.step_id for one in routine.steps].index(step_id)


def free_key(kind: RoutineKind, taken: Sequence[str]) -> str:
    """A key for a routine of that kind beside others; PlanError("too_many_routines")."""
    numbered = (f"{kind.value}_{number}" for number in range(2, 10))
    found = (key for key in (kind.value, *numbered) if key not in taken)
    key = next(found, None)
    if key is None:
        raise PlanError("too_many_routines", came=len(taken) + 1, high=len(taken))
    return key
