"""Who opened what is noted, named, filtered and saved; a reason first where the clinic wants it."""

import csv
import io

import pytest
from django.urls import reverse

from tests.conftest import PASSWORD, PIN
from tests.factories.access import clinic_lead
from web.clients.models import ClientAccess
from web.clients.usecases.enrol import erase_client
from web.clinic import clock
from web.clinic.models import AccessEvent, Clinic

pytestmark = pytest.mark.django_db


def events(**fields):
    return list(AccessEvent.objects.filter(**fields).order_by("at").values_list("what", "where"))


@pytest.fixture
def colleague(clinic):
    """Somebody of the clinic who does not treat the client."""
    return clinic_lead(clinic)


@pytest.fixture
def asks_why(clinic):
    Clinic.objects.update(reason_to_read=True)


def page_of(person):
    return reverse("review:client", args=[person.pk])


def test_every_page_and_act_on_a_record_is_noted_with_its_name(signed_in, person, version):
    signed_in.get(page_of(person))
    signed_in.get(reverse("programs:bench", args=[person.pk]))
    signed_in.post(reverse("clients:for_home", args=[person.pk]), {"words": "Slowly."})
    signed_in.post(reverse("clients:link", args=[person.pk]))
    assert events(subject_id=person.pk) == [
        ("read", "review:client"),
        ("read", "programs:bench"),
        ("changed", "clients:for_home"),
        ("changed", "clients:link"),
    ]


def test_what_is_more_than_reading_is_noted_once_and_named(signed_in, person, version):
    for name in ("review:results", "review:results_table", "programs:export"):
        assert signed_in.get(reverse(name, args=[person.pk])).status_code == 200, name
    assert events(subject_id=person.pk) == [
        ("read", "review:results"),
        ("exported", "review:results_table"),
        ("exported program", "programs:export"),
    ]


def test_what_was_refused_or_is_not_there_is_no_reading(signed_in, person):
    signed_in.post(reverse("clients:for_home", args=[person.pk]), {"words": "x" * 9999})
    other = reverse("review:client", args=["00000000-0000-4000-8000-000000000000"])
    assert signed_in.get(other).status_code == 404
    assert [what for what, _ in events() if what in ("read", "changed")] == []


def test_signing_in_and_failing_to_is_noted(client, clinician):
    client.post("/accounts/login/", {"login": clinician.email, "password": "not it"})
    client.post("/accounts/login/", {"login": "nobody@nowhere.example", "password": "x"})
    client.post("/accounts/login/", {"login": clinician.email, "password": PASSWORD})
    client.post("/accounts/logout/")
    assert [what for what, _ in events(user=clinician)] == [
        "sign-in failed",
        "signed in",
        "signed out",
    ]
    assert AccessEvent.objects.count() == 3


def test_the_link_and_its_pin_are_noted(client, access, person):
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": "999999"})
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    said = [what for what, _ in events(subject_id=person.pk, user=None)]
    assert said == ["wrong PIN at a link", "link opened with its PIN"]


def test_invitations_and_roles_are_noted(client, clinic, colleague):
    client.force_login(colleague)
    client.post(reverse("clinic:invite"), {"email": "new@harrow-quay.example", "role": "clinician"})
    assert ("changed", "clinic:invite") in events(user=colleague)


def test_a_stranger_to_the_client_states_a_reason_that_holds_for_the_day(
    client, person, colleague, asks_why, monkeypatch
):
    client.force_login(colleague)
    asked = client.get(page_of(person))
    assert asked.status_code == 302
    assert asked.url.startswith(reverse("clients:why", args=[person.pk]))
    assert "treats this client" in client.get(asked.url).content.decode()
    why = reverse("clients:why", args=[person.pk])
    for reason in ("", "x", "y" * 301):
        assert client.post(why, {"reason": reason}).status_code == 422
    assert client.get(page_of(person)).status_code == 302
    said = {"reason": "I cover for her this week.", "next": page_of(person)}
    assert client.post(why, said).url == page_of(person)
    assert client.get(page_of(person)).status_code == 200
    event = AccessEvent.objects.get(what="stated a reason")
    assert (event.words, event.subject_id) == ("I cover for her this week.", person.pk)
    now = clock.now()
    from datetime import timedelta

    monkeypatch.setattr(clock, "now", lambda: now + timedelta(hours=13))
    assert client.get(page_of(person)).status_code == 302


def test_no_reason_leads_out_of_the_house(client, person, colleague, asks_why):
    client.force_login(colleague)
    said = {"reason": "I cover for her.", "next": "https://elsewhere.example/"}
    assert client.post(reverse("clients:why", args=[person.pk]), said).url == page_of(person)


def test_acts_without_a_reason_are_refused_and_who_treats_is_not_asked(
    client, signed_in, person, colleague, asks_why
):
    assert signed_in.get(page_of(person)).status_code == 200
    client.force_login(colleague)
    link = reverse("clients:link", args=[person.pk])
    assert client.post(link).status_code == 403
    assert not ClientAccess.objects.filter(client=person).exists()


def test_the_lead_reads_filters_and_saves_it(client, signed_in, person, clinician, colleague):
    signed_in.get(page_of(person))
    client.force_login(colleague)
    address = reverse("clients:access")
    assert person.name in client.get(address).content.decode()
    table = client.get(address, {"client": person.name[:4], "what": "read"}).content.decode()
    assert "Client page" in table
    nothing = client.get(address, {"client": "nobody of that name"}).content.decode()
    assert "Nothing fits these filters." in nothing
    assert client.get(address, {"since": "2026-02-30"}).status_code == 422
    saved = client.get(address, {"as": "csv"})
    rows = list(csv.DictReader(io.StringIO(saved.content.decode())))
    assert [row["Client"] for row in rows if row["What"] == "read"] == [person.name]
    assert AccessEvent.objects.filter(what="saved the access list", user=colleague).exists()
    client.force_login(clinician)
    assert client.get(address).status_code == 403


def test_an_erased_record_has_no_name_any_more_and_no_cell_is_a_formula(
    client, signed_in, person, clinician, colleague
):
    type(person).objects.filter(pk=person.pk).update(name="=1+1")
    signed_in.get(page_of(person))
    client.force_login(colleague)
    assert "'=1+1" in client.get(reverse("clients:access"), {"as": "csv"}).content.decode()
    person.refresh_from_db()
    erase_client(person, by=colleague, now=clock.now())
    saved = client.get(reverse("clients:access"), {"as": "csv"}).content.decode()
    assert "=1+1" not in saved
    assert "erased record" in saved
