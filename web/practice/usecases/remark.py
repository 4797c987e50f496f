"""A clinician says something of a home session or attempt, leaves it out of figures or counts it again."""

from django.db import transaction
from django.utils.translation import gettext as _

from web.clients.models import Client
from web.clients.signals import record_changed
from web.clinic.models import User
from web.clinic.refusal import UsecaseRefused
from web.practice.models import Attempt, HomeSession, LevelReset, Remark, RemarkKind
from web.practice.sessions.levels import conversations, level_references
from web.practice.sessions.remarks import remarks_on

LONGEST = 300


@transaction.atomic
def remark(
    session: HomeSession, attempt: Attempt | None, *, kind: str, words: str, by: User, now
) -> Remark:
    """Keep it beside the record, with its author; the same again changes nothing. UsecaseRefused without
    words or for an unknown kind."""
    Client.objects.select_for_update().get(pk=session.client_id)
    words = " ".join(words.split())
    if kind not in RemarkKind.values:
        raise UsecaseRefused(_("This cannot be said of it; nothing was changed."))
    if not words or len(words) > LONGEST:
        raise UsecaseRefused(_("Say why in up to 300 characters; nothing was changed."))
    before = remarks_on(session, attempt)
    if before and (before[0].kind, before[0].words) == (kind, words):
        return before[0]
    levels = _levels(session)
    row = Remark.objects.create(
        clinic_id=session.clinic_id,
        client_id=session.client_id,
        home_session=session,
        attempt=attempt,
        kind=kind,
        words=words,
        by=by,
        at=now,
    )
    # A level reference that rested on it changes what every home session came to.
    sender = Remark if _levels(session) == levels else LevelReset
    record_changed.send(sender, client_id=session.client_id, session_id=session.pk)
    return row


def _levels(session: HomeSession) -> tuple[dict[str, float], dict[str, float]]:
    return level_references(session.client_id), conversations(session.client_id)
