"""What a session and a week ask of the voice: minutes, voiced minutes, repetitions, cycles."""

import math
from dataclasses import dataclass

from core.dose.minutes import session_length
from core.fitting.known import Limits
from core.program.dosing import Dose
from core.program.program import Program
from core.program.routine import Routine
from core.program.step import Step
from core.reason import Reason, says
from core.reference.values import MINUTES_A_WEEK, VOICED_MINUTES_A_WEEK

_SESSION_OVER = says(
    "session_over", "A home session takes {minutes:.1f} min, the limit is {most:g} min."
)
_WEEK_OVER = says("week_over", "The week takes {minutes:.0f} min, the limit is {most:g} min.")
_VOICED_OVER = says("voiced_week_over", "{minutes:.0f} voiced minutes a week are over {most:g}.")


@dataclass(frozen=True, slots=True, kw_only=True)
class RoutineLoad:
    """One sitting of a routine and a full week of them. cycles: openings and closings of the
    folds."""

    routine: str
    session_min: float
    voiced_min: float
    repetitions: int
    cycles: float
    sessions_a_day: int
    sessions_a_week: int

    @property
    def week_min(self) -> float:
        return self.session_min * self.sessions_a_week

    @property
    def voiced_week_min(self) -> float:
        return self.voiced_min * self.sessions_a_week


@dataclass(frozen=True, slots=True)
class Load:
    """What a whole program asks of a day and a week, routine by routine."""

    routines: tuple[RoutineLoad, ...]

    def of(self, routine: str) -> RoutineLoad:
        """The load of the routine of that key."""
        return next(one for one in self.routines if one.routine == routine)

    @property
    def sessions_a_week(self) -> int:
        return sum(one.sessions_a_week for one in self.routines)

    @property
    def day_min(self) -> float:
        """Minutes of a day on which everything is asked for."""
        return sum(one.session_min * one.sessions_a_day for one in self.routines)

    @property
    def week_min(self) -> float:
        return sum(one.week_min for one in self.routines)

    @property
    def voiced_week_min(self) -> float:
        return sum(one.voiced_week_min for one in self.routines)

    @property
    def cycles_a_week(self) -> float:
        return sum(one.cycles * one.sessions_a_week for one in self.routines)


def load_of(program: Program) -> Load:
    """The load of a program. Cycle dose = ∫F0 dt over voiced time, J Speech Lang Hear Res
    2003;46:919–932; speech and free voice at the comfortable speaking note, or for want of it a
    quarter of the way up the range."""
    return Load(tuple(_routine_load(one, program) for one in program.routines))


def _routine_load(routine: Routine, program: Program) -> RoutineLoad:
    length = session_length(routine)
    return RoutineLoad(
        routine=routine.key,
        session_min=length.minutes,
        voiced_min=length.voiced_s / 60,
        repetitions=length.attempts,
        cycles=sum(_cycles(step, program) for step in routine.steps),
        sessions_a_day=routine.dose.sessions_a_day,
        sessions_a_week=sessions_a_week(routine.dose),
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


def load_notices(load: Load, limits: Limits) -> tuple[Reason, ...]:
    """Where the load lies over the limits of client or clinic, or their defaults."""
    found = []
    most_week = limits.minutes_a_week or MINUTES_A_WEEK.number
    longest = max(one.session_min for one in load.routines)
    if limits.minutes_a_session and longest > limits.minutes_a_session + 0.05:
        found.append(_SESSION_OVER(minutes=longest, most=limits.minutes_a_session))
    if load.week_min > most_week:
        found.append(_WEEK_OVER(minutes=load.week_min, most=most_week))
    if load.voiced_week_min > VOICED_MINUTES_A_WEEK.number:
        most = VOICED_MINUTES_A_WEEK.number
        found.append(_VOICED_OVER(minutes=load.voiced_week_min, most=most))
    return tuple(found)
