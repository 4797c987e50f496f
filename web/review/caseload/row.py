"""What a caseload row says, read from the row alone, and the history it is part of."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta

from pydantic import TypeAdapter

from core.dose.tide import Done, Prescribed, Stroke, TideDay, tide_days
from core.formats.program_file import dose_of
from core.grading.history import History
from core.program.dosing import Dose
from core.safety.circumstances import Living
from core.safety.gate import Gate
from core.safety.inferred import without_reports
from core.safety.program_gate import program_gate
from core.safety.screening import Screening
from core.safety.stop import OpenSign, StopSign
from web.clients.measured import MeasuredView
from web.clients.models import Client
from web.practice.models import Entry
from web.programs.gates import occasion_with
from web.programs.models import ProgramVersion
from web.review.caseload.facts import DOES, LIVING, SCREENING
from web.review.models import CaseloadRow, Decision
from web.review.results.history import history_of


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


def signs_from(row: CaseloadRow) -> list[OpenSign]:
    """The stop signs nobody has cleared, from the row alone."""
    return [OpenSign(StopSign(sign), step_id) for sign, step_id in row.open_signs]


def days_of(row: CaseloadRow, *, today: date, back: int) -> tuple[TideDay, ...]:
    """The tide days of the last `back` days from a row alone."""
    return tide_days(
        [_stretch(data) for data in row.stretches],
        recent_done(row),
        first=today - timedelta(days=back - 1),
        last=today,
        today=today,
    )


def gate_from(row: CaseloadRow, screening: Screening | None, today: date) -> Gate:
    """The gate of the active program as it stands today, from the row alone."""
    known = row.screening or {}
    doings = DOES.validate_python(known.get("program_does", ()))
    occasion = occasion_with(
        row.client.clinic,
        first=row.active_since is None,
        taken_in=known.get("taken_in", False),
        strong_runs=row.active_since is not None,
    )
    if screening is not None and known.get("restarts"):
        screening = without_reports(screening)
    return program_gate(screening, doings, today, occasion)


def screening_from(row: CaseloadRow, client: Client, today: date) -> Screening | None:
    """The latest screening as the rules read it, from the row alone."""
    if row.screening is None:
        return None
    stands = SCREENING.validate_python(row.screening["stands"])
    age_years = client.age_on(today)
    return replace(stands, minor=age_years < 18, age_years=age_years)


def history_from(
    row: CaseloadRow,
    versions: Sequence[ProgramVersion],
    last: date,
    *,
    screening: Screening | None,
    measured: Sequence[MeasuredView],
    decided: Iterable[Decision] = (),
    said: Iterable[Entry],
    since: date | None = None,
) -> History | None:
    """The history of the row's client up to a day, as `history_of` reads it."""
    return history_of(
        row.client,
        versions,
        last,
        recent=recent_done(row),
        screening=screening,
        measured=measured,
        signs=signs_from(row),
        families=row.families,
        visits=row.visits,
        decided=decided,
        said=said,
        living=living_from(row),
        flags=row.flags_said,
        since=since,
    )


def living_from(row: CaseloadRow) -> Living:
    """How the client lives, from the row alone."""
    return LIVING.validate_python((row.screening or {}).get("living", {}))


def _stretch(data: list) -> Prescribed:
    first, last, dose, routine = data
    return Prescribed(
        routine=routine, first=date.fromisoformat(first), last=_date(last), dose=dose_of(dose)
    )


def _date(text: str | None) -> date | None:
    return date.fromisoformat(text) if text else None
