"""One step of a program: a task with its target, its grade and everything that is set in it."""

from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Annotated, Any

from pydantic import Field

from core.catalogue.doing import ADVICE, can_take, measured_kind, task_kinds
from core.catalogue.touches import Touch
from core.catalogue.words import NAMED_RUNGS, Growth
from core.errors import PlanError
from core.program.limits import (
    BORE_MM,
    DEPTH_CM,
    EFFORT,
    FLOW_ML_S,
    LEVEL_OVER_DB,
    MOST_RUNGS,
    REPETITIONS,
    REST_S,
    TUBE_LENGTH_CM,
    rung_within,
    shown_within,
    within,
)
from core.program.presentation import AS_EVER, Presentation
from core.program.targets import (
    GlidePath,
    Holds,
    HoldTarget,
    StepTarget,
    Strict,
)
from core.reason import Because

SPEECH_VOICED = 0.5
"""Share of speaking time that is voiced, assumed for the dose (clinical default)."""


MOST_OVER_DB = 20.0
"""Most that is asked for over the own conversation, dB (clinical default)."""


def _named_kinds(schema: dict[str, Any]) -> None:
    schema["enum"] = sorted(set(task_kinds()) - {ADVICE})


class Phase(StrEnum):
    """Where a step stands in a home session; the order is the order of the sitting."""

    RELEASE = "release"
    BREATH = "breath"
    SEMI_OCCLUDED = "semi_occluded"
    VOICE = "voice"
    RANGE = "range"
    RESONANCE = "resonance"
    ARTICULATION = "articulation"
    CARRY_OVER = "carry_over"
    COOL_DOWN = "cool_down"


@dataclass(frozen=True, slots=True, kw_only=True)
class Grade(Strict):
    """The rungs of a step, in one dimension, from the first to the goal.

    rungs: values in the unit of the dimension (s, beats, dB over the reference, note number,
    beats/min; of forms, cues and places their number); codes: of forms, cues, widths and places,
    empty for the others; words: what was shown, read by no rule. Steps of one `key` climb together.
    targets: the target of each rung where a rung is more than one number (forms, notes).
    shown: the most the client has shown so far in that unit.
    """

    key: str
    growth: Growth
    rungs: tuple[float, ...]
    codes: tuple[str, ...] = ()
    words: tuple[str, ...]
    rung: int = 0
    targets: tuple[StepTarget, ...] = ()
    goal: float | None = None
    because: Because
    shown: float | None = None

    def __post_init__(self) -> None:
        if self.growth is Growth.NONE or not self.rungs or len(self.words) != len(self.rungs):
            raise PlanError("grade_broken", growth=self.growth.value, rungs=len(self.rungs))
        if self.targets and len(self.targets) != len(self.rungs):
            raise PlanError("grade_broken", growth=self.growth.value, rungs=len(self.rungs))
        if len(self.codes) != (len(self.rungs) if self.growth in NAMED_RUNGS else 0):
            raise PlanError("grade_broken", growth=self.growth.value, rungs=len(self.rungs))
        if len(self.rungs) > MOST_RUNGS:
            raise PlanError("grade_broken", growth=self.growth.value, rungs=len(self.rungs))
        if not 0 <= self.rung < len(self.rungs):
            raise PlanError("rung_unknown", rung=self.rung, rungs=len(self.rungs))
        for value in (*self.rungs, *((self.goal,) if self.goal is not None else ())):
            rung_within(self.growth, value)
        if self.shown is not None:
            shown_within(self.growth, self.shown)

    @property
    def value(self) -> float:
        """The value of the present rung."""
        return self.rungs[self.rung]

    @property
    def code(self) -> str:
        """The code of the present rung; "" where rungs are numbers."""
        return self.codes[self.rung] if self.codes else ""


@dataclass(frozen=True, slots=True, kw_only=True)
class LevelAim(Strict):
    """How strong: dB over the client's own conversation, or physical effort of 10, or both."""

    over_db: float | None = None
    effort_low: int | None = None
    effort_high: int | None = None
    because: Because

    def __post_init__(self) -> None:
        if self.over_db is None and self.effort_low is None:
            raise PlanError("level_without_aim")
        if self.over_db is not None:
            LEVEL_OVER_DB.check("level over the reference", self.over_db)
        if (self.effort_low is None) != (self.effort_high is None):
            raise PlanError("level_without_aim")
        if self.effort_low is not None and self.effort_high is not None:
            replace(EFFORT, high=self.effort_high).check("effort", self.effort_low)
            replace(EFFORT, low=self.effort_low).check("effort", self.effort_high)


