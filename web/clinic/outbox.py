"""Mail leaves through the outbox: written in the transaction, delivered after it."""

import logging

from django.conf import settings
from django.core.mail import EmailMessage, get_connection
from django.core.mail.backends.base import BaseEmailBackend
from django.db import transaction

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


def deliver() -> int:
    """Send what is unsent through the real or the stand-in backend; what fails stays for later."""
    sent = 0
    with transaction.atomic():
        waiting = OutboxMessage.objects.select_for_update(skip_locked=True)
        for row in waiting.filter(sent_at=None).order_by("written_at")[:50]:
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
