"""The visit note: drafted from the record, saved while it is typed, signed only when complete, then only amended."""

import re
from datetime import timedelta
from html import unescape
from zoneinfo import ZoneInfo

import pytest

from tests.conftest import activate_program, member
from tests.factories.in_visit import taught, visit
from tests.factories.pages import url
from tests.factories.practice import session_on
from web.programs.models import TriedTask
from web.review.models import Addendum, OpenNote, SignedNote

pytestmark = pytest.mark.django_db
JSON = {"Accept": "application/json"}


@pytest.fixture
def version(person, clinician):
    return activate_program(person, clinician)


def note_in(page: str) -> str:
    begin = page.index(">", page.index('<textarea name="text"')) + 1
    return unescape(page[begin : page.index("</textarea>", begin)].strip())


def settled_in(page: str) -> list[str]:
    return re.findall(r'name="settled" value="([^"]+)"', page)


def offered_in(page: str) -> list[str]:
    return [unescape(one) for one in re.findall(r"data-entry=\"[^\"]+\"><span>(.*?)</span>", page)]


def revision_in(page: str) -> str:
    return re.search(r'name="revision" value="(\d+)"', page)[1]


def tried(signed_in, person, task="siren", went="better"):
    answer = signed_in.post(url("review:visit_tried", person.pk), {"task": task, "went": went})
    assert answer.status_code == 302


def written(signed_in, person, text, *, revision, act="keep", settled=(), headers=None, **more):
    sent = {"text": text, "revision": revision, "act": act, "settled": list(settled), **more}
    return signed_in.post(url("review:note", person.pk), sent, headers=headers)


def begun(signed_in, person, text=None) -> str:
    """Save the draft on the page, or another text in its place; return the page as it is then."""
    page = visit(signed_in, person)
    answer = written(
        signed_in,
        person,
        text or note_in(page),
        revision=revision_in(page),
        settled=settled_in(page),
    )
    assert answer.status_code == 302
    return visit(signed_in, person)


def test_the_note_is_written_from_what_was_recorded(signed_in, person, version):
    for day in (11, 12, 13):
        session_on(person, version, day, strain=2)
    tried(signed_in, person)
    taught(signed_in, person, version.program.main_step)
    page = visit(signed_in, person)
    note = note_in(page)
    assert "home sessions done" in note
    assert "Tried Siren: better." in note
    assert "Taught Power notes: partly, after it was shown; teach-back: did it." in note
    assert offered_in(page) == []


def test_a_note_is_edited_signed_and_then_only_added_to(signed_in, person, version):
    page = begun(signed_in, person, "Half of it")
    assert note_in(page) == "Half of it"
    assert "Saved" in page
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
    assert 'value="half' in signed_in.post(address, {"text": "half\x07"}).content.decode()
    assert Addendum.objects.get().text == "She called: it holds."
    page = visit(signed_in, person)
    assert "She called: it holds." in page
    assert "signed by" in page


def test_what_is_recorded_after_the_note_was_begun_is_offered_and_taken_in_with_one_press(
    signed_in, person, version
):
    page = begun(signed_in, person, "She feels well.")
    assert offered_in(page) == []
    tried(signed_in, person, went="worse")
    page = visit(signed_in, person)
    assert note_in(page) == "She feels well."
    assert offered_in(page) == ["Tried Siren: worse."]
    key = f"tried:{TriedTask.objects.get().pk}"
    answer = written(
        signed_in, person, note_in(page), revision=1, settled=settled_in(page), add=key
    )
    assert answer.status_code == 302
    page = visit(signed_in, person)
    assert note_in(page) == "She feels well.\nTried Siren: worse."
    assert offered_in(page) == []


def test_a_note_is_not_signed_while_something_recorded_is_missing(signed_in, person, version):
    begun(signed_in, person, "She feels well.")
    tried(signed_in, person, went="worse")
    page = visit(signed_in, person)
    sign = {"revision": 1, "settled": settled_in(page), "act": "sign"}
    refused = written(signed_in, person, "She feels well. Bye.", **sign)
    assert refused.status_code == 422
    shown = refused.content.decode()
    assert "something recorded is not in the note" in shown
    assert offered_in(shown) == ["Tried Siren: worse."]
    assert note_in(shown) == "She feels well. Bye."
    assert not SignedNote.objects.exists()
    # typed by hand, word for word, it is in the note
    typed = "She feels well.\nTried Siren: worse. Then hoarse for an hour."
    assert written(signed_in, person, typed, **sign).status_code == 302
    assert SignedNote.objects.get().text == typed


