"""What a session and a week ask of the voice: minutes, voiced minutes, repetitions, cycles."""

import math
from dataclasses import dataclass

from core.dose.minutes import session_length
from core.plans.dosing import Dose
from core.plans.known import Limits
from core.plans.program import Program
from core.plans.step import Step
from core.reference.values import MINUTES_A_WEEK, VOICED_MINUTES_A_WEEK


@dataclass(frozen=True, slots=True, kw_only=True)
class Load:
    """One home session and a full week of them. cycles: openings and closings of the folds."""

    session_min: float
    voiced_min: float
    repetitions: int
    cycles: float
    sessions_a_week: int

    @property
    def week_min(self) -> float:
        return self.session_min * self.sessions_a_week

    @property
    def voiced_week_min(self) -> float:
        return self.voiced_min * self.sessions_a_week

    @property
    def cycles_a_week(self) -> float:
        return self.cycles * self.sessions_a_week


def load_of(program: Program) -> Load:
    """The load of a program. Cycle dose = ∫F0 dt over voiced time, J Speech Lang Hear Res
    2003;46:919–932; speech and free voice at the comfortable speaking note, or for want of it a
    quarter of the way up the range."""
    length = session_length(program)
    return Load(
        session_min=length.minutes,
        voiced_min=length.voiced_s / 60,
        repetitions=length.attempts,
        cycles=sum(_cycles(step, program) for step in program.steps),
        sessions_a_week=sessions_a_week(program.dose),
    )


def sessions_a_week(dose: Dose) -> int:
    """Home sessions of a full week: one on days of a visit."""
    on_visits = len(set(dose.visit_weekdays) & set(dose.weekdays or range(1, 8)))
    return dose.sessions_a_day * dose.days_a_week - on_visits * (dose.sessions_a_day - 1)


def mean_hz(low_hz: float, high_hz: float) -> float:
    """Mean frequency in Hz of a slide that is even in semitones: (f2 − f1) ÷ ln(f2 ÷ f1)."""
    if math.isclose(low_hz, high_hz):
        return low_hz
    return (high_hz - low_hz) / math.log(high_hz / low_hz)


def _cycles(step: Step, program: Program) -> float:
    if not step.voiced:
        return 0.0
    a4 = program.a4_hz
    stretches = [
        (mean_hz(first.hz(a4), last.hz(a4)), seconds)
        for first, last, seconds in step.target.pitches()
    ]
    if stretches:
        return step.repetitions * sum(hz * seconds for hz, seconds in stretches)
    return _speaking_hz(program) * step.voiced_s


def _speaking_hz(program: Program) -> float:
    comfort = program.comfort
    return comfort.assumed_speaking.hz(program.a4_hz) if comfort else 0.0


def load_notices(load: Load, limits: Limits) -> tuple[str, ...]:
    """Sentences where the load lies over the limits of client or clinic, or their defaults."""
    found = []
    most_week = limits.minutes_a_week or MINUTES_A_WEEK.number
    if limits.minutes_a_session and load.session_min > limits.minutes_a_session + 0.05:
        found.append(
            f"A home session takes {load.session_min:.1f} min, "
            f"the limit is {limits.minutes_a_session:g} min."
        )
    if load.week_min > most_week:
        found.append(f"The week takes {load.week_min:.0f} min, the limit is {most_week:g} min.")
    if load.voiced_week_min > VOICED_MINUTES_A_WEEK.number:
        found.append(
            f"{load.voiced_week_min:.0f} voiced minutes a week are over "
            f"{VOICED_MINUTES_A_WEEK.number:g}."
        )
    return tuple(found)
