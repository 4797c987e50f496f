"""The private link and its PIN. Guessing is slowed down per address and for all strangers together, without locking
out an address that has entered before."""

import secrets
from datetime import timedelta

from django.contrib.auth.hashers import check_password, make_password
from django.db import transaction
from django.db.models import Sum
from django.utils.crypto import salted_hmac
from django.utils.translation import gettext_noop

from web.clients.models import Client, ClientAccess, LinkTry
from web.clients.signals import record_changed
from web.clinic.models import User
from web.clinic.usecases.staff import note_access

PIN_DIGITS = 6
FREE_TRIES = 5
"""Wrong PINs from one address before it has to wait."""
FREE_TRIES_OF_ALL = 20
"""Wrong PINs at a link in a day from all addresses that never got in, before each of them has to wait."""
FIRST_WAIT = timedelta(minutes=1)
LONGEST_WAIT = timedelta(hours=1)
REMEMBERED = timedelta(days=1)
"""So long a wrong PIN counts."""


@transaction.atomic
def make_link(client: Client, *, by: User, now, pin: str | None = None) -> tuple[ClientAccess, str]:
    """A new link; earlier ones are revoked. The PIN is given back once and kept only hashed."""
    ClientAccess.objects.filter(client=client, revoked_at=None).update(revoked_at=now)
    pin = pin or "".join(secrets.choice("0123456789") for _ in range(PIN_DIGITS))
    access = ClientAccess.objects.create(
        clinic_id=client.clinic_id,
        client=client,
        pin_hash=make_password(pin),
        made_at=now,
        made_by=by,
    )
    record_changed.send(Client, client_id=client.pk)
    return access, pin


@transaction.atomic
def revoke_links(client: Client, *, now) -> int:
    """Revoke every link of a client; what still arrives with them is set aside."""
    count = ClientAccess.objects.filter(client=client, revoked_at=None).update(revoked_at=now)
    record_changed.send(Client, client_id=client.pk)
    return count


@transaction.atomic
def renew_link(client: Client, *, now) -> bool:
    """The link that is in force goes on for the clinic's number of months, also one that has ended by itself;
    False where there is none."""
    links = ClientAccess.objects.filter(client=client, revoked_at=None)
    renewed = links.update(renewed_at=now) > 0
    record_changed.send(Client, client_id=client.pk)
    return renewed


def address_digest(address: str) -> str:
    """An address as a one-way digest, as it is stored."""
    return salted_hmac("web.clients.link", address, algorithm="sha256").hexdigest()


@transaction.atomic
def try_pin(access_id, pin: str, *, now, address: str = "") -> ClientAccess | None:
    """The access if the PIN fits and it has not ended. After 5 wrong PINs an address waits a minute, twice as long
    after each further one, at most an hour; after 20 of a day from strangers every address that has never got in
    waits so too. A try while waiting is not looked at and costs nothing more."""
    rows = ClientAccess.objects.select_related("client__clinic").select_for_update(of=("self",))
    access = rows.filter(pk=access_id, revoked_at=None, client__archived_at=None).first()
    if access is None or access.ends_at() <= now:
        return None
    row, _made = LinkTry.objects.get_or_create(
        access=access,
        address=address_digest(address),
        defaults={"clinic_id": access.clinic_id, "client_id": access.client_id, "last_at": now},
    )
    if row.last_at < now - REMEMBERED:
        row.wrong, row.wait_until = 0, None
    if row.wait_until and row.wait_until > now:
        return None
    if row.got_in_at is None and _strangers_wait(access, now):
        return None
    row.last_at = now
    right = check_password(pin.strip(), access.pin_hash)
    if right:
        row.wrong, row.wait_until, row.got_in_at = 0, None, now
    else:
        row.wrong += 1
        row.wait_until = _waits(row.wrong - FREE_TRIES, now)
    row.save()
    note_access(
        access.client.clinic,
        user=None,
        what=gettext_noop("link opened with its PIN")
        if right
        else gettext_noop("wrong PIN at a link"),
        subject_id=access.client_id,
        now=now,
    )
    return access if right else None


def _strangers_wait(access: ClientAccess, now) -> bool:
    """Whether strangers have made so many wrong guesses recently that the next one has to wait."""
    lately = LinkTry.objects.filter(access=access, got_in_at=None, last_at__gt=now - REMEMBERED)
    wrong = lately.aggregate(all=Sum("wrong"))["all"] or 0
    last = lately.filter(wrong__gt=0).order_by("-last_at").values_list("last_at", flat=True).first()
    waits = _waits(wrong - FREE_TRIES_OF_ALL, last) if last else None
    return waits is not None and waits > now


def _waits(beyond: int, since):
    """Until when an address has to wait after more wrong PINs than are free; None if it need not."""
    if beyond < 0:
        return None
    return since + min(FIRST_WAIT * 2 ** min(beyond, 10), LONGEST_WAIT)
