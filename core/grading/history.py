"""What the rules of grading read of a client: home sessions with their figures, and what was decided."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import date, time, timedelta
from functools import cached_property
from typing import Annotated

from pydantic import ConfigDict, Field

from core.dose.tide import Done, Prescribed, Stroke, TideDay, adherence_of, tide_days
from core.grading.act import Act
from core.program.program import Program
from core.program.step import Step
from core.safety.condition import Condition
from core.safety.screening import RedFlag
from core.safety.stop import OpenSign, StopSign

CLOSED = ConfigDict(extra="forbid", allow_inf_nan=False)
"""In files what is not known here is refused."""
Rating = Annotated[float, Field(ge=0, le=10)]
Figure = Annotated[float, Field(ge=-10_000, le=10_000)]


@dataclass(frozen=True, slots=True, kw_only=True)
class Trial:
    """One attempt. note: which note, key or piece it is of; heard: whether its sound was measured;
    figures: by code, None = not known (units in `core.figures`)."""

    __pydantic_config__ = CLOSED

    note: str = ""
    heard: bool = True
    figures: Mapping[str, Figure | None]


@dataclass(frozen=True, slots=True, kw_only=True)
class StepDone:
    """One step in one home session.

    asked: how many attempts the step asks for; notes: how many notes, keys or pieces; figures: of
    the whole session, by code; said: what the client said after it (strain 0–10, gasped 0 or 1);
    device: what it was heard with, "" = not known. What nobody asked is absent, what is not known is
    None.
    """

    __pydantic_config__ = CLOSED

    step_id: str
    rung: Annotated[int, Field(ge=0, le=60)]
    asked: Annotated[int, Field(ge=1, le=500)]
    notes: Annotated[int, Field(ge=1, le=100)] = 1
    trials: tuple[Trial, ...] = ()
    figures: Mapping[str, Figure | None] = field(default_factory=dict)
    said: Mapping[str, Rating] = field(default_factory=dict)
    device: Annotated[str, Field(max_length=200)] = ""

    def of_session(self, code: str) -> float | None:
        """A figure of the whole session, or what was said; None = not known."""
        return self.said.get(code, self.figures.get(code))

    @property
    def heard(self) -> bool:
        """Whether any of it was measured, not only timed."""
        return any(trial.heard for trial in self.trials)


@dataclass(frozen=True, slots=True, kw_only=True)
class PastSession:
    """One home session of a routine.

    key: tells it from every other; number: its place among those of its day; short: the version for a
    bad day, which counts as kept and for nothing else; sign: the stop sign that ended it, sign_step:
    the step it came with; hoarser, soft_high_lost: what was said of the time before, None = not
    asked; discomfort 0–10. begun: local time of its start; flags: what was answered before it of red
    flags, None = asked and not answered.
    """

    __pydantic_config__ = CLOSED

    key: str = ""
    day: date
    begun: time | None = None
    number: int = 0
    routine: str
    short: bool = False
    sign: StopSign | None = None
    sign_step: str | None = None
    hoarser: bool | None = None
    soft_high_lost: bool | None = None
    discomfort: Rating | None = None
    flags: Mapping[RedFlag, bool | None] = field(default_factory=dict)
    steps: tuple[StepDone, ...] = ()

    @property
    def stroke(self) -> Stroke:
        if self.sign is not None:
            return Stroke.STOPPED
        return Stroke.SHORT if self.short else Stroke.KEPT


@dataclass(frozen=True, slots=True, kw_only=True)
class StrainAnswer:
    """Throat strain, 0–10, as it was said after a step."""

    day: date
    step_id: str
    strain: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Climbed:
    """A step went from one rung to another on a day."""

    __pydantic_config__ = CLOSED

    step_id: str
    day: date
    rung: int
    from_rung: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Decided:
    """What a clinician decided about a step ("" = the whole program) on a day."""

    __pydantic_config__ = CLOSED

    act: Act
    day: date
    step_id: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class VisitHeld:
    """A visit: whether the goal was held in it and the client corrects themself; None = not said."""

    __pydantic_config__ = CLOSED

    day: date
    goal_held: bool | None = None
    corrects: bool | None = None


@dataclass(frozen=True, kw_only=True)
class History:
    """Everything the rules read of one client, as it was known on a day.

    sittings: in any order; answers: what was said of strain lately, also where a home session is still
    open, None = only what the sittings say; stretches: what was prescribed when; kept_too: home sessions that count as
    kept and have no figures here; families: the family (A–K) of each step; open_signs: stop signs
    nobody cleared; signs_cleared_on: the day the last was cleared; changed_on: the day the program
    was last changed; strain, measured_on: throat strain and day of the latest baseline; own_sd:
    the client's own pitch SD in soft holds, semitones, where a tremor is known; gain_real: whether
    the change between baselines is more than the spread of their tries, fell: whether it is a loss;
    open_flags: red flags that were said and nobody has answered; events: days the voice is needed for;
    injections: days of botulinum toxin, across which nothing is compared; well_again_on: the day an acute
    laryngitis was over.
    """

    program: Program
    active_since: date
    sittings: tuple[PastSession, ...] = ()
    answers: tuple[StrainAnswer, ...] | None = None
    stretches: tuple[Prescribed, ...] = ()
    kept_too: tuple[Done, ...] = ()
    families: Mapping[str, str] = field(default_factory=dict)
    conditions: frozenset[Condition] = frozenset()
    open_signs: tuple[OpenSign, ...] = ()
    climbs: tuple[Climbed, ...] = ()
    decided: tuple[Decided, ...] = ()
    visits: tuple[VisitHeld, ...] = ()
    changed_on: date | None = None
    strain: float | None = None
    measured_on: date | None = None
    own_sd: float | None = None
    gain_real: bool | None = None
    fell: bool = False
    open_flags: frozenset[RedFlag] = frozenset()
    events: tuple[date, ...] = ()
    injections: tuple[date, ...] = ()
    hearing_loss: bool = False
    well_again_on: date | None = None

    @cached_property
    def _ordered(self) -> list[PastSession]:
        return sorted(self.sittings, key=lambda one: (one.day, one.number, one.routine))

    def _is_all(self, until: date) -> bool:
        return not self._ordered or self._ordered[-1].day <= until

    def in_order(self, *, until: date) -> list[PastSession]:
        """The home sessions up to a day, oldest first, whatever the order they came in."""
        if self._is_all(until):
            return list(self._ordered)
        return [one for one in self._ordered if one.day <= until]

    def said_of_strain(self, *, until: date) -> list[StrainAnswer]:
        """Every answer about throat strain up to a day."""
        if self.answers is not None:
            return [one for one in self.answers if one.day <= until]
        return [
            StrainAnswer(day=one.day, step_id=done.step_id, strain=done.said["strain"])
            for one in self.in_order(until=until)
            for done in one.steps
            if "strain" in done.said
        ]

    def at_rung(self, step: Step, *, until: date) -> list[tuple[PastSession, StepDone]]:
        """The home sessions that count for a step: at its present rung, not short, and after the last
        stop sign; oldest first."""
        counting = self._counting if self._is_all(until) else self._counting_of(until)
        return list(counting.get((step.step_id, step.rung), ()))

    @cached_property
    def _counting(self) -> dict[tuple[str, int], list[tuple[PastSession, StepDone]]]:
        return self._counting_of(date.max)

    def _counting_of(
        self, until: date
    ) -> dict[tuple[str, int], list[tuple[PastSession, StepDone]]]:
        """By step and rung, the home sessions up to a day that count."""
        found: dict[tuple[str, int], list[tuple[PastSession, StepDone]]] = {}
        for sitting in self.in_order(until=until):
            if sitting.sign is not None:
                found = {}
            elif not sitting.short:
                for done in sitting.steps:
                    found.setdefault((done.step_id, done.rung), []).append((sitting, done))
        return found

    def days(self, routine: str, *, first: date, last: date, today: date) -> list[TideDay]:
        """What was prescribed and kept of a routine from a day to a day."""
        done = [Done(one.day, one.stroke, one.routine) for one in self.sittings]
        every = tide_days(
            self.stretches, [*done, *self.kept_too], first=first, last=last, today=today
        )
        return [day.of(routine) if routine else day for day in every]

    def kept_share(self, routine: str, *, days: int, today: date) -> float | None:
        """Share of the practice kept in the days before today, 0–1; "" = of every routine; None where
        nothing was prescribed."""
        first, last = today - timedelta(days=days), today - timedelta(days=1)
        return adherence_of(self.days(routine, first=first, last=last, today=today)).share

    def last_climb(self, step_id: str, *, until: date) -> date | None:
        """The day a step last went up."""
        days = [
            one.day
            for one in self.climbs
            if one.step_id == step_id and one.rung > one.from_rung and one.day <= until
        ]
        return max(days, default=None)

    def last_decided(self, acts: Iterable[Act], step_id: str = "", *, until: date) -> date | None:
        """The day one of these was last decided, of a step or of the program."""
        wanted = set(acts)
        days = [
            one.day
            for one in self.decided
            if one.act in wanted and one.step_id == step_id and one.day <= until
        ]
        return max(days, default=None)
