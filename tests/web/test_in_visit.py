"""The visit: what is due, tried and taught; nothing chosen beforehand, nothing typed lost."""

import json
import re

import pytest

from lab.simulate.voice import Voice, sing
from tests.conftest import NOW, activate_program, baseline_of
from tests.factories.in_visit import taught, visit
from tests.factories.pages import propose, url
from tests.factories.uploads import put_sound
from web.clients.models import Visit
from web.clinic.models import Membership
from web.measuring.models import Measurement
from web.measuring.tickets import Ticket
from web.programs.models import Draft
from web.review.models import Taught

pytestmark = pytest.mark.django_db


@pytest.fixture
def version(person, clinician):
    return activate_program(person, clinician)


def test_a_visit_with_nothing_recorded_yet_says_what_to_do(signed_in, person):
    page = visit(signed_in, person)
    assert "No baseline yet" in page
    assert "Open the Bench to propose one." in page


def test_what_was_taught_is_kept_with_its_cue_and_how_it_fades(signed_in, person, version):
    power = version.program.main_step
    assert taught(signed_in, person, power).status_code == 302
    row = Taught.objects.get()
    assert (row.name, row.cue_level, row.response, row.shown_back) == (
        "Power notes",
        "shown",
        "partly",
        "yes",
    )
    page = visit(signed_in, person)
    assert "Cue that worked: “let the jaw hang”" in page
    assert "Fading: every second time from next week." in page


def test_the_cue_goes_home_by_the_draft_and_can_be_undone_there(signed_in, person, version):
    power = version.program.main_step
    taught(signed_in, person, power, at_home="on")
    draft = Draft.objects.get()
    assert draft.program.step(power.step_id).presented.cue == "let the jaw hang"
    assert len(draft.past) == 1
    # nothing at home changes before it is activated
    assert version.program.step(power.step_id).presented.cue == ""


@pytest.mark.parametrize(
    "odd",
    [
        {"step": "nobody"},
        {"cue": "x" * 121},
        {"cue": "a\x00b"},
        {"fade": "x" * 201},
        {"cue_level": "magic"},
        {"response": ""},
        {"shown_back": "maybe"},
    ],
)
def test_an_odd_answer_is_refused_in_words_and_nothing_is_kept(signed_in, person, version, odd):
    answer = taught(signed_in, person, version.program.main_step, at_home="on", **odd)
    assert answer.status_code == 422
    assert 'role="alert"' in answer.content.decode()
    assert not Taught.objects.exists()
    assert not Draft.objects.get().past


def test_nothing_is_chosen_before_the_clinician_chooses(signed_in, person, version):
    page = visit(signed_in, person)
    for name in ("task", "step", "cue_level", "response", "shown_back", "goal_held", "corrects"):
        field = page[page.index(f'name="{name}"') :]
        field = field[: field.index("</select>")]
        assert "selected" not in field, name
        assert re.search(r"<option value=\"\"", field), name
    assert (
        signed_in.post(url("review:visit_tried", person.pk), {"went": "better"}).status_code == 422
    )
    for name in ("step", "cue_level", "response", "shown_back"):
        assert taught(signed_in, person, version.program.main_step, **{name: ""}).status_code == 422
    assert not Taught.objects.exists()


def test_what_was_typed_stays_when_it_is_refused(signed_in, person, version):
    power = version.program.main_step
    page = taught(signed_in, person, power, response="").content.decode()
    assert 'value="let the jaw hang"' in page
    assert 'value="every second time from next week"' in page
    assert f'<option value="{power.step_id}" selected>' in page
    sent = {"day": "2026-06-15", "next_on": "2026-06-10", "goal_held": "yes"}
    answer = signed_in.post(url("review:record_visit", person.pk), sent)
    assert answer.status_code == 422
    assert 'name="next_on" value="2026-06-10"' in answer.content.decode()
    assert not Visit.objects.exists()


def test_the_visit_is_recorded_without_leaving_its_page(signed_in, person, version):
    sent = {"day": "2026-06-15", "next_on": "2026-06-28", "goal_held": "yes", "corrects": "no"}
    answer = signed_in.post(url("review:record_visit", person.pk), sent)
    assert answer.status_code == 302
    assert answer["Location"] == url("review:in_visit", person.pk)
    row = Visit.objects.get()
    assert (row.goal_held, row.corrects, str(row.next_on)) == (True, False, "2026-06-28")
    assert "Goal held in the visit. Does not self-correct yet. Next visit 28 June." in visit(
        signed_in, person
    )


def test_what_is_due_stands_first(signed_in, person, clinician):
    baseline_of(person, clinician)
    propose(signed_in, person, school=["semi_reset"])
    page = visit(signed_in, person)
    assert "Ask for the working hours" in page
    assert "Ask for at least 10." in page


def ticket_for(person, clinician) -> Ticket:
    return Ticket(
        purpose="tried",
        clinic=str(person.clinic_id),
        client=str(person.pk),
        holder=str(clinician.pk),
        sitting=str(person.pk),
        issued_at=NOW.isoformat(),
    )


def test_a_task_is_listened_to_while_it_is_tried_and_nothing_of_it_is_kept(
    client, person, version, clinician
):
    sung = sing(Voice(f0_hz=196.0, seconds=3.0, seed=3))
    body, ticket = sung.as_wav(), ticket_for(person, clinician)
    before = Measurement.objects.count()
    _id, answer = put_sound(client, ticket, {"step_id": "hum"}, body)
    assert answer.status_code == 201, answer.content
    assert Measurement.objects.count() == before
    # what must not be done is not listened to, nor what is not measured, nor by somebody else
    for odd in ("balloon", "shoulder_circle", "no_such_task"):
        _id, answer = put_sound(client, ticket, {"step_id": odd}, body)
        assert answer.status_code == 403, odd
    Membership.objects.filter(user=clinician).update(active=False)
    _id, answer = put_sound(client, ticket, {"step_id": "hum"}, body)
    assert answer.status_code == 403


def test_what_can_be_listened_to_is_what_this_client_may_do(signed_in, person, version):
    page = visit(signed_in, person)
    told = json.loads(re.search(r'<script id="trying-data"[^>]*>(.*?)</script>', page)[1])
    assert told["tasks"]["hum"]["kind"] == "hold"
    assert told["tasks"]["sustained_stretch"]["kind"] == "glide"
    assert not {"balloon", "breath_hold", "shoulder_circle"} & set(told["tasks"])
