"""What the Client page shows of visits, of putting off and of handing over."""

from dataclasses import dataclass
from datetime import date
from typing import Any

from web.clinic.models import User
from web.review.caseload.rounds import handed_words
from web.review.caseload.row import RowFile
from web.review.course_file import CourseFile


@dataclass(frozen=True)
class Visits:
    """The latest visit with its note and the next; overdue: it is past and no visit was kept since."""

    latest: date | None
    note: str
    next_on: date | None
    overdue: bool


def latest_visit(file: CourseFile) -> Visits:
    """The latest visit and the next."""
    if not file.visits:
        return Visits(None, "", None, overdue=False)
    day, _held, _corrects, following, note = file.visits[-1]
    next_on = date.fromisoformat(following) if following else None
    return Visits(date.fromisoformat(day), note, next_on, bool(next_on and next_on < file.today))


def care_of(file: RowFile, *, user: User) -> dict[str, Any]:
    """For the template: visits, who handed the client over, until when it is put off."""
    row = file.row
    away = row.snoozed_until if row.snoozed_until and row.snoozed_until > file.today else None
    return {
        "visits": latest_visit(file),
        "handed": handed_words(row.handed),
        "handed_to_me": bool(row.handed) and file.client.clinician_id == user.pk,
        "put_off_until": away,
    }
