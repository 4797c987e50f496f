"""What is prescribed: the schools it came from, the range it was fitted to, routines."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from typing import Annotated

from pydantic import Field

from core.catalogue.touches import Touch
from core.catalogue.words import Growth
from core.errors import PlanError
from core.notes.range import ComfortableRange
from core.program.limits import within
from core.program.routine import MOST_STEPS, Routine
from core.program.step import Step
from core.program.targets import Strict
from core.reason import Because, Reason, says
from core.reference.values import (
    A4_HIGHEST,
    A4_LOWEST,
    BREATH_HOLD_CAP,
    CAUTIOUS_OUT,
    DEPTH_AT_HOME_INSUFFICIENCY,
    HOLD_SHORTEST,
)

_OF_STEP = says("of_step", "{step}: {why}")
_RANGE_UNKNOWN = says("range_unknown", "it asks for a note, but no comfortable range is recorded")
_NOT_MEASURED = says("above_measured", "{note} is above what can be measured")
_LONGER_THAN_SHOWN = says(
    "longer_than_shown", "{seconds:g} s of voice are longer than the {shown_s:g} s shown so far"
)
_LOUDER_THAN_SHOWN = says(
    "louder_than_shown",
    "+ {over_db:g} dB is more than the strong “ah” has shown (+ {shown_db:g} dB)",
)
_OVER_THE_SOFT_HOLD = says(
    "over_the_soft_hold",
    "{step}: {note} for {seconds:g} s is longer than the longest soft hold shown so far "
    "({shown_s:g} s)",
)
_AIR_LONGER = says(
    "air_longer_than_shown",
    "{seconds:.1f} s of air are longer than the longest /s/ allows ({most_s:.1f} s)",
)
_RUNGS_LOUDER = says(
    "rungs_louder_than_shown",
    "its last rung, + {over_db:g} dB, is more than the strong “ah” has shown (+ {shown_db:g} dB)",
)
_TOO_DEEP = says(
    "too_deep", "{depth_cm:g} cm of water is deeper than the {deepest_cm:g} cm allowed at home"
)
_BREATH_TOO_LONG = says(
    "breath_held_too_long", "a breath held for {seconds:g} s: at most {most_s:g} s"
)

MOST_ROUTINES = 8
TARGET_PITCH = "target pitch"
"""The key of the ladder of another speaking pitch."""
SUSTAINED = "sustained"
"""Key of the grade of the sustained-note ladder."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Chosen(Strict):
    """A school of the program and what was chosen in it (choice → option)."""

    school: str
    options: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True, kw_only=True)
