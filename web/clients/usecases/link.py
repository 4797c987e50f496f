"""The private link and its PIN."""

import secrets
from datetime import timedelta

from django.contrib.auth.hashers import check_password, make_password
from django.db import transaction

from web.clients.models import Client, ClientAccess
from web.clients.signals import record_changed
from web.clinic.models import User

PIN_DIGITS = 6
MOST_WRONG_TRIES = 5
LOCKED_FOR = timedelta(minutes=15)


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
def try_pin(access_id, pin: str, *, now) -> ClientAccess | None:
    """The access if the PIN fits; after 5 wrong tries the link is closed for 15 minutes."""
    access = (
        ClientAccess.objects.select_for_update(of=("self",))
        .filter(pk=access_id, revoked_at=None)
        .first()
    )
    if access is None or (access.locked_until and access.locked_until > now):
        return None
    if check_password(pin.strip(), access.pin_hash):
        access.wrong_tries, access.locked_until = 0, None
    else:
        access.wrong_tries += 1
        if access.wrong_tries >= MOST_WRONG_TRIES:
            access.wrong_tries, access.locked_until = 0, now + LOCKED_FOR
    right = access.wrong_tries == 0 and access.locked_until is None
    access.save(update_fields=["wrong_tries", "locked_until"])
    return access if right else None
