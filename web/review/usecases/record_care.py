"""Visits, putting a client off to a day, handing one to a colleague; each in one transaction."""

from collections.abc import Iterable
from datetime import date, timedelta

from django.core.mail import send_mail
from django.db import transaction
from django.utils.translation import gettext as _

from core.grading.need import Need
from web.clients.models import Client, Visit
from web.clients.signals import record_changed
from web.clinic import clock
from web.clinic.models import Clinic, Membership, User
from web.clinic.refusal import UsecaseRefused
from web.review.caseload.needs import needs_on
from web.review.models import ComingNeed, HandOver, NoteRead, Snooze

LONGEST_PUT_OFF_DAYS = 60
"""As far as needs are kept ahead; what is to be looked at later is a task with a date."""
VISIT_WITHIN_DAYS = 366
LONGEST_NOTE = 500


@transaction.atomic
def hold_visit(
    client: Client,
    *,
    day: date,
    next_on: date | None,
    goal_held: bool | None,
    corrects: bool | None,
    note: str = "",
    by: User,
    now,
) -> Visit:
    """Keep that a visit took place and when the next is. UsecaseRefused for a visit that is yet to
    come or older than a year, or a next one that is not after it."""
    today = clock.local_date(now, client.time_zone)
    year = timedelta(days=VISIT_WITHIN_DAYS)
    if not today - year <= day <= today:
        raise UsecaseRefused(_("A visit is kept on its day or within a year after it."))
    if next_on is not None and not today <= next_on <= today + year:
        raise UsecaseRefused(_("The next visit is from today on, within a year."))
    if next_on is not None and next_on <= day:
        raise UsecaseRefused(_("The next visit is after this one."))
    visit = Visit.objects.create(
        clinic_id=client.clinic_id,
        client=client,
        day=day,
        next_on=next_on,
        goal_held=goal_held,
        corrects=corrects,
        note=note[:LONGEST_NOTE],
        by=by,
        at=now,
    )
    record_changed.send(Visit, client_id=client.pk)
    return visit


@transaction.atomic
def snooze(client: Client, *, until: date | None, reason: str = "", by: User, now) -> Snooze:
    """Leave a client out of Rounds to a day, or (None) take them in again. Something more urgent than
    what is needed now brings them back before. UsecaseRefused for what must not wait, and for a day
    that is past or further than needs are kept ahead."""
    today = clock.local_date(now, client.time_zone)
    rows = needs_on(ComingNeed.objects.filter(client=client), today)
    need = Need(rows.values_list("need", flat=True).get())
    if until is not None:
        if not need.waits:
            raise UsecaseRefused(_("This must not wait; it cannot be put off."))
        if not today < until <= today + timedelta(days=LONGEST_PUT_OFF_DAYS):
            raise UsecaseRefused(_("Put off to a day within the next 60 days."))
    row = Snooze.objects.create(
        clinic_id=client.clinic_id,
        client=client,
        until=until,
        need=need,
        reason=reason[:300],
        by=by,
        at=now,
    )
    record_changed.send(Snooze, client_id=client.pk)
    return row


def colleagues(clinic: Clinic, *, besides: Client) -> Iterable[User]:
    """Whom a client can be handed to: who works at the clinic and does not treat them already."""
    working = Membership.objects.filter(clinic=clinic, active=True).exclude(
        user_id=besides.clinician_id
    )
    return [one.user for one in working.select_related("user").order_by("user__name")]


@transaction.atomic
def hand_over(client: Client, *, to: str, note: str, by: User, now) -> HandOver:
    """Give a client to a colleague with a note, and mail them that they have one. UsecaseRefused
    without a note, or where nobody of that id works at the clinic."""
    client = Client.objects.select_for_update().select_related("clinic").get(pk=client.pk)
    note = " ".join(note.split())[:LONGEST_NOTE]
    taker = next(
        (one for one in colleagues(client.clinic, besides=client) if str(one.pk) == to), None
    )
    if taker is None:
        raise UsecaseRefused(_("Choose a colleague who works at the clinic; nothing was changed."))
    if not note:
        raise UsecaseRefused(_("Say what your colleague must know; nothing was changed."))
    row = HandOver.objects.create(
        clinic_id=client.clinic_id, client=client, giver=by, taker=taker, note=note, at=now
    )
    client.clinician = taker
    client.save(update_fields=["clinician"])
    send_mail(
        _("A client was handed to you"),
        _("%(name)s handed a client to you. Open Rounds to read the note.\n") % {"name": by.name},
        None,
        [taker.email],
    )
    record_changed.send(HandOver, client_id=client.pk)
    return row


@transaction.atomic
def read_note(client: Client, *, by: User, now) -> None:
    """The colleague has read the note; twice is harmless. UsecaseRefused for anybody else."""
    row = HandOver.objects.filter(client=client).order_by("-at").first()
    if row is None or row.taker_id != by.pk:
        raise UsecaseRefused(_("The client was not handed to you."))
    NoteRead.objects.get_or_create(
        hand_over=row, defaults={"clinic_id": client.clinic_id, "client": client, "at": now}
    )
    record_changed.send(NoteRead, client_id=client.pk)
