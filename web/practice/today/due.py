"""What is due today, as the Today page lists it."""

from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date
from typing import Self

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from core.catalogue.tasks import Task
from core.catalogue.words import EQUIPMENT_WORDS
from core.dose.calendar import times_of_day
from core.dose.minutes import minutes_at_home
from core.errors import PlanError
from core.program.routine import Routine
from core.program.step import Step
from web.clients.models import Client
from web.design.dates import clock_time
from web.design.speaking import in_their_words
from web.practice.models import HomeSession, Outcome
from web.practice.player.routine_words import routine_words, when_words
from web.practice.player.target_words import step_words
from web.practice.today.practicable import Practicable, PracticableRoutine


def done_today(client: Client, today: date) -> Counter[str]:
    """Home sessions kept, shortened or stopped on that local date, by the key of the routine."""
    done = [Outcome.KEPT, Outcome.SHORT, Outcome.STOPPED]
    rows = HomeSession.objects.filter(client=client, practice_day=today, outcome__in=done)
    return Counter(rows.values_list("routine", flat=True))


def next_due(
    can: Practicable, asked: Mapping[str, int], done: Mapping[str, int]
) -> PracticableRoutine:
    """The first routine that is still due today, else the first of which something can be done."""

    def due(one: PracticableRoutine) -> bool:
        return asked.get(one.routine.key, 0) > done.get(one.routine.key, 0)

    able = [one for one in can.routines if one.steps] or list(can.routines)
    return next(filter(due, able), able[0])


@dataclass(frozen=True)
class StepToday:
    """A step as Today lists it, in the client's words."""

    name: str
    words: str
    repetitions: int

    @classmethod
    def of(cls, step: Step) -> Self:
        return cls(in_their_words(step.name), step_words(step), step.repetitions)


@dataclass(frozen=True)
class RoutineToday:
    """A routine as Today shows it: how often it is asked for and done today, its minutes, its steps
    in the client's words."""

    key: str
    name: str
    when: str
    asked: int
    done: int
    minutes: float
    steps: list[StepToday]
    short_day: StepToday | None
    times: str = ""
    at_hand: str = ""

    @property
    def left(self) -> int:
        return max(self.asked - self.done, 0)

    @property
    def length(self) -> str:
        """How long it takes, in words."""
        whole = round(self.minutes)
        if not whole:
            return _("under a minute")
        return ngettext("about %(count)s minute", "about %(count)s minutes", whole) % {
            "count": whole
        }

    @property
    def turn(self) -> int:
        """Which of today's the next one is, from 1."""
        return self.done + 1


def times_words(routine: Routine, count: int) -> str:
    """When it is best done, "8:00, 18:00"; "" where it is not asked for or the day is too full."""
    try:
        times = times_of_day(routine.dose, count) if count else ()
    except PlanError:
        return ""
    return ", ".join(map(clock_time, times))


def things_at_hand(steps: Iterable[Step], tasks: Mapping[str, Task]) -> str:
    """The things its tasks need."""
    needed = {thing for step in steps if step.task in tasks for thing in tasks[step.task].equipment}
    return ", ".join(str(EQUIPMENT_WORDS[thing]) for thing in sorted(needed))


def due_today(
    can: Practicable,
    asked: Mapping[str, int],
    done: Mapping[str, int],
    tasks: Mapping[str, Task],
) -> list[RoutineToday]:
    """Every routine, those that are still due first. tasks: the clinic's catalogue."""
    found = [
        RoutineToday(
            key=one.routine.key,
            name=routine_words(one.routine),
            when=when_words(one.routine),
            asked=asked.get(one.routine.key, 0),
            done=done.get(one.routine.key, 0),
            minutes=minutes_at_home(one.steps),
            steps=[StepToday.of(step) for step in one.steps],
            short_day=StepToday.of(one.short_day) if one.short_day else None,
            times=times_words(one.routine, asked.get(one.routine.key, 0)),
            at_hand=things_at_hand(one.steps, tasks),
        )
        for one in can.routines
    ]
    return sorted(found, key=lambda one: not one.left)
