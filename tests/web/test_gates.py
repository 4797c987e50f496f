"""The gate in the running application: what the form takes, what activates, what ends at home."""

import json
import re
import uuid
from datetime import timedelta

import pytest
from django.urls import reverse

from core.dose.load import load_of
from core.editing.step_targets import with_repetitions
from core.errors import PlanError
from core.program.program import Chosen
from core.safety.circumstances import Circumstance, Living
from tests.conftest import NOW, PIN, activate_program, baseline_of, enrol
from tests.factories.screening_pages import screen
from tests.factories.uploads import offer, put_json
from web.clients.models import StoredScreening
from web.clients.usecases.link import make_link
from web.clinic.refusal import UsecaseRefused
from web.practice.models import Attempt, HomeSession
from web.practice.usecases.open_session import open_session
from web.programs.client_file import ClientFile
from web.programs.models import Draft, ProgramVersion
from web.programs.plan_request import plan_request
from web.programs.usecases import drafts, versions
from web.review.models import CaseloadRow

pytestmark = pytest.mark.django_db
TODAY = NOW.date()
USUAL = {
    "asked_on": TODAY.isoformat(),
    "trouble_began_on": "2026-05-01",
    "voice": "troubled",
    "airway": "larynx",
    "cold": "no",
    "rest_absent": "on",
}


def ago(days):
    return TODAY - timedelta(days=days)


def form(signed_in, person, **answers):
    return signed_in.post(reverse("clients:screening", args=[person.pk]), USUAL | answers)


def page(signed_in, person):
    return signed_in.get(reverse("clients:screening", args=[person.pk])).content.decode()


def ticked(html, flag):
    """Which answers of a red flag are chosen on the page."""
    return re.findall(rf'name="flag_{flag}" value="(\w+)"[^>]*checked', html)


@pytest.mark.parametrize(
    ("answers", "field", "words"),
    [
        ({"larynx_examined_on": "2999-01-01"}, "larynx_examined_on", "in the future"),
        ({"asked_on": "2999-01-01"}, "asked_on", "in the future"),
        ({"larynx_examined_on": "1960-01-01"}, "larynx_examined_on", "before the client"),
        ({"trouble_began_on": "1960-01-01"}, "trouble_began_on", "before the client"),
        ({"trouble_began_on": "2999-01-01"}, "trouble_began_on", "in the future"),
        ({"hoarse_weeks": "-1"}, "hoarse_weeks", "greater than or equal to 0"),
        ({"hoarse_weeks": "nan"}, "hoarse_weeks", "number"),
        ({"hoarse_weeks": "900"}, "hoarse_weeks", "Correct one of the two"),
        ({"talking_hours": "25"}, "talking_hours", "less than or equal to 24"),
        ({"minutes_a_session": "0"}, "minutes_a_session", "greater than or equal to 1"),
        ({"flag_blood": "yes", "noted_blood": "2999-01-01"}, "noted_blood", "in the future"),
        (
            {"flag_blood": "yes", "cleared_on": "2026-06-01", "cleared_from": "2026-06-01"},
            "cleared_on",
            "does not clear it",
        ),
        ({"cleared_from": "2026-06-01"}, "cleared_on", "the date it was given"),
        (
            {"cleared_on": "2026-06-05", "cleared_from": "2026-06-01"},
            "cleared_from",
            "before the clearance was given",
        ),
        ({"hoarser": "on"}, "hoarser", "with yes"),
        ({"voice": "no_complaint"}, "trouble_began_on", "remove this"),
        ({"voice": "clear_again"}, "clear_since", "been clear"),
        ({"clear_since": "2026-06-01"}, "clear_since", "remove this date"),
        ({"valve_tolerated_on": "2026-06-01"}, "valve_tolerated_on", "tracheostomy"),
        ({"release": "gentle"}, "released_on", "When was the release given"),
        ({"botulinum_on": "2999-01-01"}, "botulinum_on", "in the future"),
        ({"paralysis_since": "2026-06-01"}, "paralysis_since", "remove this date"),
        ({"voice": "singing"}, "voice", "not one of the available choices"),
        ({"folds_operated_on": "2026-05-01"}, "folds_operated_on", "remove this date"),
        (
            {"folds_operated_on": "2999-01-01", "conditions": ["fold_surgery"]},
            "folds_operated_on",
            "in the future",
        ),
        ({"medication_times": "25:00", "medication": "x"}, "medication_times", "not a time of day"),
        ({"medication_times": "8:00"}, "medication", "Which medication"),
        ({"events": "soon the wedding"}, "events", "not an event"),
        ({"circumstances": ["remote_visits"]}, "whereabouts", "Needed for tele-visits"),
        ({"voice_rest_until": "9026-01-01"}, "voice_rest_until", "Check the year"),
        ({"flag_blood": "hiccups"}, "flag_blood", "not one of the available choices"),
    ],
)
def test_what_cannot_be_is_said_at_its_field_and_nothing_is_kept(
    signed_in, person, answers, field, words
):
    before = StoredScreening.objects.count()
    answer = form(signed_in, person, **answers)
    assert answer.status_code == 422
    errors = answer.context["form"].errors
    assert words in " ".join(errors[field])
    assert words.split(":")[0][:20] in answer.content.decode()
    assert StoredScreening.objects.count() == before


