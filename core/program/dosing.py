"""How often: home sessions a day, days, weeks, times of the day, days away, taper."""

from dataclasses import dataclass
from datetime import date, time
from enum import StrEnum
from typing import Annotated

from core.errors import PlanError
from core.program import limits
from core.program.targets import Strict


class When(StrEnum):
    """Where in the day home sessions lie.

    any: anywhere outside the quiet hours; morning: before 12:00; evening: from 17:00; working_hours:
    every few hours at work; before_use, after_use: before and after the voice is used (talks, calls,
    an event).
    """

    ANY = "any"
    MORNING = "morning"
    EVENING = "evening"
    WORKING_HOURS = "working_hours"
    BEFORE_USE = "before_use"
    AFTER_USE = "after_use"


@dataclass(frozen=True, slots=True, kw_only=True)
class Away(Strict):
    """Days without practice, first and last included."""

    first: date
    last: date

    def __post_init__(self) -> None:
        if self.last < self.first:
            raise PlanError(
                "calendar_upside_down", first=self.first.isoformat(), last=self.last.isoformat()
            )


@dataclass(frozen=True, slots=True, kw_only=True)
class TaperStage(Strict):
    """One stage of a taper: home sessions on every n-th day, attempts a target, weeks it lasts."""

    words: str
    sessions_a_day: int
    every_days: int
    repetitions: int
    weeks: int

    def __post_init__(self) -> None:
        limits.SESSIONS_A_DAY.check("sessions a day", self.sessions_a_day)
        limits.EVERY_DAYS.check("every days", self.every_days)
        limits.REPETITIONS.check("repetitions", self.repetitions)
        limits.WEEKS.check("weeks", self.weeks)


SUSTAINED_TAPER = (
    TaperStage(
        words="both attempts, once a day", sessions_a_day=1, every_days=1, repetitions=2, weeks=1
    ),
    TaperStage(
        words="one attempt, once a day", sessions_a_day=1, every_days=1, repetitions=1, weeks=1
    ),
    TaperStage(
        words="one attempt, every other day", sessions_a_day=1, every_days=2, repetitions=1, weeks=1
    ),
    TaperStage(
        words="one attempt, once a week", sessions_a_day=1, every_days=7, repetitions=1, weeks=4
    ),
)
"""The taper of the sustained notes; best under 85 % of the goal = back one stage (clinical default)."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Dose(Strict):
    """How often: home sittings a day, days a week, weeks; and where in the day they may lie.

    weekdays: ISO numbers, 1 = Monday, as many as days_a_week; empty = the first days of each week
    of the program. spacing_h: least hours between two starts. times: preferred local times.
    No home session starts in the quiet hours (local, may cross midnight) nor, where `work_from`
    and `work_to` are set (resets), outside working hours. visit_weekdays: on them one home session.
    short_day_min: minutes of the version for a bad day, which counts as kept.
    """

    when: When = When.ANY
    sessions_a_day: Annotated[int, limits.SESSIONS_A_DAY.field] = 2
    days_a_week: Annotated[int, limits.DAYS_A_WEEK.field] = 7
    weeks: Annotated[int, limits.WEEKS.field] = 6
    starts_on: date | None = None
    weekdays: tuple[int, ...] = ()
    visit_weekdays: tuple[int, ...] = ()
    spacing_h: float = 3.0
    times: tuple[time, ...] = ()
    quiet_from: time = time(21, 0)
    quiet_to: time = time(7, 0)
    work_from: time | None = None
    work_to: time | None = None
    away: tuple[Away, ...] = ()
    short_day_min: float | None = None
    taper: tuple[TaperStage, ...] = ()

    def __post_init__(self) -> None:
        for name, low, high in (
            ("sessions_a_day", 1, 6),
            ("days_a_week", 1, 7),
            ("weeks", 1, 26),
            ("spacing_h", 0.25, 12),
        ):
            came = getattr(self, name)
            if not low <= came <= high:
                raise PlanError("dose_out_of_limits", which=name, came=came, low=low, high=high)
        for name, days in (("weekdays", self.weekdays), ("visit days", self.visit_weekdays)):
            if len(set(days)) != len(days) or not all(1 <= day <= 7 for day in days):
                raise PlanError("weekday_unknown", which=name, came=list(days), low=1, high=7)
        if self.weekdays and len(self.weekdays) != self.days_a_week:
            raise PlanError(
                "weekdays_not_days_a_week", came=len(self.weekdays), expected=self.days_a_week
            )
        if (self.work_from is None) != (self.work_to is None) or (
            self.work_from and self.work_to and self.work_to <= self.work_from
        ):
            raise PlanError("work_hours_upside_down", came=[str(self.work_from), str(self.work_to)])
        if self.short_day_min is not None:
            limits.SHORT_DAY_MIN.check("short day", self.short_day_min)
