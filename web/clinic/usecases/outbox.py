"""Mail leaves through the outbox: written in the transaction of what it is about, delivered beside the server, so
that no answer waits for a mail server. What fails is tried again, each time after a longer wait, until it is sent."""

import logging
import threading
from collections.abc import Iterable
from datetime import datetime, timedelta
from uuid import UUID

from django.conf import settings
from django.core.mail import EmailMessage, get_connection
from django.core.mail.backends.base import BaseEmailBackend
from django.db import transaction
from django.db.models import Q

from web.clinic import clock
from web.clinic.models import OutboxMessage

log = logging.getLogger(__name__)
WRITTEN = threading.Event()
"""Set when there may be something to deliver."""
MOST_AT_ONCE = 50
FIRST_WAIT = timedelta(seconds=10)
LONGEST_WAIT = timedelta(minutes=10)
"""Between two tries to send a mail: a stop sign's must not wait for long once its server is back."""


class OutboxBackend(BaseEmailBackend):
    """Django's mail backend that only writes rows."""

    def send_messages(self, messages):
        rows = [
            OutboxMessage(to=to, subject=m.subject[:200], body=m.body, written_at=clock.now())
            for m in messages
            for to in m.to
        ]
        OutboxMessage.objects.bulk_create(rows)
        transaction.on_commit(WRITTEN.set)
        return len(messages)


def write(
    to: Iterable[str], subject: str, body: str, *, about: UUID, not_before: datetime | None = None
) -> None:
    """Write mails about something; they leave after the transaction, or from a moment on."""
    now = clock.now()
    OutboxMessage.objects.bulk_create(
        OutboxMessage(
            to=one,
            subject=subject[:200],
            body=body,
            written_at=now,
            about=about,
            not_before=not_before,
        )
        for one in to
    )
    transaction.on_commit(WRITTEN.set)


def withdraw(about: Iterable[UUID]) -> None:
    """What was dealt with needs no mail any more."""
    rows = OutboxMessage.objects.filter(about__in=list(about), sent_at=None, withdrawn_at=None)
    rows.update(withdrawn_at=clock.now())


def deliver() -> int:
    """Send what is due through the real or the stand-in backend; how many went. One that fails keeps none of the
    others waiting."""
    tried = 0
    sent = 0
    while tried < MOST_AT_ONCE and (went := _one()) is not None:
        tried += 1
        sent += went
    return sent


@transaction.atomic
def _one() -> bool | None:
    """The mail that waits longest, unless another process has it in hand: True if it went, None where none waits."""
    now = clock.now()
    waiting = OutboxMessage.objects.select_for_update(skip_locked=True)
    waiting = waiting.filter(Q(not_before=None) | Q(not_before__lte=now))
    row = waiting.filter(sent_at=None, withdrawn_at=None).order_by("written_at").first()
    if row is None:
        return None
    mail = EmailMessage(row.subject, row.body, settings.DEFAULT_FROM_EMAIL, [row.to])
    try:
        get_connection(settings.DELIVERY_BACKEND).send_messages([mail])
    except Exception as error:  # noqa: BLE001  (whatever a mail server or a library says, the mail stays)
        row.failure = str(error)[:300]
        row.not_before = now + min(FIRST_WAIT * 2 ** min(row.tries, 10), LONGEST_WAIT)
        row.tries += 1
        log.warning("outbox message %s was not sent, try %s", row.pk, row.tries)
        row.save(update_fields=["failure", "not_before", "tries"])
        return False
    row.sent_at, row.failure = now, ""
    row.save(update_fields=["sent_at", "failure"])
    return True
