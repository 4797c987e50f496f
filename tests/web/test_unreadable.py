"""One row that cannot be read: said with its id, and no page of anybody is taken down by it."""

import json
import uuid
from urllib.parse import quote

import pytest
from django.test import Client as Browser
from django.urls import reverse

from lab.simulate.voice import Voice, sing
from tests.conftest import CLOSED, NOW, PIN, enrol
from tests.factories.unreadable import spoil
from web.clients.models import StoredScreening
from web.clinic.models import OutboxMessage
from web.library.models import ClinicTask
from web.practice.models import Attempt, Entry, HomeSession
from web.programs.models import Draft, ProgramVersion
from web.review.models import CaseloadRow
from web.review.usecases.refresh_row import rebuilt

pytestmark = pytest.mark.django_db


@pytest.fixture
def spoilt(version):
    spoil("programs_programversion", "content", '{"format": 99}', version)
    return str(version.pk)


@pytest.fixture
def at_home(client, access):
    browser = Browser(raise_request_exception=False)
    browser.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    return browser


PAGES = (
    "review:client",
    "review:results",
    "clients:baseline",
    "clients:screening",
    "programs:bench",
    "review:client_numbers",
    "records:record",
)


def test_the_pages_of_a_client_whose_program_cannot_be_read(signed_in, person, spoilt):
    signed_in.raise_request_exception = False
    told = []
    for name in PAGES:
        answer = signed_in.get(reverse(name, args=[person.pk]))
        assert answer.status_code < 500, name
        if spoilt in (page := answer.content.decode()) and "cannot be read" in page:
            told.append(name)
    assert "review:client" in told
    assert "clients:baseline" not in told
    assert "clients:screening" not in told


def test_rounds_shows_every_client_and_of_that_one_the_id(
    signed_in, clinic, clinician, person, spoilt
):
    enrol(clinic, clinician, name="Osric Fendt")
    rebuilt(person)
    page = signed_in.get(reverse("review:rounds"), {"whose": "all"}).content.decode()
    assert "Osric Fendt" in page
    assert person.name in page
    assert spoilt in page


def test_a_stop_sign_comes_through_all_the_same(signed_in, clinician, person, home, spoilt):
    _session, ticket = home
    said = {"kind": "stop", "value": "pain"}
    answer = Browser(raise_request_exception=False).put(
        f"/entries/{uuid.uuid4()}/",
        json.dumps(said),
        content_type="application/json",
        headers={"X-Ticket": ticket.signed()},
    )
    assert answer.status_code == 201
    assert CaseloadRow.objects.get(client=person).stop_sign == "pain"
    assert OutboxMessage.objects.filter(to=clinician.email).count() == 1
    page = signed_in.get(reverse("review:rounds")).content.decode()
    assert "Stop sign on" in page
    page = signed_in.get(reverse("review:client", args=[person.pk])).content.decode()
    assert "Save contact" in page
    cleared = signed_in.post(reverse("review:clear_stop", args=[person.pk]), CLOSED)
    assert cleared.status_code == 302
    assert CaseloadRow.objects.get(client=person).stop_sign == ""


def test_what_is_said_and_ended_at_home_is_kept(person, home, version, spoilt):
    _session, ticket = home
    step = version.program.all_steps[0].step_id
    for said in (
        {"kind": "strain", "value": 2, "step_id": str(step)},
        {"kind": "finish", "value": {"effort": 3}},
    ):
        answer = Browser(raise_request_exception=False).put(
            f"/entries/{uuid.uuid4()}/",
            json.dumps(said),
            content_type="application/json",
            headers={"X-Ticket": ticket.signed()},
        )
        assert answer.status_code == 201, said
        if said["kind"] == "strain":
            assert "call the clinic" in answer.json()["rests"]
    assert Entry.objects.filter(client=person).count() == 2
    assert HomeSession.objects.get(client=person).ended_at is not None


