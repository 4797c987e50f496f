"""The versions of a program: read, compared, and an older one laid on the Bench."""

import json
from datetime import timedelta

import pytest
from django.urls import reverse

from core.editing.step_targets import with_repetitions, with_rest
from tests.conftest import NOW, enrol
from web.programs.models import Draft, ProgramVersion
from web.programs.usecases import drafts, versions

pytestmark = pytest.mark.django_db


@pytest.fixture
def three(person, clinician, version):
    """The program of the case, then a step seven times, then a longer rest, with a reason."""
    step = version.program.steps[0].step_id
    for number, change in enumerate(
        (lambda p: with_repetitions(p, step, 7), lambda p: with_rest(p, step, 41.0)), 1
    ):
        draft = Draft.objects.get(client=person)
        draft = drafts.edit_draft(
            person, revision=draft.revision, change=change, by=clinician, now=NOW
        )
        versions.activate(
            person,
            revision=draft.revision,
            written_reason="Seen in the visit." if number == 2 else "",
            by=clinician,
            now=NOW,
            active_from=NOW.date() - timedelta(days=6 - number),
        )
    return step


def page(client, person, **asked):
    answer = client.get(reverse("programs:versions", args=[person.pk]), asked)
    assert answer.status_code == 200
    return answer.content.decode()


def test_each_with_who_when_and_why_and_the_last_two_compared(signed_in, person, three, clinician):
    shown = page(signed_in, person)
    assert "From version 2 to version 3" in shown
    assert shown.count(clinician.name) >= 3
    assert "Seen in the visit." in shown
    assert "41 s" in shown
    assert ">7<" not in shown


def test_any_two_in_either_order(signed_in, person, three):
    for asked in ({"before": "1", "after": "3"}, {"before": "3", "after": "1"}):
        shown = page(signed_in, person, **asked)
        assert "From version 1 to version 3" in shown
        assert "<td>7</td>" in shown
        assert "41 s" in shown


@pytest.mark.parametrize("asked", [{"before": "9", "after": "1"}, {"before": "x"}, {"after": "2"}])
def test_what_is_not_there_shows_the_last_two(signed_in, person, three, asked):
    assert "From version 2 to version 3" in page(signed_in, person, **asked)


def test_one_version_is_compared_with_nothing(signed_in, person, version):
    shown = page(signed_in, person)
    assert "From version" not in shown
    assert "in force" in shown


def test_without_a_program_it_says_where_the_first_is_made(signed_in, person):
    assert "activated on the Bench" in page(signed_in, person)


def restore(client, person, version):
    return client.post(reverse("programs:restore", args=[person.pk, version.pk]))


def test_an_older_one_becomes_the_draft_and_nothing_is_active_by_that(signed_in, person, three):
    first = ProgramVersion.objects.get(client=person, number=1)
    answer = restore(signed_in, person, first)
    assert answer.url == reverse("programs:bench", args=[person.pk])
    draft = Draft.objects.get(client=person)
    assert draft.program.steps[0].repetitions == first.program.steps[0].repetitions != 7
    assert ProgramVersion.objects.filter(client=person).count() == 3
    # what lay there can be had back
    drafts.undo_edit(person, revision=draft.revision, by=draft.changed_by, now=NOW)
    assert Draft.objects.get(client=person).program.steps[0].repetitions == 7


def test_todays_gate_stands_before_a_restored_one(signed_in, person, clinician, three):
    from web.clients.usecases.enrol import record_screening

    restore(signed_in, person, ProgramVersion.objects.get(client=person, number=1))
    record_screening(person, by=clinician, now=NOW, asked_on=NOW.date(), red_flags=["blood"])
    draft = Draft.objects.get(client=person)
    answer = signed_in.post(
        reverse("programs:activate", args=[person.pk]),
        {"revision": draft.revision, "written_reason": "It was good before."},
    )
    assert answer.status_code == 422
    assert ProgramVersion.objects.filter(client=person).count() == 3


def test_another_clients_version_is_not_there(signed_in, clinic, clinician, person, three):
    second = enrol(clinic, clinician, name="Osric Fendt")
    version = ProgramVersion.objects.get(client=person, number=1)
    assert restore(signed_in, second, version).status_code == 404
    assert not Draft.objects.filter(client=second).exists()


def test_a_version_that_cannot_be_read_is_said_and_the_list_stays(signed_in, person, three):
    from tests.web.test_unreadable import spoil

    row = ProgramVersion.objects.get(client=person, number=2)
    spoil("programs_programversion", "content", json.dumps({"format": 99}), row)
    shown = page(signed_in, person)
    assert str(row.pk) in shown
    assert "Put on the Bench" in shown
    assert "From version 1 to version 3" in page(signed_in, person, before="1", after="3")
    signed_in.raise_request_exception = False
    assert restore(signed_in, person, row).status_code == 409
