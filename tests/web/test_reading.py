"""Looking at a page writes nothing but that somebody looked."""

import json
import re
import uuid

import pytest
from django.apps import apps
from django.urls import reverse

from tests.conftest import NOW, PIN, activate_program
from web.clients.models import Baseline
from web.clients.usecases.link import make_link
from web.measuring.tickets import Ticket

pytestmark = pytest.mark.django_db
NOTED = ("clinic.AccessEvent", "sessions.Session", "pghistory.Context")


def rows():
    """How many rows every table holds, without those that note who looked."""
    return {
        model._meta.label: model._base_manager.count()
        for model in apps.get_models()
        if model._meta.label not in NOTED and model._meta.managed and not model._meta.proxy
    }


OF_A_CLIENT = (
    *("clients:baseline", "clients:device", "clients:screening"),
    *("programs:bench", "review:client"),
)


@pytest.mark.parametrize("practiced", [False, True])
def test_pages_of_a_client_write_nothing(signed_in, person, clinician, practiced):
    if practiced:
        activate_program(person, clinician)
    before = rows()
    for name in OF_A_CLIENT:
        answer = signed_in.get(reverse(name, args=[person.pk]))
        assert answer.status_code == 200, name
    for name in ("review:rounds", "library:library", "clients:enrol"):
        assert signed_in.get(reverse(name)).status_code == 200, name
    assert rows() == before


def test_a_clients_pages_write_nothing(client, person, clinician):
    activate_program(person, clinician)
    access = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    before = rows()
    pages = [f"practice:{name}" for name in ("enter", "today", "practice", "hearing")]
    for name in (*pages, "review:own_reeds"):
        assert client.get(reverse(name, args=[access.pk])).status_code == 200
    assert rows() == before


def test_a_baseline_begins_with_the_first_thing_that_is_typed(signed_in, person):
    page = reverse("clients:baseline", args=[person.pk])
    signed_in.get(page)
    assert not Baseline.objects.exists()
    typed = {"measure": "s", "seconds": "12.4", "attempt_ids": uuid.uuid4()}
    signed_in.post(reverse("clients:type_attempts", args=[person.pk]), typed)
    begun = Baseline.objects.get()
    signed_in.post(reverse("clients:set_baseline", args=[person.pk]), {"lowest": "G3"})
    assert Baseline.objects.get() == begun
    assert "12.4" in signed_in.get(page).content.decode()


def test_a_baseline_begins_with_the_first_thing_that_is_measured(signed_in, person):
    """Two pages are open: what either measures first begins the baseline of both."""
    page = reverse("clients:baseline", args=[person.pk])
    tickets = [ticket_in(signed_in.get(page).content.decode()) for _ in range(2)]
    for ticket in tickets:
        attempt = str(uuid.uuid4())
        answer = signed_in.put(
            reverse("attempt", args=[attempt]),
            json.dumps({"attempt_id": attempt, "step_id": "s", "seconds": 12.4}),
            content_type="application/json",
            headers={"X-Ticket": ticket},
        )
        assert answer.status_code == 201, answer.content
    begun = Baseline.objects.get()
    assert str(begun.pk) == Ticket.read(tickets[0]).sitting
    assert begun.attempts.count() == 2


def ticket_in(html):
    return re.search(r'"ticket": "([^"]+)"', html)[1]
