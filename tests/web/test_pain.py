"""Pain: of letting go and before practicing. What is a stop sign, what rests for the day, what is asked."""

import uuid
from datetime import time, timedelta

import pytest
from django.urls import reverse

from core.program.program import Chosen
from core.program.step import Phase
from core.safety.circumstances import Living
from tests.conftest import NOW, PIN, activate_program
from web.clients.usecases.enrol import record_screening
from web.clients.usecases.link import make_link
from web.clinic.models import OutboxMessage
from web.measuring.sinks import AttemptOffer, AttemptTaken, Refused
from web.practice.models import Entry, HomeSession
from web.practice.player.bundle import bundle_of
from web.practice.today.practicable import practicable
from web.practice.usecases.open_session import open_session
from web.practice.usecases.save_attempt import PracticeSink
from web.practice.usecases.save_entry import read_entry, save_entry
from web.programs.client_file import ClientFile
from web.review.models import SessionResult
from web.review.usecases.session_results import STEPS

pytestmark = pytest.mark.django_db


@pytest.fixture
def opened(person, clinician, settings):
    version = activate_program(person, clinician, schools=(Chosen(school="release"),))
    access = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
    session, ticket = open_session(access, session_id=uuid.uuid4(), now=NOW)
    return version, session, ticket


def say(ticket, kind, value, step_id=None):
    data = {"kind": kind, "value": value, "step_id": step_id}
    return save_entry(ticket, read_entry(data, uuid.uuid4()), now=NOW)


def body_step(version):
    return next(step for step in version.program.steps if step.task == "neck_side_stretch")


def now_of(session):
    session.refresh_from_db()
    return session


def test_after_letting_go_pain_is_asked_and_after_voice_strain(opened):
    version, session, _ticket = opened
    asked = {step["name"]: step["asked"] for step in bundle_of(session, version)["steps"]}
    assert set(asked.values()) <= {"pain", "strain", None}
    assert asked[body_step(version).name] == "pain"
    assert bundle_of(session, version)["pain_stops"] == 3


@pytest.mark.parametrize("pain", [3, 10])
def test_pain_of_three_ends_the_session_even_if_the_page_says_no_more(opened, pain, mailoutbox):
    version, session, ticket = opened
    step = body_step(version)
    say(ticket, "pain", pain, step.step_id)
    say(ticket, "stop", "pain", step.step_id)  # the page says it too: told once
    told = OutboxMessage.objects.filter(about=session.pk, to=session.client.clinician.email)
    assert told.count() == 1
    assert (now_of(session).outcome, session.stop_sign) == ("stopped", "pain")
    assert session.ended_at is not None
    resting = practicable(ClientFile.now(session.client), version.program).resting
    assert [one.step_id for one in resting] == [step.step_id]


@pytest.mark.parametrize("pain", [1, 2])
def test_a_little_pain_leaves_that_step_out_for_the_day_and_no_other(opened, pain, monkeypatch):
    version, session, ticket = opened
    monkeypatch.setattr("web.clinic.clock.now", lambda: NOW)
    step = body_step(version)
    say(ticket, "pain", pain, step.step_id)
    assert now_of(session).stop_sign == ""
    can = practicable(ClientFile.now(session.client), version.program)
    assert [one.step_id for one in can.not_today] == [step.step_id]
    assert can.resting == ()
    assert step.step_id not in {one.step_id for one in can.routines[0].steps}
    monkeypatch.setattr("web.clinic.clock.now", lambda: NOW + timedelta(days=1))
    assert practicable(ClientFile.now(session.client), version.program).not_today == ()


def test_no_pain_changes_nothing(opened):
    version, session, ticket = opened
    say(ticket, "pain", 0, body_step(version).step_id)
    can = practicable(ClientFile.now(session.client), version.program)
    assert can.resting == can.not_today == ()


@pytest.mark.parametrize(("pain", "sign"), [(0, ""), (2, ""), (3, "pain")])
def test_pain_before_practicing_is_a_stop_sign_from_three(opened, pain, sign):
    _version, session, ticket = opened
    say(ticket, "before", {"pain": pain, "tired": 4, "gasped": True, "medication_min": 90})
    assert now_of(session).stop_sign == sign
    assert Entry.objects.get(kind="before").value["medication_min"] == 90


