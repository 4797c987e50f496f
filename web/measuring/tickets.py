"""The upload ticket: signed, append-only leave to send attempts of one home session or baseline."""

import uuid
from dataclasses import asdict, dataclass

from django.conf import settings
from django.core import signing

SALT = "attempt-ticket"
LIFETIME_S = 14 * 86400


class TicketRefused(Exception):
    """The ticket is stale or not ours."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Ticket:
    """What it is good for; all ids as text, `issued_at` ISO 8601 UTC.

    purpose: "practice", "baseline" or "tried"; holder: id of the link or of the clinician; sitting: id of
    the home session or of the baseline, of the client where a task is tried; language: what its page speaks.
    """

    purpose: str
    clinic: str
    client: str
    holder: str
    sitting: str
    issued_at: str
    language: str = settings.LANGUAGE_CODE

    def signed(self) -> str:
        return signing.dumps(asdict(self), salt=SALT, compress=True)

    @classmethod
    def read(cls, text: str, *, lifetime_s: int | None = LIFETIME_S) -> "Ticket":
        """A ticket that was signed here, within its lifetime (None: however old); else TicketRefused."""
        try:
            data = signing.loads(text, salt=SALT, max_age=lifetime_s)
            for key in ("clinic", "client", "sitting"):
                uuid.UUID(data[key])
            return cls(**data)
        except (signing.BadSignature, TypeError, KeyError, ValueError) as error:
            raise TicketRefused from error
