"""After a stop sign: what Today shows, what closing it asks, whom anybody can call."""

import json
import uuid
from datetime import timedelta

import pytest
from django.urls import reverse

from core.grading.act import Act
from tests.conftest import CLOSED, NOW, PIN, activate_program, baseline_of, enrol
from tests.factories.access import clinic_lead
from tests.factories.uploads import offer, put_json
from web.clients.usecases.enrol import record_screening
from web.clinic.refusal import UsecaseRefused
from web.practice.models import HomeSession
from web.programs.models import ProgramVersion
from web.review.course_file import CourseFile
from web.review.models import Decision, DecisionDone
from web.review.usecases.session_results import save_results

pytestmark = pytest.mark.django_db


@pytest.fixture
def stopped(home, version):
    session, _ticket = home
    HomeSession.objects.filter(pk=session.pk).update(stop_sign="light_headed", outcome="stopped")
    from web.review.usecases.refresh_row import rebuilt

    rebuilt(session.client)
    return session


def today_page(client, access):
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    return client.get(reverse("practice:today", args=[access.pk])).content.decode()


def test_today_begins_with_the_pause_its_reason_and_a_number_to_tap(stopped, access, client):
    page = today_page(client, access)
    pause = page.index("Stop for now.")
    assert "You told us that you felt light-headed." in page
    assert page.index('href="tel:0005550100"') > pause
    for later in ("What you will do", "Start practice", "Practice once more"):
        if later in page:
            assert page.index(later) > pause
    assert 'href="tel:112"' in page


def test_health_questions_are_asked_before_the_shortest_session_while_a_sign_stands(
    stopped, access, client
):
    from web.practice.sessions.before_session import asks

    assert not asks(())
    assert asks((), stop_sign=True)


@pytest.mark.parametrize(
    "sent", [{}, {"said": " ", "then": "reopen"}, {"said": "All well."}, {"said": "x", "then": "?"}]
)
def test_closing_asks_what_was_said_and_decided(stopped, signed_in, person, sent):
    answer = signed_in.post(reverse("review:clear_stop", args=[person.pk]), sent)
    assert answer.status_code == 422
    assert "Nothing was saved" in answer.content.decode()
    stopped.refresh_from_db()
    assert stopped.stop_cleared_at is None
    assert not DecisionDone.objects.exists()


def close(signed_in, person, then):
    return signed_in.post(
        reverse("review:clear_stop", args=[person.pk]), CLOSED | {"then": then}, follow=True
    )


def test_reopened_one_target_lower(stopped, signed_in, person, version):
    before = version.program
    assert close(signed_in, person, "reopen").status_code == 200
    stopped.refresh_from_db()
    assert stopped.stop_cleared_at is not None
    done = DecisionDone.objects.get()
    assert (done.said, done.then) == (CLOSED["said"], "reopen")
    # the program stands on its first rung: nothing is lower than that
    assert ProgramVersion.objects.latest("number").program.main_step.rung == 0
    assert before.main_step.rung == 0


@pytest.mark.parametrize("then", ["hold", "examine"])
def test_kept_on_hold_or_examined_first(stopped, signed_in, person, then):
    close(signed_in, person, then)
    stopped.refresh_from_db()
    assert stopped.stop_cleared_at is None
    assert Decision.objects.filter(act=Act.EXAMINE).exists() is (then == "examine")
    contacts = [
        one for one in CourseFile(person, NOW.date()).history.decided if one.act is Act.CONTACT
    ]
    assert contacts


def test_the_client_has_a_number_for_the_clinician_only(signed_in, person, access, client):
    address = reverse("clients:telephone", args=[person.pk])
    assert signed_in.post(address, {"telephone": " 000 555  0142 "}).status_code == 302
    page = signed_in.get(reverse("review:client", args=[person.pk])).content.decode()
    assert 'href="tel:0005550142"' in page
    assert "0142" not in today_page(client, access)


def test_during_voice_rest_today_offers_no_practice(client, access, person, version, clinician):
    record_screening(
        person,
        by=clinician,
        now=NOW + timedelta(minutes=1),
        red_flags=["blood"],
        voice="troubled",
        airway="larynx",
        asked_on=NOW.date(),
        larynx_examined_on=None,
    )
    shown = today_page(client, access)
    assert "rests for now" in shown
    assert "Start practice" not in shown


def test_a_clinic_without_a_number_activates_no_first_program(clinic, clinician, version, client):
    clinic.telephone = ""
    clinic.save()
    fresh = enrol(clinic, clinician, name="Bo Lark")
    with pytest.raises(UsecaseRefused, match="no telephone number"):
        activate_program(fresh, clinician)
    # a running one goes on, and so does its next version
    running = version.client
    running.refresh_from_db()
    baseline_of(running, clinician)
    assert activate_program(running, clinician).number == 2
    client.force_login(clinic_lead(clinic))
    page = client.get(reverse("review:rounds") + "?whose=all").content.decode()
    assert "Clients cannot see a number to call" in page


def test_effort_is_kept_for_the_step_it_was_said_of(home, client, version):
    _session, ticket = home
    said = offer(version, seconds=5.0)
    put_json(client, ticket, said)
    answer = client.put(
        f"/entries/{uuid.uuid4()}/",
        json.dumps({"kind": "effort", "value": 8, "step_id": said["step_id"]}),
        content_type="application/json",
        headers={"X-Ticket": ticket.signed()},
    )
    assert answer.status_code == 201
    save_results(version.client)
    (sitting,) = CourseFile(version.client, NOW.date()).history.sittings
    assert {done.said.get("effort") for done in sitting.steps} == {8.0}
