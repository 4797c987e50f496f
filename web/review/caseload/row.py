"""Reads a caseload row, and the client's file that starts from it."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from functools import cached_property
from typing import Any, Self

from pydantic import TypeAdapter

from core.dose.tide import Done, Prescribed, Stroke, TideDay, tide_days
from core.formats.program_file import dose_of
from core.program.dosing import Dose
from core.safety.circumstances import Living
from core.safety.gate import Gate
from core.safety.inferred import without_reports
from core.safety.program_gate import program_gate
from core.safety.screening import Screening
from core.safety.stop import OpenSign, StopSign
from web.clinic import clock
from web.clinic.clock import local_date
from web.review.caseload.facts import DOES, LIVING, SCREENING
from web.review.course_file import CourseFile
from web.review.models import CaseloadRow


@dataclass(frozen=True)
class _Course:
    code: str
    name: str
    points: list[tuple[date, float, float | None]]


@dataclass(frozen=True)
class _Handed:
    by: str
    on: date
    note: str


@dataclass(frozen=True)
class _Stored:
    """What a line of Rounds reads of the columns that hold several values."""

    recent: list[tuple[date, Stroke, str]]
    stretches: list[tuple[date, date | None, Dose, str]]
    course: _Course | None
    handed: _Handed | None
    stop_sign: StopSign | None


_STORED = TypeAdapter(_Stored)


def check_stored(row: CaseloadRow) -> None:
    """ValidationError where the row does not hold what a line of Rounds reads of it."""
    names = ("recent", "stretches", "course", "handed")
    held = {name: getattr(row, name) or None for name in names}
    held |= {name: held[name] or [] for name in ("recent", "stretches")}
    _STORED.validate_python({**held, "stop_sign": row.stop_sign or None})


def recent_done(row: CaseloadRow) -> list[Done]:
    """The home sessions of the last 60 days, from the row alone."""
    return [
        Done(date.fromisoformat(day), Stroke(stroke), routine)
        for day, stroke, routine in row.recent
    ]


def days_of(row: CaseloadRow, *, today: date, back: int) -> tuple[TideDay, ...]:
    """The tide days of the last `back` days from a row alone."""
    return tide_days(
        [_stretch(data) for data in row.stretches],
        recent_done(row),
        first=today - timedelta(days=back - 1),
        last=today,
        today=today,
    )


class RowFile(CourseFile):
    """The client's file, with the parts stored in the caseload row read from there without a query.

    row: with its client and clinic; the other parameters as of `CourseFile`.
    """

    def __init__(
        self, row: CaseloadRow, today: date, *, since: date | None = None, until: date | None = None
    ) -> None:
        super().__init__(row.client, today, since=since, until=until)
        self.row = row

    @classmethod
    def of(cls, row: CaseloadRow) -> Self:
        """The file for today in the client's time zone."""
        return cls(row, local_date(clock.now(), row.client.time_zone))

    @cached_property
    def screening(self) -> Screening | None:
        if self.row.screening is None:
            return None
        stands = SCREENING.validate_python(self.row.screening["stands"])
        return replace(stands, minor=self.age_years < 18, age_years=self.age_years)

    @cached_property
    def living(self) -> Living:
        return LIVING.validate_python((self.row.screening or {}).get("living", {}))

    @cached_property
    def running_gate(self) -> Gate:
        row, known = self.row, self.row.screening or {}
        active = row.active_since is not None
        screening = self.screening
        if screening is not None and known.get("restarts"):
            screening = without_reports(screening)
        return program_gate(
            screening,
            DOES.validate_python(known.get("program_does", ())),
            self.today,
            self._occasion(
                first=not active, imported=known.get("taken_in", False), strong_runs=active
            ),
        )

    @cached_property
    def signs(self) -> Sequence[OpenSign]:
        return [OpenSign(StopSign(sign), step_id) for sign, step_id in self.row.open_signs]

    @cached_property
    def flags_said(self) -> Sequence[str]:
        return self.row.flags_said

    @cached_property
    def recent(self) -> list[Done]:
        return recent_done(self.row)

    @cached_property
    def last_session(self) -> date | None:
        return self.row.last_session

    @cached_property
    def families(self) -> dict[str, str]:
        return self.row.families

    @cached_property
    def visits(self) -> list[list[Any]]:
        return self.row.visits

    def tide(self, *, back: int) -> tuple[TideDay, ...]:
        """The tide days of the last `back` days."""
        return days_of(self.row, today=self.today, back=back)


def _stretch(data: list) -> Prescribed:
    first, last, dose, routine = data
    return Prescribed(
        routine=routine, first=date.fromisoformat(first), last=_date(last), dose=dose_of(dose)
    )


def _date(text: str | None) -> date | None:
    return date.fromisoformat(text) if text else None
