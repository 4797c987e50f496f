"""Mail leaves through the outbox: written in the transaction, delivered after it."""

import logging
from collections.abc import Iterable
from datetime import datetime
from uuid import UUID

from django.conf import settings
from django.core.mail import EmailMessage, get_connection
from django.core.mail.backends.base import BaseEmailBackend
from django.db import transaction
from django.db.models import Q

from web.clinic import clock
from web.clinic.models import OutboxMessage

log = logging.getLogger(__name__)


class OutboxBackend(BaseEmailBackend):
    """Django's mail backend that only writes rows."""

    def send_messages(self, messages):
        rows = [
            OutboxMessage(to=to, subject=m.subject[:200], body=m.body, written_at=clock.now())
            for m in messages
            for to in m.to
        ]
        OutboxMessage.objects.bulk_create(rows)
        transaction.on_commit(deliver)
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
    transaction.on_commit(deliver)


def withdraw(about: Iterable[UUID]) -> None:
    """What was dealt with needs no mail any more."""
    rows = OutboxMessage.objects.filter(about__in=list(about), sent_at=None, withdrawn_at=None)
    rows.update(withdrawn_at=clock.now())


def deliver() -> int:
    """Send what is unsent through the real or the stand-in backend; what fails stays for later."""
    sent = 0
    with transaction.atomic():
        due = Q(not_before=None) | Q(not_before__lte=clock.now())
        waiting = OutboxMessage.objects.select_for_update(skip_locked=True)
        waiting = waiting.filter(due, sent_at=None, withdrawn_at=None)
        for row in waiting.order_by("written_at")[:50]:
            mail = EmailMessage(row.subject, row.body, settings.DEFAULT_FROM_EMAIL, [row.to])
            try:
                get_connection(settings.DELIVERY_BACKEND).send_messages([mail])
            except OSError as error:
                row.failure = str(error)[:300]
                log.warning("outbox message %s was not sent", row.pk)
            else:
                row.sent_at, row.failure = clock.now(), ""
                sent += 1
            row.save(update_fields=["sent_at", "failure"])
    return sent
