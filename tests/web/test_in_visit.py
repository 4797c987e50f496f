"""The visit: what is due, tried, taught and shown back; the note from the record, signed, then only added to."""

import json
import re

import pytest

from core.simulate.voice import Voice, sing
from tests.conftest import NOW, activate_program, baseline_of, member
from tests.web.test_pages import propose, url
from tests.web.test_practice import session_on
from tests.web.test_uploads import put_sound
from web.clinic.models import Membership
from web.measuring.models import Measurement
from web.measuring.tickets import Ticket
from web.programs.models import Draft
from web.review.models import Addendum, OpenNote, SignedNote, Taught

pytestmark = pytest.mark.django_db


@pytest.fixture
def version(person, clinician):
    return activate_program(person, clinician)


def visit(signed_in, person) -> str:
    answer = signed_in.get(url("review:in_visit", person.pk))
    assert answer.status_code == 200
    return answer.content.decode()


def note_in(page: str) -> str:
    begin = page.index(">", page.index('<textarea name="text"')) + 1
    return page[begin : page.index("</textarea>", begin)].strip()


def taught(signed_in, person, taught_step, **changes):
    sent = {
        "step": taught_step.step_id,
        "cue": "let the jaw hang",
        "cue_level": "shown",
        "response": "partly",
        "shown_back": "yes",
        "fade": "every second time from next week",
    } | changes
    return signed_in.post(url("review:teach", person.pk), sent)


def written(signed_in, person, text, *, revision, act="keep"):
    sent = {"text": text, "revision": revision, "act": act}
    return signed_in.post(url("review:note", person.pk), sent)


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
    assert "It fades: every second time from next week." in page


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


def test_the_note_is_written_from_what_was_recorded(signed_in, person, version):
    for day in (11, 12, 13):
        session_on(person, version, day, strain=2)
    signed_in.post(url("review:visit_tried", person.pk), {"task": "siren", "went": "better"})
    taught(signed_in, person, version.program.main_step)
    note = note_in(visit(signed_in, person))
    assert "home sessions kept" in note
    assert "Tried Siren: better." in note
    assert "Taught Power notes: partly, after it was shown; shown back: did it." in note


def test_a_note_is_edited_signed_and_then_only_added_to(signed_in, person, version):
    assert written(signed_in, person, "Half of it", revision=0).status_code == 302
    assert note_in(visit(signed_in, person)) == "Half of it"
    assert not SignedNote.objects.exists()
    answer = written(signed_in, person, "All of it.\r\nAnd more.", revision=1, act="sign")
    assert answer.status_code == 302
    signed = SignedNote.objects.get()
    assert signed.text == "All of it.\nAnd more."
    assert OpenNote.objects.get().text == ""
    address = url("review:addendum", person.pk, signed.pk)
    assert signed_in.post(address, {"text": "She called: it holds."}).status_code == 302
    for odd in ("", "x" * 2001, "a\x00b"):
        assert signed_in.post(address, {"text": odd}).status_code == 422
    assert Addendum.objects.get().text == "She called: it holds."
    page = visit(signed_in, person)
    assert "She called: it holds." in page
    assert "signed by" in page


def test_two_who_write_lose_nothing(signed_in, person, version, clinic, client):
    colleague = member(clinic, "ewan@quay.example")
    written(signed_in, person, "Mine", revision=0)
    client.force_login(colleague)
    assert written(client, person, "Hers", revision=1).status_code == 302
    late = written(client, person, "Mine, longer", revision=1)
    assert late.status_code == 409
    page = late.content.decode()
    assert note_in(page) == "Mine, longer\n\nHers"
    assert "wrote meanwhile" in page
    assert OpenNote.objects.get().text == "Hers"
    assert written(client, person, "Both", revision=2, act="sign").status_code == 302


@pytest.mark.parametrize("revision", ["", "x", "9", "-1", "1e3"])
def test_an_odd_revision_or_an_empty_or_endless_note_changes_nothing(
    signed_in, person, version, revision
):
    assert written(signed_in, person, "x", revision=revision).status_code == 422
    assert written(signed_in, person, "  ", revision=0, act="sign").status_code == 422
    assert written(signed_in, person, "x" * 8001, revision=0).status_code == 422
    assert not OpenNote.objects.filter(client=person).exists()


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