def test_strong_voice_waits_for_a_release_after_the_operation_that_was_told(
    signed_in, person, clinician
):
    baseline_of(person, clinician)
    told = {"larynx_examined_on": "2026-06-01", "conditions": ["fold_surgery"]}

    def names():
        loudness = (Chosen(school="loudness_vowels", options={"aim": "effort"}),)
        baseline_of(person, clinician)
        wanted = plan_request(ClientFile(person, TODAY), chosen=loudness)
        draft = drafts.propose(person, wanted, by=clinician, now=NOW)
        return {step.task for step in draft.program.steps}

    assert (
        form(signed_in, person, **told, released_on="2021-03-01", release="full").status_code == 302
    )
    with pytest.raises(PlanError):
        names()
    answer = form(
        signed_in,
        person,
        **told,
        folds_operated_on="2026-05-02",
        released_on="2026-06-10",
        release="full",
    )
    assert answer.status_code == 302
    assert "loud_ah" in names() or "loud_vowels" in names()
    assert "2026-05-02" in page(signed_in, person)


def test_everything_asked_is_kept_and_comes_back_in_the_next_screening(signed_in, person):
    answer = form(
        signed_in,
        person,
        larynx_examined_on="2026-06-01",
        flag_ear_pain="yes",
        noted_ear_pain="2026-05-20",
        circumstances=["reflux", "low_vision", "remote_visits"],
        medication="levodopa",
        medication_times="13:30 8:00",
        talking_hours="6",
        events="2026-07-02 ferry jubilee\n2026-06-18 auction",
        whereabouts="Harrow Quay, Pier Road 4",
        emergency_contact="Ada Tidewell",
        minutes_a_session="12",
        minutes_a_week="90",
    )
    assert answer.status_code == 302
    row = StoredScreening.objects.filter(client=person).latest("at")
    assert row.flags_noted == {"ear_pain": "2026-05-20"}
    assert row.medication_times == ["08:00", "13:30"]
    assert row.events[1] == {"on": "2026-06-18", "name": "auction"}
    again = page(signed_in, person)
    for kept in ("levodopa", "08:00 13:30", "ferry jubilee", "Pier Road 4", "Ada Tidewell"):
        assert kept in again
    client_page = signed_in.get(reverse("review:client", args=[person.pk])).content.decode()
    assert "larger type" in client_page
    assert "auction in 3 days" in client_page
    assert "Talks 6 hours a day" in client_page


def test_an_old_clearance_is_never_filled_in_for_new_blood(signed_in, person, clinician):
    screen(
        person,
        clinician,
        red_flags=["blood"],
        flags_noted={"blood": ago(90)},
        asked_on=ago(90),
        cleared_on=ago(80),
        cleared_from=ago(80),
    )
    again = page(signed_in, person)
    assert ago(80).isoformat() not in again
    # the bleeding of then was cleared: it is not ticked any more
    assert "yes" not in ticked(again, "blood")
    assert form(signed_in, person, flag_blood="yes").status_code == 302
    row = CaseloadRow.objects.get(client=person)
    assert row.screening["stands"]["noted_on"] == {"blood": TODAY.isoformat()}
    with pytest.raises(UsecaseRefused, match="spitting blood"):
        activate_program(person, clinician)


