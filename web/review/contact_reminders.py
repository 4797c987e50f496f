"""A contact nobody has answered is reminded of by mail, once every working day until it is closed."""

from datetime import date, datetime, time
from uuid import UUID
from zoneinfo import ZoneInfo

from django.conf import settings
from django.db import transaction
from django.db.models import Q
from django.urls import reverse
from django.utils.translation import gettext as _

from core.dose.working_day import BEGINS, is_working_day
from core.grading.act import Act
from web.clients.models import Client
from web.clinic import clock, outbox
from web.clinic.models import Clinic, Membership, OutboxMessage
from web.review.models import Decision


def remind_of_contacts() -> int:
    """Write today's reminders of every clinic; how many clients they are about. It may be called again and again,
    and from several servers at once."""
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
    told = OutboxMessage.objects.filter(written_at__gte=midnight).exclude(about=None)
    waiting = _unanswered(clinic, here.date())
    waiting = [one for one in waiting if one.pk not in set(told.values_list("about", flat=True))]
    members = _by_user(clinic) if waiting else {}
    for client in waiting:
        _write(client, members)
    return len(waiting)


def _unanswered(clinic: Clinic, today: date) -> list[Client]:
    """Clients with a stop sign, or a contact to be made, from a day before today that nobody has closed."""
    tasks = Decision.objects.filter(
        clinic=clinic, act=Act.CONTACT, done=None, due_on__isnull=False, day__lt=today
    )
    open_since = Q(caseload_row__stop_sign_on__lt=today) & ~Q(caseload_row__stop_sign="")
    asked = Q(pk__in=tasks.values("client_id"))
    rows = Client.objects.for_clinic(clinic).active().filter(open_since | asked)
    return list(rows.order_by("pk"))


def _by_user(clinic: Clinic) -> dict[UUID, Membership]:
    working = Membership.objects.filter(clinic=clinic, active=True).select_related("user")
    return {one.user_id: one for one in working}


def _write(client: Client, members: dict[UUID, Membership]) -> None:
    """To who treats the client and their deputy, as far as they work here; else to the leads. No word about the
    client: mail is not safe enough for that."""
    treating = members.get(client.clinician_id)
    deputy = members.get(treating.deputy_id) if treating and treating.deputy_id else None
    to = [one.user.email for one in (treating, deputy) if one]
    to = to or [one.user.email for one in members.values() if one.is_lead]
    address = settings.CSRF_TRUSTED_ORIGINS[0] + reverse("review:rounds")
    body = _(
        "A client of yours, or of a colleague you stand in for, is still to be called. Steps of their "
        "program are on hold until you record what the client said. Open Rounds:"
    )
    outbox.write(to, _("A client is still to be called"), f"{body}\n{address}\n", about=client.pk)
