"""Mails about a stop sign: who treats the client and their deputy at once, the cover after a working day."""

from collections.abc import Mapping
from datetime import UTC
from uuid import UUID

from django.conf import settings
from django.urls import reverse
from django.utils.translation import gettext as _

from core.dose.working_day import a_working_day_after
from web.clients.models import Client
from web.clinic import clock
from web.clinic.models import Clinic, Membership
from web.clinic.usecases import outbox
from web.practice.models import HomeSession


def working_at(clinic: Clinic) -> dict[UUID, Membership]:
    """Who works at the clinic, by user, with their deputies."""
    working = Membership.objects.filter(clinic=clinic, active=True)
    return {one.user_id: one for one in working.select_related("user")}


def treating_and_deputy(client: Client, working: Mapping[UUID, Membership]) -> list[str]:
    """Addresses of who treats the client and who stands in for them, as far as they work at the clinic."""
    treating = working.get(client.clinician_id)
    deputy = working.get(treating.deputy_id) if treating and treating.deputy_id else None
    return [one.user.email for one in (treating, deputy) if one]


def notify_stop(session: HomeSession, *, now) -> None:
    """Write the mails, without a word about the client. The cover's waits, and is withdrawn when the sign
    is cleared before. Who no longer works at the clinic gets none."""
    clinic = session.client.clinic
    working = working_at(clinic)
    at_once = treating_and_deputy(session.client, working)
    cover = working.get(clinic.cover_id) if clinic.cover_id else None
    address = settings.CSRF_TRUSTED_ORIGINS[0] + reverse("review:rounds")
    subject = _("A stop sign was reported at home")
    body = _(
        "A client of yours, or of a colleague you stand in for, reported a stop sign. Open Rounds:"
    )
    if at_once:
        outbox.write(at_once, subject, f"{body}\n{address}\n", about=session.pk)
    if cover is not None:
        later = a_working_day_after(clock.local(now, clinic.time_zone)).astimezone(UTC)
        unanswered = _(
            "A stop sign was not answered for a working day. Open Rounds of the whole clinic:"
        )
        outbox.write(
            [cover.user.email],
            _("A stop sign was not answered"),
            f"{unanswered}\n{address}?whose=all\n",
            about=session.pk,
            not_before=later,
        )
