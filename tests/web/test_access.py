"""Every route and socket as every role; a route that is not in the table fails."""

import uuid

import pytest
from django.urls import reverse

from tests.conftest import NOW, PIN
from tests.factories.access import (
    CLIENT,
    LEAD,
    METHODS,
    ROLES,
    STAFF,
    TREATING,
    address_of,
    all_patterns,
)

PUBLIC = {
    "healthz",
    "readyz",
    "service_worker",
    "words",
    "clinic:accept_invitation",
    "practice:enter",
}
OWN_CLINIC = {"clinic:held_form", "review:home", "review:rounds", "clients:enrol"} | {
    name for name in STAFF if name.startswith("library:") and name != "library:take_away"
}
TICKET = {"attempt", "practice:entry"}
DEMO_ONLY = {"simulated_voice", "simulated_meter"}
THROUGH = {
    **{key: {"clinician", "lead"} for key in STAFF},
    **{key: {"lead"} for key in LEAD},
    **{key: {"this client"} for key in CLIENT},
    **{key: {"clinician"} for key in TREATING},
}


def test_every_route_is_in_the_table():
    # there is no page of one's own addresses: its route answers nobody
    known = PUBLIC | set(METHODS) | TICKET | DEMO_ONLY | {"account_email"}
    assert {name for name, _pattern in all_patterns()} == known


def got_through(answer):
    if answer.status_code in (401, 403):
        return False
    if answer.status_code == 302:
        return "/accounts/login/" not in answer.url and not answer.url.startswith("/c/")
    return answer.status_code != 404 or answer.resolver_match.view_name == "clients:strike_out"


@pytest.mark.parametrize("role", ROLES)
def test_who_gets_through(doors, role, django_db_blocker):
    browsers, objects = doors
    wrong = []
    for name, method in METHODS.items():
        address = address_of(name, objects)
        if name in ("practice:leave", "clients:erase", "clients:archive", "clients:strike_out"):
            continue
        answer = getattr(browsers[role], method)(address)
        if name == "clients:revoke" and role in THROUGH[name]:
            from web.clients.models import ClientAccess

            ClientAccess.objects.filter(pk=objects["link_id"]).update(revoked_at=None)
        expected = role in THROUGH[name]
        if name in OWN_CLINIC and role == "elsewhere":
            expected = True  # their own clinic's page
        missing_baseline = answer.status_code == 404 and name in (
            "clients:set_baseline",
            "clients:type_attempts",
        )
        if not missing_baseline and got_through(answer) != expected:
            wrong.append((name, answer.status_code, getattr(answer, "url", "")))
    assert not wrong


@pytest.mark.parametrize("role", ["nobody", "other client", "elsewhere", "clinician"])
def test_nobody_else_erases_or_strikes_out(doors, role, person):
    browsers, objects = doors
    answer = browsers[role].post(address_of("clients:erase", objects), {"name": person.name})
    assert answer.status_code in (302, 403, 404)
    archived = browsers[role].post(address_of("clients:archive", objects))
    assert archived.status_code in (302, 403, 404)
    person.refresh_from_db()
    assert (person.archived_at is not None) == (role == "clinician")
    if role != "clinician":
        strike = browsers[role].post(address_of("clients:strike_out", objects))
        assert strike.status_code in (302, 403, 404)


@pytest.mark.parametrize("role", ROLES)
def test_uploads_take_the_ticket_and_nothing_else(doors, role):
    browsers, _objects = doors
    for name, keyword in (("attempt", "attempt_id"), ("practice:entry", "entry_id")):
        address = reverse(name, kwargs={keyword: uuid.uuid4()})
        answer = browsers[role].put(address, b"{}", content_type="application/json")
        assert answer.status_code == 401
        made_up = browsers[role].put(address, b"{}", headers={"X-Ticket": "made.up.ticket"})
        assert made_up.status_code == 401


def test_account_routes_want_a_sign_in_unless_they_are_the_way_in(client, db, settings):
    import allauth.urls

    for pattern in allauth.urls.urlpatterns:
        for route in getattr(pattern, "url_patterns", [pattern]):
            for leaf in getattr(route, "url_patterns", [route]):
                if leaf.pattern.converters or "(" in str(leaf.pattern):
                    continue
                answer = client.get(reverse(leaf.name))
                public = leaf.name in settings.PUBLIC_VIEWS
                wants_sign_in = answer.status_code == 302 and "/login/" in answer.url
                assert public or wants_sign_in, leaf.name


def test_signing_up_is_closed(client, db):
    page = client.get("/accounts/signup/")
    assert b"Sign Up Closed" in page.content or b"closed" in page.content.lower()
    client.post("/accounts/signup/", {"email": "x@y.example", "password1": "q", "password2": "q"})
    from web.clinic.models import User

    assert not User.objects.filter(email="x@y.example").exists()


def test_a_closed_member_sees_nothing(client, clinician):
    client.force_login(clinician)
    clinician.membership.active = False
    clinician.membership.save()
    assert client.get("/rounds/").status_code == 403


def test_a_wrong_pin_a_revoked_and_a_made_up_link_look_the_same(client, access, person, clinician):
    from web.clients.usecases.link import make_link

    newer, _pin = make_link(person, by=clinician, now=NOW, pin=PIN)
    tries = [
        client.post(reverse("practice:enter", args=[newer.pk]), {"pin": "000000"}),
        client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN}),
        client.post(reverse("practice:enter", args=[uuid.uuid4()]), {"pin": PIN}),
    ]
    assert {answer.status_code for answer in tries} == {403}
    shown = {answer.content.split(b"<main")[1].split(b"csrf")[0] for answer in tries}
    assert len(shown) == 1


def test_a_revoked_link_ends_an_open_door(doors, person):
    from web.clients.usecases.link import revoke_links

    browsers, objects = doors
    assert browsers["this client"].get(address_of("practice:today", objects)).status_code == 200
    revoke_links(person, now=NOW)
    assert browsers["this client"].get(address_of("practice:today", objects)).status_code == 302