def test_a_red_flag_cannot_be_unticked_away(signed_in, person, clinician):
    screen(person, clinician, red_flags=["neck_lump"], larynx_examined_on=None)
    assert "yes" in ticked(page(signed_in, person), "neck_lump")
    refused = form(signed_in, person)
    assert refused.status_code == 422
    assert "the answer stays" in refused.content.decode()
    why = {"mistaken_why": "the wrong client's answer"}
    assert form(signed_in, person, **why).status_code == 302
    row = StoredScreening.objects.filter(client=person).latest("at")
    assert (row.mistaken, row.mistaken_why) == (["neck_lump"], "the wrong client's answer")
    assert "yes" not in ticked(page(signed_in, person), "neck_lump")


def proposed_for(person, clinician):
    baseline_of(person, clinician)
    wanted = plan_request(ClientFile(person, TODAY), chosen=(Chosen(school="sustained"),))
    return drafts.propose(person, wanted, by=clinician, now=NOW)


def activated(person, clinician, draft, reason="", now=NOW):
    return versions.activate(
        person,
        revision=draft.revision,
        written_reason=reason,
        by=clinician,
        now=now,
        active_from=now.date(),
    )


def test_activation_works_the_gate_out_itself(clinic, clinician):
    person = enrol(clinic, clinician, larynx_examined_on=ago(200), trouble_began_on=ago(900))
    draft = proposed_for(person, clinician)
    with pytest.raises(UsecaseRefused, match="200 days old"):
        activated(person, clinician, draft)
    assert not ProgramVersion.objects.exists()
    version = activated(person, clinician, draft, reason="seen by mirror today")
    assert version.written_reason == "seen by mirror today"
    # a later climb only reminds
    moved = drafts.edit_draft(
        person,
        revision=draft.revision,
        change=lambda p: with_repetitions(p, p.steps[0].step_id, 1),
        by=clinician,
        now=NOW,
    )
    assert activated(person, clinician, moved).number == 2
    # after a new red flag, though examined since, it must be fresh again by the clinic's number
    clinic.examination_days = 14
    clinic.save()
    person.refresh_from_db()
    screen(
        person,
        clinician,
        red_flags=["ear_pain"],
        flags_noted={"ear_pain": ago(0)},
        larynx_examined_on=TODAY,
        trouble_began_on=ago(900),
    )
    later = NOW + timedelta(days=15)
    moved = drafts.edit_draft(
        person,
        revision=moved.revision,
        change=lambda p: with_repetitions(p, p.steps[0].step_id, 2),
        by=clinician,
        now=later,
    )
    with pytest.raises(UsecaseRefused, match="15 days old, more than 14"):
        activated(person, clinician, moved, now=later)


def test_no_written_reason_opens_a_drooping_face_and_home_shows_the_emergency_number(
    person, clinician, version, access, client, clinic
):
    clinic.emergency_number = "999"
    clinic.save()
    screen(person, clinician, red_flags=["face_or_speech_sudden"])
    with pytest.raises(UsecaseRefused, match="call 999 now"):
        open_session(access, session_id=uuid.uuid4(), now=NOW)
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    today = client.get(reverse("practice:today", args=[access.pk])).content.decode()
    assert "call 999 now" in today
    assert "Start practice" not in today
    draft = Draft.objects.get(client=person)
    with pytest.raises(UsecaseRefused, match="drooping face"):
        activated(person, clinician, draft, reason="a very good one")


def test_a_red_flag_recorded_meanwhile_ends_the_home_session_at_its_next_step(
    person, clinician, version, home, client
):
    _session, ticket = home
    said = offer(version, seconds=5.0)
    assert put_json(client, ticket, said)[1].json()["rests"] is None
    screen(person, clinician, red_flags=["blood"])
    attempt_id, answer = put_json(client, ticket, said)
    # what was held before is kept; nothing new is begun
    assert Attempt.objects.filter(pk=attempt_id).exists()
    assert "call the clinic" in answer.json()["rests"]
    entry = client.put(
        f"/entries/{uuid.uuid4()}/",
        json.dumps({"kind": "strain", "value": 3, "step_id": said["step_id"]}),
        content_type="application/json",
        headers={"X-Ticket": ticket.signed()},
    )
    assert "call the clinic" in entry.json()["rests"]