class Advice(Strict):
    """A line of care for the client, and what it touches: a prompt to drink is not shown where
    drinking is unsafe, whenever that was found out."""

    task: str
    words: str
    touches: tuple[Touch, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Program(Strict):
    """A whole program.

    comfort: None where no range is known, then no step asks for a note. reasons: why it is as it
    is; left_out: what is not in it and why; assumed: what was taken for granted; asked: what should
    be measured or asked next; advice: care of the voice; routines: each with its own steps, dose and
    calendar; shown_s, shown_air_s: the longest voice and the longest /s/ the client has shown, s, None
    = not known.
    """

    schools: tuple[Chosen, ...]
    comfort: ComfortableRange | None
    a4_hz: Annotated[float, Field(ge=A4_LOWEST.number, le=A4_HIGHEST.number)]
    margin_semitones: int = 0
    reasons: tuple[Because, ...] = ()
    left_out: tuple[Because, ...] = ()
    assumed: tuple[Because, ...] = ()
    asked: tuple[Because, ...] = ()
    advice: tuple[Advice, ...] = ()
    routines: tuple[Routine, ...]
    shown_s: float | None = None
    shown_air_s: float | None = None

    def __post_init__(self) -> None:
        if not self.routines:
            raise PlanError("program_empty")
        if len(self.routines) > MOST_ROUTINES:
            raise PlanError("too_many_routines", came=len(self.routines), high=MOST_ROUTINES)
        if len({routine.key for routine in self.routines}) != len(self.routines):
            raise PlanError("routine_twice")
        if len(self.steps) > MOST_STEPS:
            raise PlanError("too_many_steps", came=len(self.steps), high=MOST_STEPS)
        if len({step.step_id for step in self.all_steps}) != len(self.all_steps):
            raise PlanError("step_twice")
        low, high = A4_LOWEST.number, A4_HIGHEST.number
        if not low <= self.a4_hz <= high:
            raise PlanError("a4_out_of_limits", hz=self.a4_hz, low=low, high=high)
        within("margin_semitones", self.margin_semitones)
        if self.shown_s is not None:
            within("shown_s", self.shown_s)
        if self.shown_air_s is not None:
            within("shown_s", self.shown_air_s)

    @property
    def steps(self) -> tuple[Step, ...]:
        """The steps of every routine, in order, without those for a bad day."""
        return tuple(step for routine in self.routines for step in routine.steps)

    @property
    def all_steps(self) -> tuple[Step, ...]:
        """Every step, those for a bad day last."""
        short = (routine.short_day for routine in self.routines)
        return (*self.steps, *(step for step in short if step is not None))

    def step(self, step_id: str) -> Step:
        """The step with that id; PlanError("step_unknown") otherwise."""
        for step in self.steps:
            if step.step_id == step_id:
                return step
        raise PlanError("step_unknown", step=step_id)

    def routine(self, key: str) -> Routine:
        """The routine of that key; PlanError("routine_unknown") otherwise."""
        for routine in self.routines:
            if routine.key == key:
                return routine
        raise PlanError("routine_unknown", came=key, known=[one.key for one in self.routines])

    def routine_of(self, step_id: str) -> Routine:
        """The routine a step stands in; PlanError("step_unknown") otherwise."""
        for routine in self.routines:
            if any(step.step_id == step_id for step in routine.all_steps):
                return routine
        raise PlanError("step_unknown", step=step_id)

    def with_routine(self, changed: Routine) -> "Program":
        """The same program with one routine replaced, found by its key."""
        self.routine(changed.key)
        routines = tuple(changed if one.key == changed.key else one for one in self.routines)
        return replace(self, routines=routines)

    def each_step(self, change: Callable[[Step], Step]) -> "Program":
        """The program with every step changed, those for a bad day too."""
        routines = tuple(
            replace(
                routine,
                steps=tuple(change(step) for step in routine.steps),
                short_day=change(routine.short_day) if routine.short_day else None,
            )
            for routine in self.routines
        )
        return replace(self, routines=routines)

    def with_step(self, changed: Step) -> "Program":
        """The same program with one step replaced, found by its id."""
        self.step(changed.step_id)
        return self.each_step(lambda step: changed if step.step_id == changed.step_id else step)

    @property
    def main_step(self) -> Step | None:
        """The graded hold step with the most notes: what the reed bed shows and Rounds names."""
        holds = [step for step in self.steps if step.holds]
        return max(holds, key=lambda step: len(step.holds), default=None)

    @property
    def soft_holds(self) -> Step | None:
        """The graded step of the sustained-note ladder: what the climb of soft holds is about.
        Strong holds are no soft ones."""
        own = [s for s in self.steps if s.holds and s.grade and s.grade.key == SUSTAINED]
        return max(own, key=lambda step: len(step.holds), default=None)

    def problems(self) -> tuple[Reason, ...]:
        """What stands in the way of activation: notes outside the comfortable range, a tube deeper
        than is allowed at home, a breath held over 15 s."""
        return tuple(
            _OF_STEP(step=step.name, why=why)
            for step in self.all_steps
            for why in (
                *self._outside(step),
                *_too_deep(step),
                *_held_too_long(step),
                *self._longer_than_shown(step),
                *self._air_longer_than_shown(step),
                *self._louder_than_shown(step),
            )
        )

    def _outside(self, step: Step) -> tuple[Reason, ...]:
        notes = dict.fromkeys(step.target.notes)
        if self.comfort is None:
            return (_RANGE_UNKNOWN(),) if notes else ()
        high = [_NOT_MEASURED(note=note.name) for note in notes if not note.measurable]
        return (*(why for note in notes if (why := self.comfort.why_outside(note))), *high)

    def _longer_than_shown(self, step: Step) -> tuple[Reason, ...]:
        """A glide never lasts longer than the voice shown, a hold does so only by climbing."""
        if self.shown_s is None:
            return ()
        most = max(self.shown_s, HOLD_SHORTEST.number)
        seconds = step.target.voice_lengths_s(climbed=bool(step.rung))
        return tuple(
            _LONGER_THAN_SHOWN(seconds=longest, shown_s=self.shown_s)
            for longest in dict.fromkeys(seconds)
            if longest > most
        )

    def _louder_than_shown(self, step: Step) -> tuple[Reason, ...]:
        grades = [one.grade for one in self.steps if one.grade]
        shown = [g.shown for g in grades if g.growth is Growth.DECIBELS and g.shown is not None]
        if not shown:
            return ()
        most, over = max(*shown, 0.0), step.level.over_db if step.level else None
        if over is not None and over > most:
            return (_LOUDER_THAN_SHOWN(over_db=over, shown_db=max(shown)),)
        last = step.grade.rungs[-1] if step.grade else 0.0
        if step.grade and step.grade.growth is Growth.DECIBELS and last > most:
            return (_RUNGS_LOUDER(over_db=last, shown_db=max(shown)),)
        return ()

    def _air_longer_than_shown(self, step: Step) -> tuple[Reason, ...]:
        """A paced out-breath is never longer than the own /s/, a hiss by a tenth at most; its rungs neither. Where no
        /s/ is known: than what the step was fitted to, else than is asked for without one."""
        shown = self.shown_air_s or step.shown_air_s or CAUTIOUS_OUT.number
        return tuple(
            _AIR_LONGER(seconds=seconds, most_s=share * shown)
            for seconds, share in step.air_lengths_s()
            if seconds > share * shown + 0.05
        )

    def notices(self) -> tuple[Reason, ...]:
        """What to think about that does not stand in the way."""
        return tuple(
            _OVER_THE_SOFT_HOLD(
                step=step.name, note=hold.note.name, seconds=hold.seconds, shown_s=step.grade.shown
            )
            for step in self.steps
            if step.grade and step.grade.shown is not None
            for hold in step.holds
            if hold.seconds > step.grade.shown
        )


def _too_deep(step: Step) -> tuple[Reason, ...]:
    tube = step.tube
    if tube is None:
        return ()
    deepest = min(tube.deepest_cm, DEPTH_AT_HOME_INSUFFICIENCY.number)
    return (
        (_TOO_DEEP(depth_cm=tube.depth_cm, deepest_cm=deepest),) if tube.depth_cm > deepest else ()
    )


def _held_too_long(step: Step) -> tuple[Reason, ...]:
    most = BREATH_HOLD_CAP.number
    if Touch.BREATH_HOLD not in step.touches or step.target.seconds <= most:
        return ()
    return (_BREATH_TOO_LONG(seconds=step.target.seconds, most_s=most),)
