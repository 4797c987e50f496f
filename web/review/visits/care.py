"""What the Client page shows of visits, of putting off and of handing over."""

from dataclasses import dataclass
from datetime import date
from typing import Any

from web.clients.models import Client
from web.clinic.models import User
from web.review.caseload.rounds import handed_words
from web.review.models import CaseloadRow


@dataclass(frozen=True)
class Visits:
    """The latest visit with its note and the next; overdue: it is past and no visit was kept since."""

    latest: date | None
    note: str
    next_on: date | None
    overdue: bool


def visits_from(row: CaseloadRow, today: date) -> Visits:
    """What is known of a client's visits, from the row alone."""
    if not row.visits:
        return Visits(None, "", None, overdue=False)
    day, _held, _corrects, following, note = row.visits[-1]
    next_on = date.fromisoformat(following) if following else None
    return Visits(date.fromisoformat(day), note, next_on, bool(next_on and next_on < today))


def care_of(client: Client, row: CaseloadRow, today: date, *, user: User) -> dict[str, Any]:
    """For the template: visits, who handed the client over, until when it is put off."""
    away = row.snoozed_until if row.snoozed_until and row.snoozed_until > today else None
    return {
        "visits": visits_from(row, today),
        "handed": handed_words(row.handed),
        "handed_to_me": bool(row.handed) and client.clinician_id == user.pk,
        "put_off_until": away,
    }
