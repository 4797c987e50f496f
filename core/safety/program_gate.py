"""The gate of a whole program: screening, red flags, contraindications, precautions, limits."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from datetime import date

from core.catalogue.tasks import Task, shipped_tasks
from core.catalogue.touches import Touch
from core.catalogue.words import TOLD_IN_WORDS, Growth
from core.dose.minutes import minutes_by_step
from core.program.presentation import Position
from core.program.program import TARGET_PITCH, Program
from core.program.routine import Routine
from core.program.step import Step
from core.reason import Reason, says
from core.reference.values import DEEP_WATER
from core.safety.condition import Condition
from core.safety.conditions import GatedStep, judged, known_conditions
from core.safety.gate import Gate, Occasion, activation_gate
from core.safety.screening import Screening

_STRONG_UNEXAMINED = says(
    "strong_unexamined",
    "{step}: strong voice needs an examination of the larynx since the problem began; a written reason "
    "is not enough.",
)
_PITCH_UNEXAMINED = says(
    "pitch_unexamined",
    "{step}: while the voice is changing, the comfortable pitch is looked for only after an examination "
    "of the larynx since the problem began.",
)
_NOT_GENTLE = frozenset(
    {Touch.DEEP_WATER, Touch.LOUDNESS, Touch.RANGE, Touch.SUSTAINED, Touch.FORCEFUL_PUFFS}
)


def touches_of(step: Step, tasks: Mapping[str, Task] | None = None) -> frozenset[Touch]:
    """What a step touches: what was copied into it, what its task touches today, what its target,
    its later rungs and its tube mean. Where nobody has said what its task touches: unknown.

    tasks: the catalogue of the clinic; the shipped one if None.
    """
    known = shipped_tasks() if tasks is None else tasks
    task = known.get(step.task)
    touches = frozenset(step.touches) | (task.touches if task else frozenset())
    if not touches and step.task not in shipped_tasks():
        touches |= {Touch.UNKNOWN}
    if task is not None and step.grade is not None:
        touches |= _by_rungs(step, task)
    touches |= _by_target(step) | (task.by_nature if task else frozenset())
    if step.voiced or (task is not None and task.voiced and not _air_only(step)):
        touches |= {Touch.VOICED}
    if _is_gentle(step, touches):
        touches |= {Touch.GENTLE}
    return touches


def _by_rungs(step: Step, task: Task) -> frozenset[Touch]:
    """What the present and the later rungs touch, where a task says it rung by rung."""
    grade = step.grade
    if grade is None or grade.growth not in TOLD_IN_WORDS:
        return frozenset()
    return frozenset[Touch]().union(*(task.touched_by(code) for code in grade.codes[grade.rung :]))


def _by_target(step: Step) -> frozenset[Touch]:
    found = set()
    targets = (step.target, *(step.grade.targets if step.grade else ()))
    if any(target.forceful for target in targets):
        found.add(Touch.FORCEFUL_PUFFS)
    if step.kind == "bubbles" or (step.tube and step.tube.deepest_cm):
        found.add(Touch.WATER)
    if step.tube and max(step.tube.depth_cm, step.tube.deepest_cm) >= DEEP_WATER.number:
        found.add(Touch.DEEP_WATER)
    if step.level is not None:
        found.add(Touch.LOUDNESS)
    if step.grade is not None and step.grade.key == TARGET_PITCH:
        found.add(Touch.TARGET_PITCH)
        if step.grade.rungs[-1] > step.grade.rungs[0]:
            found.add(Touch.PITCH_UP)
    if step.presented.position is Position.LYING:
        found.add(Touch.LYING_FLAT)
    return frozenset(found)


def _air_only(step: Step) -> bool:
    """Only forms begin with air alone, as a stream for some time; everything else of a voiced task
    is voiced, whatever the step says."""
    is_form = step.grade is not None and step.grade.growth is Growth.FORM
    return is_form and step.target.air_only


def _is_gentle(step: Step, touches: frozenset[Touch]) -> bool:
    """Semi-occluded, soft, on one easy note: what swollen folds may do."""
    one_note = step.target.one_easy_note
    return Touch.SEMI_OCCLUDED in touches and not touches & _NOT_GENTLE and one_note


def doings_of(program: Program, tasks: Mapping[str, Task] | None = None) -> tuple[GatedStep, ...]:
    """What each step of a program does, those for a bad day among them; the minutes of the others
    of a routine add up to its sitting's."""
    return tuple(doing for routine in program.routines for doing in _in_routine(routine, tasks))


def _in_routine(routine: Routine, tasks: Mapping[str, Task] | None) -> list[GatedStep]:
    lengths = zip(routine.steps, minutes_by_step(routine.steps), strict=True)
    found = [_doing(step, minutes, routine, tasks) for step, minutes in lengths]
    if routine.short_day is not None:
        (minutes,) = minutes_by_step((routine.short_day,))
        found.append(_doing(routine.short_day, minutes, routine, tasks, short_day=True))
    return found


def _doing(
    step: Step,
    minutes: float,
    routine: Routine,
    tasks: Mapping[str, Task] | None,
    *,
    short_day: bool = False,
) -> GatedStep:
    return GatedStep(
        name=step.name,
        touches=touches_of(step, tasks),
        minutes=minutes,
        sessions_a_day=routine.dose.sessions_a_day,
        short_day=short_day,
        routine=routine.key,
    )


def program_gate(
    screening: Screening | None,
    does: Sequence[GatedStep],
    today: date,
    occasion: Occasion | None = None,
) -> Gate:
    """Whether a program that does this may be or stay active today, with every reason in words."""
    when = occasion or Occasion()
    gate = activation_gate(screening, today, when)
    if screening is None:
        return gate
    known = known_conditions(screening, today)
    if not screening.examined(today):
        gate = replace(gate, blocks=(*gate.blocks, *_unexamined(does, known, when)))
    return judged(known, does, gate)


def _unexamined(
    does: Sequence[GatedStep], known: frozenset[Condition], when: Occasion
) -> Iterator[Reason]:
    """Strong voice, and looking for the comfortable pitch while the voice is changing, always need an
    examination since the present trouble began; no written reason stands in for it."""
    for one in does:
        if not when.strong_runs and one.touches & {Touch.LOUDNESS, Touch.UNKNOWN}:
            yield _STRONG_UNEXAMINED(step=one.name)
        if Condition.VOICE_CHANGING in known and Touch.FIND_PITCH in one.touches:
            yield _PITCH_UNEXAMINED(step=one.name)
