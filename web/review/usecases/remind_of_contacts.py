"""Remind clinicians by mail of contacts that are still open, once every working day."""

from collections.abc import Mapping
from datetime import date, datetime, time
from uuid import UUID
from zoneinfo import ZoneInfo

from django.conf import settings
from django.db import transaction
from django.db.models import Q, QuerySet
from django.urls import reverse
from django.utils.translation import gettext as _

from core.dose.working_day import BEGINS, is_working_day
from core.grading.act import Act
from web.clients.models import Client
from web.clinic import clock
from web.clinic.models import Clinic, Membership, OutboxMessage
from web.clinic.usecases import outbox
from web.practice.usecases.notify_stop import treating_and_deputy, working_at
from web.review.models import Decision


def remind_of_contacts() -> int:
    """Write today's reminders for every clinic and return the number of clients they are about. Safe to call
    repeatedly, and from several servers at once."""
    return sum(_remind(clinic) for clinic in Clinic.objects.all())


@transaction.atomic
def _remind(clinic: Clinic) -> int:
    now = clock.now()
    zone = ZoneInfo(clinic.time_zone)
    here = now.astimezone(zone)
    if not is_working_day(here.date()) or here.time() < BEGINS:
        return 0
    Clinic.objects.select_for_update().get(pk=clinic.pk)
    midnight = datetime.combine(here.date(), time(), tzinfo=zone)
    waiting = _unanswered(clinic, here.date())
    written = OutboxMessage.objects.filter(about__in=waiting, written_at__gte=midnight)
    told = set(written.values_list("about", flat=True))
    left = [client for client in waiting.order_by("pk") if client.pk not in told]
    working = working_at(clinic) if left else {}
    for client in left:
        _write(client, working)
    return len(left)


def _unanswered(clinic: Clinic, today: date) -> QuerySet[Client]:
    """Clients with a stop sign, or a contact to be made, from a day before today that nobody has closed."""
    tasks = Decision.objects.filter(
        clinic=clinic, act=Act.CONTACT, done=None, due_on__isnull=False, day__lt=today
    )
    open_since = Q(caseload_row__stop_sign_on__lt=today) & ~Q(caseload_row__stop_sign="")
    asked = Q(pk__in=tasks.values("client_id"))
    return Client.objects.for_clinic(clinic).active().filter(open_since | asked)


def _write(client: Client, working: Mapping[UUID, Membership]) -> None:
    """To who treats the client and their deputy, as far as they work here; else to the leads. No word about the
    client: mail is not safe enough for that."""
    leads = [one.user.email for one in working.values() if one.is_lead]
    to = treating_and_deputy(client, working) or leads
    address = settings.CSRF_TRUSTED_ORIGINS[0] + reverse("review:rounds")
    body = _(
        "A client of yours, or of a colleague you stand in for, is still to be called. Steps of their "
        "program are on hold until you record what the client said. Open Rounds:"
    )
    outbox.write(to, _("A client is still to be called"), f"{body}\n{address}\n", about=client.pk)
