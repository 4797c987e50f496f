"""A home session that was begun goes on; what is old is sent with a new ticket; a finish is said once."""

import json
import uuid
from datetime import timedelta
from functools import partial

import pytest
from django.core import signing
from django.urls import reverse

from core.editing.change_rung import on_rung
from tests.conftest import NOW, PIN, activate_program, enrol
from tests.factories.going_on import opened, say, ticket_of
from tests.factories.uploads import offer, put_json
from web.clients.usecases.link import make_link, revoke_links
from web.clinic import clock
from web.measuring.tickets import LIFETIME_S, Ticket
from web.practice.models import Attempt, Entry, HomeSession, SetAside
from web.programs.models import Draft
from web.programs.usecases import drafts, versions

pytestmark = pytest.mark.django_db


@pytest.fixture
def inside(client, access, version):
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    return client


def test_what_was_begun_today_goes_on_on_another_device(inside, access, version):
    first = opened(inside, access)
    assert (first["done"], first["answered"]) == ([], [])
    power = offer(version, elapsed_ms=1000)
    put_json(inside, ticket_of(first), power | {"seconds": 6.0})
    put_json(inside, ticket_of(first), power | {"seconds": 2.0, "place": 1, "interrupted": True})
    warm_up = version.content["routines"][0]["steps"][0]["step_id"]
    say(inside, ticket_of(first), "strain", 2, warm_up)
    again = opened(inside, access)
    assert again["session_id"] == first["session_id"]
    # what was broken off is done once more
    assert again["done"] == [[power["step_id"], 0, 1]]
    assert again["answered"] == [warm_up]
    anew = opened(inside, access, anew=True)
    assert anew["session_id"] != first["session_id"]
    assert anew["done"] == []


def test_what_was_finished_or_only_looked_at_does_not_go_on(inside, access, version):
    looked_at = opened(inside, access)
    bundle = opened(inside, access)
    assert bundle["session_id"] != looked_at["session_id"]
    put_json(inside, ticket_of(bundle), offer(version, elapsed_ms=1000) | {"seconds": 6.0})
    say(inside, ticket_of(bundle), "finish", {"effort": 4, "discomfort": 0})
    assert opened(inside, access)["session_id"] not in (
        bundle["session_id"],
        looked_at["session_id"],
    )


def climbed(person, by, step_id):
    """The next version, one rung up, in force from today."""
    change = partial(on_rung, step_id=step_id, rung=1)
    revision = Draft.objects.get(client=person).revision
    draft = drafts.edit_draft(person, revision=revision, change=change, by=by, now=clock.now())
    versions.activate(
        person,
        revision=draft.revision,
        written_reason="",
        by=by,
        now=clock.now(),
        active_from=clock.now().date(),
    )


def test_what_was_begun_yesterday_or_with_another_program_does_not_go_on(
    inside, access, version, person, clinician
):
    bundle = opened(inside, access)
    put_json(inside, ticket_of(bundle), offer(version, elapsed_ms=1000) | {"seconds": 6.0})
    HomeSession.objects.update(practice_day=clock.now().date() - timedelta(days=1))
    assert opened(inside, access)["session_id"] != bundle["session_id"]
    HomeSession.objects.update(practice_day=clock.now().date())
    climbed(person, clinician, version.program.main_step.step_id)
    assert opened(inside, access)["session_id"] != bundle["session_id"]


def test_what_is_said_at_a_second_finish_does_not_change_the_first(inside, access):
    ticket = ticket_of(opened(inside, access))
    say(inside, ticket, "finish", {"effort": 4, "discomfort": None})
    say(inside, ticket, "finish", {"effort": 9, "discomfort": 1})
    session = HomeSession.objects.get()
    assert (session.effort, session.discomfort) == (4, 1)
    assert Entry.objects.count() == 2


def stale(ticket):
    """The same ticket, signed so long ago that it is refused."""
    with pytest.MonkeyPatch.context() as patch:
        made = signing.time.time() - LIFETIME_S - 60
        patch.setattr("django.core.signing.time.time", lambda: made)
        return ticket.signed()


def renewed(browser, access, text):
    address = reverse("practice:renew_ticket", args=[access.pk])
    return browser.post(address, json.dumps({"ticket": text}), content_type="application/json")


def test_a_ticket_that_is_too_old_is_renewed_and_its_attempt_kept(inside, access, version):
    ticket = ticket_of(opened(inside, access))
    old = stale(ticket)
    attempt_id = uuid.uuid4()
    body = json.dumps(offer(version) | {"attempt_id": str(attempt_id), "seconds": 6.0})
    address = f"/attempts/{attempt_id}/"

    def put(text):
        return inside.put(
            address, body, content_type="application/json", headers={"X-Ticket": text}
        )

    assert put(old).status_code == 401
    fresh = renewed(inside, access, old)
    assert fresh.status_code == 200
    assert put(fresh.json()["ticket"]).status_code == 201
    assert Attempt.objects.get().home_session_id == uuid.UUID(ticket.sitting)


def test_what_waited_through_a_new_link_is_the_clients_own(
    inside, access, version, person, clinician
):
    ticket = ticket_of(opened(inside, access))
    revoke_links(person, now=NOW)
    new = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
    inside.post(reverse("practice:enter", args=[new.pk]), {"pin": PIN})
    text = renewed(inside, new, ticket.signed()).json()["ticket"]
    put_json(inside, Ticket.read(text), offer(version) | {"seconds": 6.0})
    assert Attempt.objects.count() == 1
    assert not SetAside.objects.exists()


def test_nobody_renews_the_ticket_of_another(inside, access, clinic, clinician):
    second = enrol(clinic, clinician, name="Osric Fendt")
    activate_program(second, clinician)
    other = make_link(second, by=clinician, now=NOW, pin=PIN)[0]
    ticket = ticket_of(opened(inside, access))
    inside.post(reverse("practice:enter", args=[other.pk]), {"pin": PIN})
    assert renewed(inside, other, ticket.signed()).status_code == 403
    assert renewed(inside, other, ticket.signed()[:-2] + "xx").status_code == 403
    assert renewed(inside, other, "nonsense").status_code == 403
    address = reverse("practice:renew_ticket", args=[other.pk])
    for body in ("", "[]", "{}", "\x00"):
        answer = inside.post(address, body, content_type="application/json")
        assert answer.status_code == 400
