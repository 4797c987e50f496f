"""Who gets in, for how long, how often they may guess, and what stays behind."""

import asyncio
import logging
import uuid
from datetime import timedelta

import pytest
from django.core.cache import cache
from django.db import connection
from django.urls import reverse

from tests.conftest import NOW, PASSWORD, PIN
from tests.factories.access import METHODS, address_of
from tests.factories.live import Wire
from web.clients.models import ClientAccess
from web.clients.usecases.link import renew_link, try_pin
from web.clinic.logs import WithoutLinks
from web.measuring import live
from web.measuring.sinks import Refused
from web.measuring.usecases import open_attempts

pytestmark = pytest.mark.django_db
HOME, ELSEWHERE = "192.0.2.1", "198.51.100.7"


def guess(access, times, *, now=NOW, address=HOME):
    for _ in range(times):
        assert try_pin(access.pk, "999999", now=now, address=address) is None


def gets_in(access, *, now=NOW, address=HOME):
    return try_pin(access.pk, PIN, now=now, address=address) is not None


def test_no_page_of_anybody_is_stored(doors):
    browsers, objects = doors
    stored = []
    for name, method in METHODS.items():
        if method != "get":
            continue
        for role in ("lead", "this client"):
            answer = browsers[role].get(address_of(name, objects))
            if answer.headers.get("Cache-Control") != "no-store":
                stored.append((role, name))
    assert not stored


def test_five_wrong_pins_make_an_address_wait_and_each_further_one_longer(access):
    guess(access, 5)
    assert not gets_in(access)
    assert not gets_in(access, now=NOW + timedelta(seconds=59))
    guess(access, 1, now=NOW + timedelta(seconds=60))  # the sixth: two minutes from here
    assert not gets_in(access, now=NOW + timedelta(seconds=60 + 119))
    assert gets_in(access, now=NOW + timedelta(seconds=60 + 120))
    # and then it begins anew
    guess(access, 4, now=NOW + timedelta(minutes=4))
    assert gets_in(access, now=NOW + timedelta(minutes=4))


def test_no_wait_is_longer_than_an_hour(access):
    now = NOW
    for _ in range(30):
        guess(access, 1, now=now)
        now += timedelta(hours=1)
    assert gets_in(access, now=now)


def test_who_has_got_in_before_is_not_kept_out_by_the_guesses_of_others(access):
    assert gets_in(access)
    for number in range(30):
        guess(access, 4, address=f"203.0.113.{number}")
    assert gets_in(access, now=NOW + timedelta(seconds=1))
    # a stranger who knows the PIN waits with the other strangers, an hour at most
    assert not gets_in(access, address=ELSEWHERE, now=NOW + timedelta(seconds=1))
    assert gets_in(access, address=ELSEWHERE, now=NOW + timedelta(hours=1, seconds=2))


def test_an_address_is_kept_as_a_digest(access):
    guess(access, 1)
    kept = access.tries.get().address
    assert HOME not in kept
    assert len(kept) == 64


def test_a_link_ends_after_the_clinics_months_and_is_renewed(access, person, clinic, signed_in):
    clinic.link_months = 2
    clinic.save()
    late = NOW + timedelta(days=63)
    assert gets_in(access, now=NOW + timedelta(days=61))
    assert not gets_in(access, now=late)
    assert renew_link(person, now=late)
    assert gets_in(access, now=late)
    assert signed_in.post(reverse("clients:renew", args=[person.pk])).status_code == 302
    assert b"ends" in signed_in.get(reverse("review:client", args=[person.pk])).content


def test_an_open_door_closes_when_its_link_ends(client, access, version):
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    today = reverse("practice:today", args=[access.pk])
    assert client.get(today).status_code == 200
    ClientAccess.objects.update(made_at=NOW - timedelta(days=3000))
    assert client.get(today).status_code == 302


def test_a_revoked_link_is_not_renewed(access, person):
    ClientAccess.objects.update(revoked_at=NOW)
    assert not renew_link(person, now=NOW)


@pytest.mark.parametrize(
    "line", ["Not Found: /c/%s/today/", "Forbidden: /invitation/%s/", "GET https://a.example/c/%s"]
)
def test_no_log_holds_what_lets_somebody_in(line):
    secret = str(uuid.uuid4())
    record = logging.LogRecord("django.request", logging.WARNING, "", 1, line, (secret,), None)
    assert WithoutLinks().filter(record)
    assert secret not in record.getMessage()


def test_every_handler_of_the_log_takes_links_out(settings):
    handlers = settings.LOGGING["handlers"].values()
    assert all("without_links" in handler["filters"] for handler in handlers)


def test_what_is_counted_to_throttle_stands_in_the_database():
    cache.set("throttle", 3, 60)
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT count(*) FROM clinic_shared_cache WHERE cache_key LIKE %s", ["%throttle"]
        )
        assert cursor.fetchone() == (1,)


def test_signing_in_is_throttled(client, clinician, settings):
    settings.ACCOUNT_RATE_LIMITS = {"login_failed": "3/5m/key"}
    wrong = {"login": clinician.email, "password": "not it"}
    for _ in range(4):
        client.post("/accounts/login/", wrong)
    client.post("/accounts/login/", {"login": clinician.email, "password": PASSWORD})
    assert client.get("/rounds/").status_code == 302


@pytest.mark.django_db(transaction=True)
def test_a_socket_that_begins_nothing_is_closed(monkeypatch):
    monkeypatch.setattr(live, "IDLE_S", 0.05)

    async def idle():
        async with Wire() as wire:
            return await wire.hear()

    assert asyncio.run(idle()) == {"type": "closed", "code": 4408}


def test_so_many_may_wait_and_no_more(monkeypatch):
    monkeypatch.setattr(open_attempts, "MOST_IDLE", 1)
    with open_attempts.idling(object()):
        with pytest.raises(Refused) as refused, open_attempts.idling(object()):
            pass
        assert refused.value.close == 4429
    with open_attempts.idling(object()):
        pass
