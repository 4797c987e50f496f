"""Routines in the pages: each with its own dose, due, kept and shown by itself."""

import json
import uuid
from datetime import timedelta

import pytest
from django.urls import reverse

from core.dose.tide import Stroke
from core.program.program import Chosen
from tests.conftest import NOW, PIN, activate_program
from tests.factories.screening_pages import screen
from web.clients.signals import record_changed
from web.clients.usecases.link import make_link
from web.clinic.refusal import UsecaseRefused
from web.practice.models import HomeSession
from web.practice.sessions.queries import done_since
from web.practice.usecases.open_session import open_session
from web.programs.models import Draft, ProgramVersion
from web.review.caseload.row import days_of
from web.review.models import CaseloadRow

LATER = NOW + timedelta(days=1)  # the fixed day of the pages
SCHOOLS = (Chosen(school="sustained"), Chosen(school="semi_reset"), Chosen(school="cool_down"))


@pytest.fixture
def version(person, clinician):
    screen(person, clinician, trouble_began_on=NOW.date() - timedelta(days=60))
    return activate_program(person, clinician, schools=SCHOOLS)


@pytest.fixture
def access(version, person, clinician, client):
    made = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
    client.post(reverse("practice:enter", args=[made.pk]), {"pin": PIN})
    return made


def finish(access, routine, outcome="kept"):
    session, _ticket = open_session(access, session_id=uuid.uuid4(), now=LATER, routine=routine)
    HomeSession.objects.filter(pk=session.pk).update(outcome=outcome, ended_at=LATER)
    return session


def today(client, access):
    return client.get(reverse("practice:today", args=[access.pk])).content.decode()


def test_today_lists_each_routine_with_what_is_left_of_it(client, access):
    page = today(client, access)
    assert "Start: Held notes" in page
    assert "1 of 2, about 9 minutes" in page
    assert "every few hours while you work" in page
    assert "after you have used your voice a lot" in page
    finish(access, "reset")
    page = today(client, access)
    assert "1 of 2, about 9 minutes" in page  # the ladder is as it was
    assert "2 of 4, about 1 minute" in page
    for _time in range(2):
        finish(access, "ladder")
    page = today(client, access)
    assert "Once more: Held notes" in page
    assert "All done for today" not in page


def test_all_is_done_when_every_routine_is(client, access):
    for routine, times in (("ladder", 2), ("reset", 4), ("cool_down", 1)):
        for _time in range(times):
            finish(access, routine)
    assert "All done for today. Rest your voice." in today(client, access)


def test_a_home_session_is_of_the_routine_that_was_opened(client, access, version):
    opened = client.post(
        reverse("practice:open_session", args=[access.pk]),
        json.dumps({"session_id": str(uuid.uuid4()), "routine": "reset"}),
        content_type="application/json",
    ).json()
    own = [step.step_id for step in version.program.routine("reset").steps]
    assert [step["step_id"] for step in opened["steps"]] == own
    assert HomeSession.objects.get().routine == "reset"


def test_a_page_that_names_no_routine_gets_the_next_one_due(access):
    first, _ticket = open_session(access, session_id=uuid.uuid4(), now=LATER)
    assert first.routine == "ladder"
    for _time in range(2):
        finish(access, "ladder")
    HomeSession.objects.filter(pk=first.pk).update(outcome="kept")
    then, _ticket = open_session(access, session_id=uuid.uuid4(), now=LATER)
    assert then.routine == "reset"


@pytest.mark.parametrize("routine", ["nap", 3, ["ladder"], {"a": 1}])
def test_a_routine_that_is_none_is_refused_in_words(client, access, routine):
    answer = client.post(
        reverse("practice:open_session", args=[access.pk]),
        json.dumps({"session_id": str(uuid.uuid4()), "routine": routine}),
        content_type="application/json",
    )
    assert answer.status_code == (409 if routine == "nap" else 400)
    assert answer.json()["error"]["message"]
    assert not HomeSession.objects.exists()


def test_what_is_kept_of_one_routine_is_not_kept_of_another(access, person):
    for _time in range(3):
        finish(access, "reset")
    done = done_since(person.pk, since=LATER.date())
    assert [(one.stroke, one.routine) for one in done] == [(Stroke.KEPT, "reset")] * 3
    finish(access, "ladder")
    record_changed.send(HomeSession, client_id=person.pk)
    row = CaseloadRow.objects.get(client=person)
    (day,) = days_of(row, today=LATER.date(), back=1)
    assert day.of("reset").strokes == (*[Stroke.KEPT] * 3, Stroke.AHEAD)
    assert day.of("ladder").strokes == (Stroke.KEPT, Stroke.AHEAD)
    assert day.of("cool_down").strokes == (Stroke.AHEAD,)


def test_the_clinician_sees_each_routine_with_its_dose_and_what_was_kept(signed_in, access, person):
    finish(access, "reset")
    page = signed_in.get(reverse("review:client", args=[person.pk])).content.decode()
    for name in ("Ladder", "Reset", "Cool-down"):
        assert f">{name}: " in page, name


def test_the_bench_sets_the_dose_of_one_routine(signed_in, version, person):
    reset = version.program.routine("reset").steps[0].step_id
    bench = reverse("programs:bench", args=[person.pk])
    page = signed_in.get(f"{bench}?step={reset}").content.decode()
    assert 'data-dose="reset"' in page
    assert "the fullest day" in page
    draft = Draft.objects.get(client=person)
    body = {"revision": draft.revision, "edit": "dose", "routine": "reset"}
    body |= {"sessions_a_day": 3, "days_a_week": 4, "weeks": 2}
    address = reverse("programs:edit", args=[person.pk])
    answer = signed_in.post(address, json.dumps(body), content_type="application/json")
    assert answer.status_code == 200
    program = Draft.objects.get(client=person).program
    assert program.routine("reset").dose.sessions_a_day == 3
    assert program.routine("ladder") == version.program.routine("ladder")
    morning = body | {"revision": draft.revision + 1, "when": "morning", "sessions_a_day": 1}
    answer = signed_in.post(address, json.dumps(morning), content_type="application/json")
    assert answer.status_code == 200
    program = Draft.objects.get(client=person).program
    assert program.routine("reset").dose.when == "morning"
    # six resets 1.5 h apart do not fit between 7:00 and 12:00
    for change in ({"routine": "nap"}, {"when": "noon"}, {"sessions_a_day": 6}):
        odd = morning | {"revision": draft.revision + 2} | change
        answer = signed_in.post(address, json.dumps(odd), content_type="application/json")
        assert answer.status_code == 422, change
    assert Draft.objects.get(client=person).program == program


def test_a_version_stored_in_format_two_is_practiced_and_climbs_on(person, clinician, version):
    three = version.content
    (ladder,) = [one for one in three["routines"] if one["key"] == "ladder"]
    two = {key: value for key, value in three.items() if key != "routines"} | {"format": 2}
    two |= {key: ladder[key] for key in ("steps", "short_day", "dose")}
    del two["dose"]["when"]
    stored = ProgramVersion.objects.create(
        clinic_id=person.clinic_id,
        client=person,
        number=2,
        content=two,
        activated_at=NOW,
        active_from=NOW.date(),
        activated_by=clinician,
    )
    access = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
    session, _ticket = open_session(access, session_id=uuid.uuid4(), now=NOW)
    assert (session.version, session.routine) == (stored, "practice")
    # a page of the version before asks for a routine that is gone
    with pytest.raises(UsecaseRefused, match="has changed"):
        open_session(access, session_id=uuid.uuid4(), now=NOW, routine="reset")