def test_in_laryngitis_no_home_session_comes_on_top_of_the_days(clinic, clinician):
    person = enrol(clinic, clinician, conditions=["acute_laryngitis"])
    version = activate_program(person, clinician, schools=(Chosen(school="semi_fatigue"),))
    assert {step.task for step in version.program.steps} <= {"straw_air", "hum", "lip_trill"}
    access = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
    asked = version.program.routines[0].dose.sessions_a_day
    # one that was opened and left without a sound took no minutes
    open_session(access, session_id=uuid.uuid4(), now=NOW)
    for place in range(asked):
        given = {"session_id": uuid.uuid4(), "now": NOW + timedelta(minutes=place)}
        session, _ticket = open_session(access, **given)
        HomeSession.objects.filter(pk=session.pk).update(outcome="short")
    with pytest.raises(UsecaseRefused, match="enough for today"):
        open_session(access, session_id=uuid.uuid4(), now=NOW + timedelta(minutes=9))
    assert HomeSession.objects.count() == asked + 1
    healthy = enrol(clinic, clinician, name="Bo Lark")
    activate_program(healthy, clinician)
    free = make_link(healthy, by=clinician, now=NOW, pin=PIN)[0]
    for place in range(4):
        assert open_session(free, session_id=uuid.uuid4(), now=NOW + timedelta(minutes=place))


def test_minutes_typed_in_the_screening_bound_every_proposal(clinic, clinician):
    person = enrol(clinic, clinician, minutes_a_session=4.0, minutes_a_week=20.0)
    program = proposed_for(person, clinician).program
    assert load_of(program).routines[0].session_min <= 4
    assert load_of(program).week_min <= 20


@pytest.mark.parametrize(
    ("circumstances", "cls"), [(["low_vision"], "large"), (["shaky_hands"], "roomy"), ([], "")]
)
def test_the_clients_pages_change_with_what_they_live_with(
    person, clinician, version, access, client, circumstances, cls
):
    living = Living(circumstances=frozenset(Circumstance(one) for one in circumstances))
    screen(person, clinician, living=living, trouble_began_on=ago(60))
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    today = client.get(reverse("practice:today", args=[access.pk])).content.decode()
    assert f'class="client {cls}"' in today


def test_a_line_that_asks_to_drink_falls_silent_where_swallowing_is_unsafe(
    person, clinician, version, access, client
):
    living = Living(circumstances=frozenset({Circumstance.DRYING_MEDICATION, Circumstance.REFLUX}))
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})

    def today():
        return client.get(reverse("practice:today", args=[access.pk])).content.decode()

    screen(person, clinician, living=living, trouble_began_on=ago(60))
    assert "small sips" in today()
    assert "two hours between a meal" in today()
    screen(
        person,
        clinician,
        living=living,
        trouble_began_on=ago(60),
        conditions=["unsafe_swallowing"],
    )
    assert "small sips" not in today()
    assert "two hours between a meal" in today()


@pytest.mark.parametrize(
    ("when", "expected"),
    [
        ({"elapsed_ms": 60_000}, ("server", 60)),
        ({"elapsed_ms": 9 * 10**9}, ("estimated", 120)),
        ({"elapsed_ms": None, "device_time": "0001-01-01T00:00:00+00:00"}, ("estimated", 0)),
        ({"elapsed_ms": None, "device_time": "1970-01-01T00:00:00Z"}, ("estimated", 0)),
        ({"elapsed_ms": None, "device_time": "9999-12-31T23:59:59Z"}, ("estimated", 120)),
        ({"elapsed_ms": None, "device_time": "yesterday"}, ("estimated", 120)),
        ({"elapsed_ms": None, "device_time": 7}, ("estimated", 120)),
    ],
)
def test_an_attempt_lies_between_its_home_session_and_now(
    person, version, home, client, signed_in, monkeypatch, when, expected
):
    session, ticket = home
    monkeypatch.setattr("web.clinic.clock.now", lambda: NOW + timedelta(seconds=120))
    attempt_id, answer = put_json(client, ticket, offer(version, seconds=5.0) | when)
    assert answer.status_code == 201
    row = Attempt.objects.get(pk=attempt_id)
    clock, after_s = expected
    assert (row.clock, row.started_at) == (clock, session.started_at + timedelta(seconds=after_s))
    assert signed_in.get(reverse("review:client", args=[person.pk])).status_code == 200
    shown = signed_in.get(reverse("review:attempt", args=[person.pk, row.pk]))
    assert shown.status_code == 200
