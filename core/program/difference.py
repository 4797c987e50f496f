"""What is other in one program than in another, thing by thing, in the clinician's words. Nothing that is prescribed
differs without a line; what only explains (reasons, what was left out) is told where the program stands."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, fields
from typing import Any

from core.program.program import Program
from core.program.routine import Routine
from core.program.routine_words import WHEN_WORDS, routine_name
from core.program.step import Step
from core.program.step_words import asks_words

Words = Callable[[Any], str]
EXPLAINS = frozenset(
    {"reasons", "left_out", "assumed", "asked", "because", "shown_s", "shown_air_s", "touches"}
)
"""Fields that prescribe nothing, or follow from what does."""
_DAYS = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")


@dataclass(frozen=True, slots=True)
class ProgramDifference:
    """where: the routine or step, "" = the program as a whole; what: which setting; before, after: what was and is
    asked for, "" where there was or is none."""

    where: str
    what: str
    before: str
    after: str


def _plain(value: Any) -> str:
    return "" if value is None else f"{value:g}" if isinstance(value, float) else str(value)


def _seconds(value: float) -> str:
    return f"{value:g} s"


def _days(value: tuple[int, ...]) -> str:
    return ", ".join(_DAYS[day - 1] for day in value) or "as they come"


def _listed(value: tuple[Any, ...]) -> str:
    return ", ".join(map(str, value)) or "none"


STEP: Mapping[str, tuple[str, Callable[[Step], str]]] = {
    "task": ("task", lambda step: step.name),
    "name": ("name", lambda step: step.name),
    "phase": ("part of the sitting", lambda step: step.phase.value.replace("_", "-")),
    "kind": ("kind of task", lambda step: step.kind),
    "voiced": ("voice", lambda step: "voiced" if step.voiced else "without voice"),
    "sound": ("sound", lambda step: step.sound),
    "instruction": ("what to do", lambda step: step.instruction),
    "caution": ("caution", lambda step: step.caution),
    "repetitions": ("times", lambda step: f"{step.repetitions}"),
    "rest_s": ("rest", lambda step: _seconds(step.rest_s)),
    "target": ("asks for", asks_words),
    "grade": ("rung", lambda step: _rung(step)),
    "level": ("level", asks_words),
    "tube": ("tube", asks_words),
    "presented": ("at home", lambda step: _presented(step)),
}
DOSE: Mapping[str, tuple[str, Words]] = {
    "when": ("when", lambda value: WHEN_WORDS[value]),
    "sessions_a_day": ("home sessions a day", _plain),
    "days_a_week": ("days a week", _plain),
    "weeks": ("weeks", _plain),
    "starts_on": ("starts on", _plain),
    "weekdays": ("weekdays", _days),
    "visit_weekdays": ("visits on", _days),
    "spacing_h": ("hours between two", _plain),
    "times": ("times of day", lambda value: ", ".join(f"{one:%H:%M}" for one in value) or "any"),
    "quiet_from": ("quiet from", lambda value: f"{value:%H:%M}"),
    "quiet_to": ("quiet to", lambda value: f"{value:%H:%M}"),
    "work_from": ("work from", lambda value: f"{value:%H:%M}" if value else ""),
    "work_to": ("work to", lambda value: f"{value:%H:%M}" if value else ""),
    "away": ("away", lambda value: _listed(tuple(f"{a.first} to {a.last}" for a in value))),
    "short_day_min": ("minutes on a bad day", _plain),
    "taper": (
        "taper",
        lambda value: " → ".join(f"{s.words} ({s.weeks} wk)" for s in value) or "none",
    ),
}
PROGRAM: Mapping[str, tuple[str, Words]] = {
    "schools": (
        "schools",
        lambda value: _listed(tuple(" ".join([c.school, *c.options.values()]) for c in value)),
    ),
    "comfort": (
        "comfortable range",
        lambda value: f"{value.lowest.name}–{value.highest.name}" if value else "",
    ),
    "a4_hz": ("concert pitch", lambda value: f"{value:g} Hz"),
    "margin_semitones": ("kept from the ends of the range", lambda value: f"{value} semitones"),
    "advice": ("care", lambda value: " ".join(one.words for one in value)),
}


def _rung(step: Step) -> str:
    return step.grade.words[step.grade.rung] if step.grade else "not graded"


def _ladder(step: Step) -> str:
    """All rungs with the goal."""
    if step.grade is None:
        return "none"
    goal = f", goal {step.grade.goal:g}" if step.grade.goal is not None else ""
    return f"{' → '.join(step.grade.words)}{goal}"


def _presented(step: Step) -> str:
    how = step.presented
    stress = (
        f"lean on the {how.stress.value} word" if how.stress.value else "leant on as the task says"
    )
    more = "".join(
        f", {words}" for words in (how.position.value, how.cue and f"cue “{how.cue}”") if words
    )
    material = how.material or "the words of the task"
    return f"{material}, {stress}, picture: {how.feedback.value}{more}"


def differences(before: Program, after: Program) -> list[ProgramDifference]:
    """Every difference, the program as a whole first, then routine by routine in the order of the later one."""
    return [*_whole(before, after), *_routines(before, after)]


def _whole(before: Program, after: Program) -> Iterator[ProgramDifference]:
    for name, (what, words) in PROGRAM.items():
        was, now = getattr(before, name), getattr(after, name)
        if was != now:
            yield ProgramDifference("", what, words(was), words(now))


def _routines(before: Program, after: Program) -> Iterator[ProgramDifference]:
    earlier = {routine.key: routine for routine in before.routines}
    for routine in after.routines:
        was = earlier.get(routine.key)
        if was is None:
            yield ProgramDifference(routine_name(routine), "routine", "", _contents(routine))
        else:
            yield from _routine(was, routine)
    later = {routine.key for routine in after.routines}
    for routine in before.routines:
        if routine.key not in later:
            yield ProgramDifference(routine_name(routine), "routine", _contents(routine), "")


def _routine(was: Routine, now: Routine) -> Iterator[ProgramDifference]:
    name = routine_name(now)
    for field, (what, words) in DOSE.items():
        before, after = getattr(was.dose, field), getattr(now.dose, field)
        if before != after:
            yield ProgramDifference(name, what, words(before), words(after))
    earlier = {step.step_id: step for step in was.all_steps}
    for step in now.all_steps:
        if step.step_id not in earlier:
            yield ProgramDifference(step.name, "step", "", _asked(step))
        else:
            yield from _step(earlier[step.step_id], step)
    later = {step.step_id for step in now.all_steps}
    for step in was.all_steps:
        if step.step_id not in later:
            yield ProgramDifference(step.name, "step", _asked(step), "")
    orders = [
        [s.name for s in one.steps if s.step_id in earlier.keys() & later] for one in (was, now)
    ]
    if orders[0] != orders[1]:
        yield ProgramDifference(name, "order", " → ".join(orders[0]), " → ".join(orders[1]))


def _step(was: Step, now: Step) -> Iterator[ProgramDifference]:
    said: set[tuple[str, str]] = set()
    ladders = (_ladder(was), _ladder(now))
    if ladders[0] != ladders[1]:
        yield ProgramDifference(now.name, "ladder", *ladders)
    for field, (what, words) in STEP.items():
        if _bare(getattr(was, field)) == _bare(getattr(now, field)):
            continue
        before, after = words(was), words(now)
        if before == after and field == "grade" and ladders[0] != ladders[1]:
            continue
        if before == after:
            before, after = "", "other than it was, in what this line does not say"
        if (before, after) not in said:
            said.add((before, after))
            yield ProgramDifference(now.name, what, before, after)


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