@dataclass(frozen=True, slots=True, kw_only=True)
class Tube(Strict):
    """A straw or tube: inner width, length, depth in water (0 = in air), what it resists.

    depth is vertical, from the surface to the opening. `back_pressure_cmh2o` at `flow_ml_s`.
    deepest_cm: the deepest the product allows at home for what the tube is for.
    """

    bore_mm: Annotated[float, BORE_MM.told]
    length_cm: Annotated[float, TUBE_LENGTH_CM.told]
    depth_cm: Annotated[float, DEPTH_CM.told]
    deepest_cm: float
    flow_ml_s: Annotated[float, FLOW_ML_S.told]
    back_pressure_cmh2o: float
    because: Because

    def __post_init__(self) -> None:
        BORE_MM.check("bore", self.bore_mm)
        TUBE_LENGTH_CM.check("length", self.length_cm)
        DEPTH_CM.check("depth", self.depth_cm)
        FLOW_ML_S.check("flow", self.flow_ml_s)
        within("deepest_cm", self.deepest_cm)
        within("back_pressure_cmh2o", self.back_pressure_cmh2o)


@dataclass(frozen=True, slots=True, kw_only=True)
class Step(Strict):
    """One task of a program. `step_id` (UUID text) lasts from version to version.

    because: why this task is here.
    """

    step_id: str
    task: str
    phase: Phase
    kind: Annotated[str, Field(json_schema_extra=_named_kinds)]
    voiced: bool
    name: str
    sound: str
    instruction: str
    caution: str
    because: Because | None = None
    repetitions: Annotated[int, REPETITIONS.field]
    rest_s: Annotated[float, REST_S.field]
    target: StepTarget
    grade: Grade | None = None
    level: LevelAim | None = None
    tube: Tube | None = None
    touches: tuple[Touch, ...] = ()
    presented: Presentation = AS_EVER

    def __post_init__(self) -> None:
        if not 1 <= self.repetitions <= 10:
            raise PlanError("repetitions_out_of_limits", came=self.repetitions, low=1, high=10)
        if not 0 <= self.rest_s <= 300:
            raise PlanError("rest_out_of_limits", seconds=self.rest_s, low=0, high=300)
        if not can_take(self.kind, self.target.form):
            raise PlanError("step_without_target", step=self.name)

    @property
    def holds(self) -> tuple[HoldTarget, ...]:
        """The notes held, one after the other; none for other targets."""
        return self.target.holds if isinstance(self.target, Holds) else ()

    @property
    def glide(self) -> GlidePath | None:
        return self.target if isinstance(self.target, GlidePath) else None

    @property
    def attempts(self) -> int:
        """How many attempts one home session asks for."""
        return self.repetitions * self.target.attempts

    @property
    def starts(self) -> int:
        """How often something is begun after a reference tone or a breath; the keys of a pattern
        run on without one."""
        return self.attempts if self.target.each_starts else self.repetitions

    @property
    def prepared(self) -> bool:
        """Whether each start has a reference tone and a breath before it."""
        return self.target.prepared

    @property
    def active_s(self) -> float:
        """Seconds of doing in one home session, without rests."""
        return self.target.seconds * self.repetitions

    @property
    def voiced_s(self) -> float:
        """Voiced seconds of one home session; of speech, counted and timed tasks a share."""
        if not self.voiced:
            return 0.0
        if self.target.partly_voiced:
            return self.active_s * SPEECH_VOICED
        return self.repetitions * sum(seconds for _a, _b, seconds in self.target.pitches())

    @property
    def shown_air_s(self) -> float | None:
        """The longest /s/ it was fitted to, s; None where it was fitted to none."""
        grade = self.grade
        if grade is None or grade.shown is None or self.target.air_s(None) is None:
            return None
        if grade.growth is Growth.SECONDS:
            return grade.shown
        beat_s = self.target.beat_s
        return grade.shown * beat_s if grade.growth is Growth.BEATS_OUT and beat_s else None

    def air_lengths_s(self) -> tuple[tuple[float, float], ...]:
        """How long air must last, s, and the share of the longest /s/ it may take: what is asked now and, where it
        climbs in time, at its last rung."""
        in_time = self.grade is not None and self.grade.growth in (Growth.SECONDS, Growth.BEATS_OUT)
        longest = self.target.air_s(self.grade.rungs[-1]) if in_time and self.grade else None
        now = self.target.air_s(None)
        share = self.target.air_share
        return tuple((seconds, share) for seconds in dict.fromkeys((now, longest)) if seconds)

    @property
    def measured(self) -> str | None:
        """The kind its sound is measured as; None for what is only timed or counted."""
        return measured_kind(self.kind)

    @property
    def rung(self) -> int:
        """The present rung, from 0; 0 for a step that is not graded."""
        return self.grade.rung if self.grade else 0

    def with_holds(self, holds: tuple[HoldTarget, ...]) -> "Step":
        """The same step with other holds."""
        if not isinstance(self.target, Holds):
            raise PlanError("step_without_target", step=self.name)
        return replace(self, target=replace(self.target, holds=holds))