def test_an_entry_left_out_on_purpose_is_not_asked_about_again(signed_in, person, version):
    begun(signed_in, person, "She feels well.")
    tried(signed_in, person)
    page = visit(signed_in, person)
    key = f"tried:{TriedTask.objects.get().pk}"
    written(signed_in, person, note_in(page), revision=1, settled=settled_in(page), leave=key)
    page = visit(signed_in, person)
    assert offered_in(page) == []
    assert "Siren" not in note_in(page)
    answer = written(signed_in, person, note_in(page), revision=2, act="sign")
    assert answer.status_code == 302


def test_keys_that_are_no_entry_settle_nothing(signed_in, person, version):
    begun(signed_in, person, "She feels well.")
    tried(signed_in, person, went="worse")
    odd = ["all", "tried:nobody", "x" * 5000]
    answer = written(signed_in, person, "Well.", revision=1, settled=odd, act="sign")
    assert answer.status_code == 422
    assert not SignedNote.objects.exists()


def test_what_happened_after_signing_belongs_to_the_next_note(signed_in, person, version):
    page = begun(signed_in, person)
    written(signed_in, person, note_in(page), revision=1, act="sign")
    page = visit(signed_in, person)
    assert note_in(page) == ""
    tried(signed_in, person, went="worse")
    page = visit(signed_in, person)
    assert note_in(page) == "Tried Siren: worse."


def test_a_note_written_the_next_day_still_tells_the_visit(signed_in, person, version, settings):
    tried(signed_in, person, went="worse")
    assert note_in(visit(signed_in, person)).endswith("Tried Siren: worse.")
    day = TriedTask.objects.get().at
    for days, told in ((1, True), (7, True), (8, False)):
        settings.TODAY = (day + timedelta(days=days)).date()
        note = note_in(visit(signed_in, person))
        assert (f"{day:%-d %B}: Tried Siren: worse." in note) is told, days


def test_two_who_write_lose_nothing(signed_in, person, version, clinic, client):
    colleague = member(clinic, "ewan@quay.example")
    begun(signed_in, person, "Mine")
    client.force_login(colleague)
    assert written(client, person, "Theirs", revision=1).status_code == 302
    late = written(client, person, "Mine, longer", revision=1)
    assert late.status_code == 409
    page = late.content.decode()
    assert note_in(page) == "Mine, longer\n\nTheirs"
    assert "ewan changed this note at" in page
    assert OpenNote.objects.get().text == "Theirs"
    told = written(signed_in, person, "Mine, longer", revision=1, headers=JSON)
    assert told.status_code == 409
    assert told.json()["error"]["theirs"] == "Theirs"
    assert told.json()["error"]["revision"] == 2
    settled = settled_in(page)
    answer = written(client, person, "Both", revision=2, act="sign", settled=settled)
    assert answer.status_code == 302


def test_the_script_is_told_the_revision_and_the_clinics_time(signed_in, person, version):
    answer = written(signed_in, person, "One", revision=0, headers=JSON)
    assert answer.json()["revision"] == 1
    saved = OpenNote.objects.get().changed_at.astimezone(ZoneInfo("Europe/Dublin"))
    assert answer.json()["saved_at"] == f"{saved.hour}:{saved:%M}"
    again = written(signed_in, person, "One", revision=0, headers=JSON)
    assert again.json()["revision"] == 1
    assert written(signed_in, person, "Two", revision=1, headers=JSON).json()["revision"] == 2
    endless = written(signed_in, person, "x" * 8001, revision=2, headers=JSON)
    assert endless.status_code == 422
    assert "8000 characters" in endless.json()["error"]["message"]
    assert OpenNote.objects.get().text == "Two"


def test_a_signature_pressed_twice_signs_once(signed_in, person, version):
    page = begun(signed_in, person)
    for _ in range(2):
        answer = written(signed_in, person, note_in(page), revision=1, act="sign")
        assert answer.status_code == 302
    assert SignedNote.objects.count() == 1


@pytest.mark.parametrize("revision", ["", "x", "9", "-1", "1e3"])
def test_an_odd_revision_or_an_empty_or_endless_note_changes_nothing(
    signed_in, person, version, revision
):
    assert written(signed_in, person, "x", revision=revision).status_code == 422
    assert written(signed_in, person, "  ", revision=0, act="sign").status_code == 422
    assert written(signed_in, person, "x" * 8001, revision=0).status_code == 422
    assert not OpenNote.objects.filter(client=person).exists()