@pytest.mark.parametrize(
    ("kind", "value"),
    [
        ("pain", 11),
        ("pain", True),
        ("pain", None),
        ("before", {"pain": -1}),
        ("before", {"tired": 2.5}),
        ("before", {"gasped": "yes"}),
        ("before", {"medication_min": 1441}),
        ("before", {"medication_min": True}),
        ("before", {"asleep": 3}),
    ],
)
def test_what_is_no_answer_is_not_kept(opened, kind, value):
    version, _session, ticket = opened
    with pytest.raises(Refused):
        say(ticket, kind, value, body_step(version).step_id)
    assert not Entry.objects.exists()


def test_time_since_medication_is_asked_where_it_is_taken(client, person, clinician, opened):
    access = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    page = reverse("practice:practice", args=[access.pk])
    assert 'id="medication"' not in client.get(page).content.decode()
    record_screening(
        person,
        by=clinician,
        now=NOW + timedelta(minutes=1),
        voice="troubled",
        airway="larynx",
        asked_on=NOW.date(),
        larynx_examined_on=NOW.date(),
        living=Living(medication_times=(time(8),)),
    )
    assert 'id="medication"' in client.get(page).content.decode()


def test_what_happens_here_is_said_the_first_time_only(client, person, clinician):
    activate_program(person, clinician)
    access = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    page = reverse("practice:practice", args=[access.pk])
    first = client.get(page).content.decode()
    assert "What happens here" in first
    assert clinician.name in first
    open_session(access, session_id=uuid.uuid4(), now=NOW)
    assert "What happens here" not in client.get(page).content.decode()
    assert HomeSession.objects.count() == 1


def test_what_was_said_stands_with_the_home_session(signed_in, person, opened):
    version, session, ticket = opened
    said = {"pain": 2, "tired": 7, "gasped": True, "hoarser": False, "medication_min": 90}
    say(ticket, "before", said)
    say(ticket, "pain", 1, body_step(version).step_id)
    page = signed_in.get(reverse("review:home_session", args=[person.pk, session.pk]))
    words = page.content.decode()
    for line in ("pain 2 of 10", "tired 7 of 10", "90 minutes since", "gasped for air"):
        assert line in words
    assert f"{body_step(version).name}: pain 1 of 10" in words
    assert "hoarser than usual" not in words


def test_gasping_last_time_is_said_of_the_breath_steps_of_last_time(person, clinician, opened):
    version = activate_program(person, clinician, schools=(Chosen(school="breath_counts"),))
    access = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
    breath = next(step for step in version.program.steps if step.phase is Phase.BREATH)
    last, ticket = open_session(access, session_id=uuid.uuid4(), now=NOW)
    end, offer = PracticeSink(), AttemptOffer(attempt_id=str(uuid.uuid4()), step_id=breath.step_id)
    caught = AttemptTaken(taken="stopwatch", sha256="0" * 64, seconds=9.0)
    end.keep(ticket, offer, end.permit(ticket, offer), caught, NOW)
    say(ticket, "finish", {"effort": 2, "discomfort": 0})
    tomorrow = NOW + timedelta(days=1)
    _session, ticket = open_session(access, session_id=uuid.uuid4(), now=tomorrow, anew=True)
    said = read_entry({"kind": "before", "value": {"gasped": True}}, uuid.uuid4())
    save_entry(ticket, said, now=tomorrow)
    result = SessionResult.objects.get(home_session=last)
    (done,) = [one for one in STEPS.validate_python(result.steps) if one.step_id == breath.step_id]
    assert done.said == {"gasped": 1.0}
    # said again (another day's answer belongs to another session): this one stays as it is
    save_entry(
        ticket,
        read_entry({"kind": "before", "value": {"gasped": False}}, uuid.uuid4()),
        now=tomorrow,
    )
    assert Entry.objects.get(kind="gasped", home_session=last).value == 1
