"""How long one home session takes."""

from collections.abc import Sequence
from dataclasses import dataclass

from core.program.routine import Routine
from core.program.step import Step
from core.reference.values import LEAD_IN_SECONDS, STEP_READING_SECONDS, TONE_AND_BREATH_SECONDS


@dataclass(frozen=True, slots=True)
class SessionLength:
    """Seconds of one home session: doing (of which voiced), resting, reference tones and breaths."""

    attempts: int
    active_s: float
    voiced_s: float
    rest_s: float
    tones_s: float

    @property
    def total_s(self) -> float:
        return self.active_s + self.rest_s + self.tones_s

    @property
    def minutes(self) -> float:
        return self.total_s / 60


def minutes_at_home(steps: Sequence[Step]) -> float:
    """Minutes a client needs for some steps: doing them, reading each one, and the lead-in of each attempt."""
    length = length_of(steps)
    besides_s = STEP_READING_SECONDS.number * len(steps) + LEAD_IN_SECONDS.number * length.attempts
    return (length.total_s + besides_s) / 60


def session_length(routine: Routine) -> SessionLength:
    """Length of one sitting; a rest lies between two starts, none after the last."""
    return length_of(routine.steps)


def minutes_by_step(steps: Sequence[Step]) -> list[float]:
    """Minutes of each step with the rest after it; together they are those of the session."""
    return [
        (length_of((step,)).total_s + (step.rest_s if place + 1 < len(steps) else 0)) / 60
        for place, step in enumerate(steps)
    ]


def length_of(steps: Sequence[Step]) -> SessionLength:
    """Length of some steps done one after the other; 0 for none."""
    rests = sum(step.rest_s * step.starts for step in steps)
    prepared = sum(step.starts for step in steps if step.prepared)
    return SessionLength(
        attempts=sum(step.attempts for step in steps),
        active_s=sum(step.active_s for step in steps),
        voiced_s=sum(step.voiced_s for step in steps),
        rest_s=rests - (steps[-1].rest_s if steps else 0),
        tones_s=prepared * TONE_AND_BREATH_SECONDS.number,
    )
