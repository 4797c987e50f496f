"""The rows and columns of a practice sheet: attempts down, home sessions of the days across."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum

from core.dose.tide import Prescribed
from core.errors import PlanError
from core.notes.note import Note
from core.program.asked import asked_of
from core.program.routine import Routine
from core.program.step import Step
from core.program.targets import Blow, Holds

MOST_DAYS = 28
MOST_TIMES = 120
MOST_A_DAY = 6
OLDEST_DAYS = 398
"""What was practiced longer ago is not taken any more; an attempt reaches the record at most 400 days after it was
made, whatever the zone."""


class Wants(StrEnum):
    """What is written into a cell: the seconds of each try, the count of each try, or how many times it was
    done."""

    SECONDS = "seconds"
    COUNT = "count"
    TIMES = "times"


@dataclass(frozen=True, slots=True, kw_only=True)
class SheetRow:
    """One line of a sheet. place: of the step's target, None = the step as a whole; tries: how many numbers
    a cell takes, of TIMES how often it is asked for; target_s: seconds of one try; count: how many are
    counted in one; note: what is held, where it is a note."""

    step: Step
    place: int | None
    wants: Wants
    tries: int
    target_s: float
    count: int | None = None
    note: Note | None = None

    @property
    def key(self) -> str:
        """Its name in forms, unique in a program."""
        return f"{self.step.step_id}.{'all' if self.place is None else self.place}"


@dataclass(frozen=True, slots=True, kw_only=True)
class SheetColumn:
    """One home session of a day: turn from 1; asked: whether it is prescribed, a day without one has a
    column all the same, for what was done on top."""

    day: date
    routine: str
    turn: int
    asked: bool

    @property
    def key(self) -> str:
        """Its name in forms: "2026-06-15.ladder.1"."""
        return f"{self.day.isoformat()}.{self.routine}.{self.turn}"

    @classmethod
    def named(cls, key: str) -> "SheetColumn":
        """A column by its name; PlanError("column_unknown") for what is none."""
        try:
            day, routine, turn = key.split(".")
            found = cls(day=date.fromisoformat(day), routine=routine, turn=int(turn), asked=True)
        except ValueError as error:
            raise PlanError("column_unknown", came=key, example="2026-06-15.ladder.1") from error
        if not 1 <= found.turn <= MOST_A_DAY or found.key != key:
            raise PlanError("column_unknown", came=key, example="2026-06-15.ladder.1")
        return found


def rows_of(routine: Routine) -> tuple[SheetRow, ...]:
    """The lines of a routine in the order of its steps: a note held and air let go have their seconds,
    what is counted its count, all else is ticked as often as it was done."""
    return tuple(row for step in routine.steps for row in _rows(step))


def _rows(step: Step) -> list[SheetRow]:
    places = range(step.target.attempts)
    first = asked_of(step, 0)
    if isinstance(step.target, Holds | Blow):
        return [
            SheetRow(
                step=step,
                place=place,
                wants=Wants.SECONDS,
                tries=step.repetitions,
                target_s=asked.seconds,
                note=asked.note,
            )
            for place, asked in ((place, asked_of(step, place)) for place in places)
        ]
    if first.count is not None and step.measured is None and len(places) == 1:
        return [
            SheetRow(
                step=step,
                place=0,
                wants=Wants.COUNT,
                tries=step.repetitions,
                target_s=first.seconds,
                count=first.count,
            )
        ]
    return [
        SheetRow(
            step=step,
            place=None,
            wants=Wants.TIMES,
            tries=step.attempts,
            target_s=first.seconds,
        )
    ]


def columns_of(
    routine: str, stretches: Sequence[Prescribed], *, first: date, days: int, more: int = 0
) -> tuple[SheetColumn, ...]:
    """A column for each home session of a routine that is asked for on these days, at least one a day; more: so
    many on top of each day, at most six in all.

    Raises PlanError("sheet_too_long") for other than 1–28 days.
    """
    if not 1 <= days <= MOST_DAYS:
        raise PlanError("sheet_too_long", came=days, low=1, high=MOST_DAYS)
    found = []
    for day in (first + timedelta(days=offset) for offset in range(days)):
        asked = sum(one.on(day) for one in stretches if one.routine == routine)
        found += [
            SheetColumn(day=day, routine=routine, turn=turn + 1, asked=turn < asked)
            for turn in range(min(max(asked, 1) + more, MOST_A_DAY))
        ]
    return tuple(found)
