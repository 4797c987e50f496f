"""How long one home session takes."""

from dataclasses import dataclass

from core.plans.program import Program
from core.reference.values import TONE_AND_BREATH_SECONDS


@dataclass(frozen=True, slots=True)
class SessionLength:
    """Seconds of one home session: voiced, resting, reference tones and breaths."""

    attempts: int
    voiced_s: float
    rest_s: float
    tones_s: float

    @property
    def total_s(self) -> float:
        return self.voiced_s + self.rest_s + self.tones_s

    @property
    def minutes(self) -> float:
        return self.total_s / 60


def session_length(program: Program) -> SessionLength:
    """Length of one home session; a rest lies between two attempts, none after the last."""
    attempts = sum(step.attempts for step in program.steps)
    rests = sum(step.rest_s * step.attempts for step in program.steps) - program.steps[-1].rest_s
    return SessionLength(
        attempts=attempts,
        voiced_s=sum(step.voiced_s for step in program.steps),
        rest_s=rests,
        tones_s=attempts * TONE_AND_BREATH_SECONDS.number,
    )


def voiced_minutes_a_week(program: Program) -> float:
    """Voiced minutes in a full week of the dose."""
    sessions = program.dose.sessions_a_day * program.dose.days_a_week
    return session_length(program).voiced_s * sessions / 60