def test_an_attempt_stays_on_the_page_until_it_can_be_read(home, version, person, spoilt):
    _session, ticket = home
    step = version.content["routines"][0]["steps"][3]["step_id"]
    offer = {"attempt_id": str(uuid.uuid4()), "step_id": step, "place": 0}

    def sent():
        return Browser(raise_request_exception=False).put(
            f"/attempts/{offer['attempt_id']}/",
            sing(Voice(f0_hz=233.08, seconds=1.0)).as_wav(),
            content_type="audio/wav",
            headers={"X-Ticket": ticket.signed(), "X-Attempt": quote(json.dumps(offer))},
        )

    answer = sent()
    assert answer.status_code == 503
    assert "call your clinic" in answer.json()["error"]["message"]
    spoil("programs_programversion", "content", json.dumps(version.content), version)
    assert sent().status_code == 201
    assert Attempt.objects.get(client=person).state == "measured"


def test_the_client_is_told_whom_to_call_and_not_to_practice(at_home, access, clinic, spoilt):
    for name in ("practice:today", "practice:practice"):
        answer = at_home.get(reverse(name, args=[access.pk]))
        assert answer.status_code == 200
        page = answer.content.decode()
        assert "Please call your clinic" in page
        assert clinic.telephone in page
        assert "Start" not in page
    body = json.dumps({"session_id": str(uuid.uuid4())})
    address = reverse("practice:open_session", args=[access.pk])
    answer = at_home.post(address, body, content_type="application/json")
    assert answer.status_code == 503


def test_a_screening_that_cannot_be_read_closes_the_gate(
    at_home, access, signed_in, person, version
):
    screening = StoredScreening.objects.get(client=person)
    spoil("clients_storedscreening", "red_flags", '["a flag nobody knows"]', screening)
    page = at_home.get(reverse("practice:practice", args=[access.pk])).content.decode()
    assert "Please call your clinic" in page
    rebuilt(person)
    page = signed_in.get(reverse("review:client", args=[person.pk])).content.decode()
    assert str(screening.pk) in page


def test_a_draft_that_cannot_be_read_leaves_the_other_pages(signed_in, person, version):
    draft = Draft.objects.get(client=person)
    spoil("programs_draft", "content", '{"format": 99}', draft)
    signed_in.raise_request_exception = False
    for name in PAGES:
        assert signed_in.get(reverse(name, args=[person.pk])).status_code < 500, name
    page = signed_in.get(reverse("programs:bench", args=[person.pk])).content.decode()
    assert str(draft.pk) in page


def test_a_task_of_the_clinic_that_cannot_be_read_is_left_out_and_said(
    signed_in, clinic, clinician, person, at_home, access, version
):
    task = ClinicTask.objects.create(
        clinic=clinic,
        key="own_task",
        family="C",
        content={"name": 7},
        changed_at=NOW,
        changed_by=clinician,
    )
    signed_in.raise_request_exception = False
    page = signed_in.get(reverse("library:library")).content.decode()
    assert str(task.pk) in page
    for name in PAGES:
        assert signed_in.get(reverse(name, args=[person.pk])).status_code < 500, name
    assert at_home.get(reverse("practice:practice", args=[access.pk])).status_code == 200


def test_a_program_with_a_task_that_is_gone_is_still_shown(
    signed_in, person, at_home, access, version
):
    """A step of a clinic's own task whose row can be read no more."""
    content = json.loads(json.dumps(version.content))
    content["routines"][0]["steps"][0]["task"] = "own_task_that_is_gone"
    spoil("programs_programversion", "content", json.dumps(content), version)
    assert ProgramVersion.objects.get(pk=version.pk).program
    signed_in.raise_request_exception = False
    for name in PAGES:
        assert signed_in.get(reverse(name, args=[person.pk])).status_code < 500, name
    for name in ("practice:today", "practice:practice"):
        assert at_home.get(reverse(name, args=[access.pk])).status_code == 200, name


def test_a_line_of_rounds_that_cannot_be_read_leaves_the_others(
    signed_in, clinic, clinician, person
):
    other = enrol(clinic, clinician, name="Osric Fendt")
    CaseloadRow.objects.filter(client=person).update(recent=[["no day", "kept", 4]], stretches=[7])
    page = signed_in.get(reverse("review:rounds")).content.decode()
    assert str(CaseloadRow.objects.get(client=person).pk) in page
    assert other.name in page
