"""What is other in one program than in another, thing by thing, in the clinician's words. Nothing that is prescribed
differs without a line; what only explains (reasons, what was left out) is told where the program stands."""

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass, fields
from datetime import time
from typing import Any

from core.program.program import Program
from core.program.routine import Routine
from core.program.routine_words import WHEN_WORDS, routine_name
from core.program.step import Step
from core.program.step_words import asks_words
from core.program.taper_words import stage_words
from core.reason import Reason, says, told_as

Words = Callable[[Any], object]
EXPLAINS = frozenset(
    {"reasons", "left_out", "assumed", "asked", "because", "shown_s", "shown_air_s", "touches"}
)
"""Fields that prescribe nothing, or follow from what does."""


@dataclass(frozen=True, slots=True)
class ProgramDifference:
    """where: the routine or step, "" = the program as a whole; what: which setting; before, after: what was and is
    asked for, "" where there was or is none."""

    where: str
    what: Reason
    before: str
    after: str


_AS_THEY_COME = says("days_as_they_come", "any days")
_NONE = says("changed_none", "none")
_ANY_TIME = says("any_time", "any time")
_UNVOICED = says("changed_unvoiced", "without voice")
_VOICED = says("changed_voiced", "voiced")
_AWAY = says("changed_away", "{first:day} to {last:day}")
_WEEKS = says("changed_taper", "{stage} ({weeks} wk)")
_AT = says("changed_clock", "{at:clock}")
_SEMITONES = says("changed_semitones", "{semitones} semitones")
_NOT_GRADED = says("changed_not_graded", "no ladder")
_GOAL = says("changed_goal", "{ladder}, goal {goal:g}")
_STRESSED = says("changed_stressed", "stress on the {word} word")
_STRESS_AS_TASK = says("changed_stress_as_task", "stress as the task says")
_TASKS_WORDS = says("changed_tasks_words", "the words of the task")
_CUE = says("changed_cue", "cue “{cue}”")
_SHOWN = says("changed_presented", "{material}, {stress}, picture: {feedback}")
_ROUTINE = says("changed_routine", "routine")
_STEP = says("changed_a_step", "step")
_ORDER = says("changed_order", "order")
_LADDER = says("changed_ladder", "ladder")
_UNSEEN = says("changed_unseen", "changed in a detail not shown here")
_WEEKDAYS = told_as(
    "weekday", dict(zip("1234567", ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"), strict=True))
)
_STRESS_WORDS = told_as("stress_word", {"first": "first", "last": "last"})


def _plain(value: Any) -> str:
    return "" if value is None else f"{value:g}" if isinstance(value, float) else str(value)


def _days(value: tuple[int, ...]) -> str:
    return ", ".join(str(_WEEKDAYS[str(day)]) for day in value) or str(_AS_THEY_COME())


def _at(value: time | None) -> str:
    return str(_AT(at=value.isoformat("minutes"))) if value else ""


def _listed(value: Iterable[object]) -> str:
    return ", ".join(map(str, value)) or str(_NONE())


STEP_LABELS = told_as(
    "changed_step",
    {
        "task": "task",
        "name": "name",
        "phase": "part of the sitting",
        "kind": "kind of task",
        "voiced": "voice",
        "sound": "sound",
        "instruction": "what to do",
        "caution": "caution",
        "repetitions": "times",
        "rest_s": "rest",
        "target": "asks for",
        "grade": "rung",
        "level": "level",
        "tube": "tube",
        "presented": "at home",
    },
)
STEP: Mapping[str, Callable[[Step], object]] = {
    "task": lambda step: step.name,
    "name": lambda step: step.name,
    "phase": lambda step: step.phase.value.replace("_", "-"),
    "kind": lambda step: step.kind,
    "voiced": lambda step: _VOICED() if step.voiced else _UNVOICED(),
    "sound": lambda step: step.sound,
    "instruction": lambda step: step.instruction,
    "caution": lambda step: step.caution,
    "repetitions": lambda step: f"{step.repetitions}",
    "rest_s": lambda step: f"{step.rest_s:g} s",
    "target": asks_words,
    "grade": lambda step: _rung(step),
    "level": asks_words,
    "tube": asks_words,
    "presented": lambda step: _presented(step),
}
DOSE_LABELS = told_as(
    "changed_dose",
    {
        "when": "when",
        "sessions_a_day": "home sessions a day",
        "days_a_week": "days a week",
        "weeks": "weeks",
        "starts_on": "starts on",
        "weekdays": "weekdays",
        "visit_weekdays": "visits on",
        "spacing_h": "hours between two",
        "times": "times of day",
        "quiet_from": "quiet from",
        "quiet_to": "quiet to",
        "work_from": "work from",
        "work_to": "work to",
        "away": "away",
        "short_day_min": "minutes on a bad day",
        "taper": "taper",
    },
)
DOSE: Mapping[str, Words] = {
    "when": lambda value: WHEN_WORDS[value],
    "sessions_a_day": _plain,
    "days_a_week": _plain,
    "weeks": _plain,
    "starts_on": _plain,
    "weekdays": _days,
    "visit_weekdays": _days,
    "spacing_h": _plain,
    "times": lambda value: ", ".join(map(_at, value)) or _ANY_TIME(),
    "quiet_from": _at,
    "quiet_to": _at,
    "work_from": _at,
    "work_to": _at,
    "away": lambda value: _listed(
        _AWAY(first=a.first.isoformat(), last=a.last.isoformat()) for a in value
    ),
    "short_day_min": _plain,
    "taper": lambda value: (
        " → ".join(str(_WEEKS(stage=stage_words(s), weeks=s.weeks)) for s in value) or _NONE()
    ),
}
PROGRAM_LABELS = told_as(
    "changed_program",
    {
        "schools": "schools",
        "comfort": "comfortable range",
        "a4_hz": "concert pitch",
        "margin_semitones": "kept from the ends of the range",
        "advice": "care",
    },
)
PROGRAM: Mapping[str, Words] = {
    "schools": lambda value: _listed(" ".join([c.school, *c.options.values()]) for c in value),
    "comfort": lambda value: f"{value.lowest.name}–{value.highest.name}" if value else "",
    "a4_hz": lambda value: f"{value:g} Hz",
    "margin_semitones": lambda value: _SEMITONES(semitones=value),
    "advice": lambda value: " ".join(one.words for one in value),
}


def _rung(step: Step) -> str:
    return step.grade.words[step.grade.rung] if step.grade else str(_NOT_GRADED())


def _ladder(step: Step) -> str:
    """All rungs with the goal."""
    if step.grade is None:
        return str(_NONE())
    rungs = " → ".join(step.grade.words)
    return rungs if step.grade.goal is None else str(_GOAL(ladder=rungs, goal=step.grade.goal))


def _presented(step: Step) -> str:
    how = step.presented
    word = _STRESS_WORDS.get(how.stress.value)
    shown = _SHOWN(
        material=how.material or str(_TASKS_WORDS()),
        stress=_STRESSED(word=word) if word else _STRESS_AS_TASK(),
        feedback=how.feedback.value,
    )
    cue = str(_CUE(cue=how.cue)) if how.cue else ""
    return ", ".join(filter(None, (str(shown), how.position.value, cue)))


def differences(before: Program, after: Program) -> list[ProgramDifference]:
    """Every difference, the program as a whole first, then routine by routine in the order of the later one."""
    return [*_whole(before, after), *_routines(before, after)]


def _whole(before: Program, after: Program) -> Iterator[ProgramDifference]:
    for name, words in PROGRAM.items():
        was, now = getattr(before, name), getattr(after, name)
        if was != now:
            yield ProgramDifference("", PROGRAM_LABELS[name], str(words(was)), str(words(now)))


def _routines(before: Program, after: Program) -> Iterator[ProgramDifference]:
    earlier = {routine.key: routine for routine in before.routines}
    for routine in after.routines:
        was = earlier.get(routine.key)
        if was is None:
            yield ProgramDifference(routine_name(routine), _ROUTINE(), "", _contents(routine))
        else:
            yield from _routine(was, routine)
    later = {routine.key for routine in after.routines}
    for routine in before.routines:
        if routine.key not in later:
            yield ProgramDifference(routine_name(routine), _ROUTINE(), _contents(routine), "")


def _routine(was: Routine, now: Routine) -> Iterator[ProgramDifference]:
    name = routine_name(now)
    for field, words in DOSE.items():
        before, after = getattr(was.dose, field), getattr(now.dose, field)
        if before != after:
            yield ProgramDifference(name, DOSE_LABELS[field], str(words(before)), str(words(after)))
    earlier = {step.step_id: step for step in was.all_steps}
    for step in now.all_steps:
        if step.step_id not in earlier:
            yield ProgramDifference(step.name, _STEP(), "", _asked(step))
        else:
            yield from _step(earlier[step.step_id], step)
    later = {step.step_id for step in now.all_steps}
    for step in was.all_steps:
        if step.step_id not in later:
            yield ProgramDifference(step.name, _STEP(), _asked(step), "")
    orders = [
        [s.name for s in one.steps if s.step_id in earlier.keys() & later] for one in (was, now)
    ]
    if orders[0] != orders[1]:
        yield ProgramDifference(name, _ORDER(), " → ".join(orders[0]), " → ".join(orders[1]))


def _step(was: Step, now: Step) -> Iterator[ProgramDifference]:
    said: set[tuple[str, str]] = set()
    ladders = (_ladder(was), _ladder(now))
    if ladders[0] != ladders[1]:
        yield ProgramDifference(now.name, _LADDER(), *ladders)
    for field, words in STEP.items():
        if _bare(getattr(was, field)) == _bare(getattr(now, field)):
            continue
        before, after = str(words(was)), str(words(now))
        if before == after and field == "grade" and ladders[0] != ladders[1]:
            continue
        if before == after:
            before, after = "", str(_UNSEEN())
        if (before, after) not in said:
            said.add((before, after))
            yield ProgramDifference(now.name, STEP_LABELS[field], before, after)


def _bare(value: Any) -> Any:
    """A value without what only explains it, to be compared."""
    if hasattr(value, "__dataclass_fields__"):
        named = [one.name for one in fields(value) if one.name not in (*EXPLAINS, "shown")]
        return (type(value).__name__, *(_bare(getattr(value, name)) for name in named))
    if isinstance(value, tuple):
        return tuple(map(_bare, value))
    return value


def _asked(step: Step) -> str:
    return f"{asks_words(step)}, {step.repetitions} ×"


def _contents(routine: Routine) -> str:
    return " → ".join(step.name for step in routine.steps)
