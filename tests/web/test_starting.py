"""Where a program begins: schools side by side, another client's program, a template of the clinic."""

import pytest

from core.program.program import Chosen
from tests.conftest import activate_program, baseline_of, enrol, member
from tests.factories.pages import propose, url
from web.clinic.models import AccessEvent
from web.library.models import HiddenTask
from web.programs.models import Draft, ProgramTemplate

pytestmark = pytest.mark.django_db


@pytest.fixture
def other(clinic, clinician):
    """Another client, with an active program of three schools."""
    found = enrol(clinic, clinician, name="Alwin Prewett")
    schools = (Chosen(school="sustained"), Chosen(school="breath_hiss"), Chosen(school="release"))
    activate_program(found, clinician, schools=schools)
    return found


@pytest.fixture
def measured(person, clinician):
    baseline_of(person, clinician)
    return person


def test_ticked_schools_stand_side_by_side_and_nothing_is_proposed(signed_in, measured):
    page = signed_in.get(
        url("programs:compare", measured.pk), {"school": ["sustained", "breath_hiss"]}
    ).content.decode()
    assert "Sustained-note ladder" in page
    assert "Hiss ladder" in page
    assert "7.2 min" in page  # 431 s, by hand
    assert not Draft.objects.exists()
    by = signed_in.get(url("programs:compare", measured.pk), {"school": "sustained", "by": "goal"})
    assert "17.5 s" in by.content.decode()
    for odd in ({}, {"school": "nap"}, {"school": "sustained", "by": "colour"}):
        assert signed_in.get(url("programs:compare", measured.pk), odd).status_code == 302


def test_without_a_baseline_every_beginning_leads_there(signed_in, person, other):
    baseline = url("clients:baseline", person.pk)
    assert (
        signed_in.get(url("programs:compare", person.pk), {"school": "sustained"}).url == baseline
    )
    answer = signed_in.post(url("programs:from_client", person.pk), {"other": other.pk})
    assert answer.url == baseline
    assert not Draft.objects.filter(client=person).exists()


def test_another_client_s_program_is_fitted_anew_and_the_reading_is_noted(
    signed_in, measured, other, clinician
):
    page = signed_in.get(url("programs:bench", measured.pk)).content.decode()
    assert "Alwin Prewett" in page
    answer = signed_in.post(url("programs:from_client", measured.pk), {"other": other.pk})
    assert answer.status_code == 302
    draft = Draft.objects.get(client=measured)
    theirs = Draft.objects.get(client=other)
    assert [s.task for s in draft.program.steps] == [s.task for s in theirs.program.steps]
    assert draft.began_as == draft.program
    noted = AccessEvent.objects.filter(subject_id=other.pk, user=clinician)
    assert noted.filter(what="took the program for another client").count() == 1


def test_only_a_program_of_one_s_own_clients_is_taken(signed_in, clinic, other_clinic, measured):
    colleague = member(clinic, "ewan@quay.example")
    hers = enrol(clinic, colleague, name="Hers Only")
    activate_program(hers, colleague)
    stranger = member(other_clinic, "far@shore.example")
    far = enrol(other_clinic, stranger, name="Far Away")
    activate_program(far, stranger)
    page = signed_in.get(url("programs:bench", measured.pk)).content.decode()
    assert "Hers Only" not in page
    address = url("programs:from_client", measured.pk)
    for odd in (hers.pk, far.pk, measured.pk, "", "nobody", "0" * 32):
        answer = signed_in.post(address, {"other": odd}, follow=True)
        assert "choose one of the list" in answer.content.decode()
    assert not Draft.objects.filter(client=measured).exists()


def test_a_draft_becomes_a_template_and_the_template_another_draft(signed_in, measured, other):
    saved = signed_in.post(
        url("programs:save_template", other.pk), {"name": "  Hoarse,  first weeks "}
    )
    assert saved.status_code == 302
    row = ProgramTemplate.objects.get()
    assert row.name == "Hoarse, first weeks"
    assert "Prewett" not in str(row.content)
    page = signed_in.get(url("programs:bench", measured.pk)).content.decode()
    assert "Hoarse, first weeks" in page
    signed_in.post(url("programs:from_template", measured.pk), {"template": row.pk})
    draft = Draft.objects.get(client=measured)
    assert [s.task for s in draft.program.steps] == [
        s.task for s in Draft.objects.get(client=other).program.steps
    ]
    for odd in ("", " ", "x" * 61, "a\x00b"):
        signed_in.post(url("programs:save_template", other.pk), {"name": odd})
    again = signed_in.post(
        url("programs:save_template", other.pk), {"name": "Hoarse, first weeks"}, follow=True
    )
    assert "There is a template" in again.content.decode()
    assert ProgramTemplate.objects.count() == 1
    signed_in.post(url("programs:drop_template", measured.pk), {"template": row.pk})
    before = Draft.objects.get(client=measured).revision
    signed_in.post(url("programs:from_template", measured.pk), {"template": row.pk})
    assert Draft.objects.get(client=measured).revision == before
    # its name is free again
    signed_in.post(url("programs:save_template", other.pk), {"name": "Hoarse, first weeks"})
    assert ProgramTemplate.objects.filter(taken_away_at=None).count() == 1


def test_a_template_whose_task_was_hidden_is_fitted_without_it(
    signed_in, clinic, clinician, measured, other, now
):
    signed_in.post(url("programs:save_template", other.pk), {"name": "With glides"})
    row = ProgramTemplate.objects.get()
    for key in ("sustained_stretch", "shoulder_circle"):
        HiddenTask.objects.create(clinic=clinic, key=key, changed_at=now, changed_by=clinician)
    signed_in.post(url("programs:from_template", measured.pk), {"template": row.pk})
    program = Draft.objects.get(client=measured).program
    assert not {"sustained_stretch", "shoulder_circle"} & {step.task for step in program.steps}
    assert program.left_out or any(
        step.because and "in place of" in str(step.because) for step in program.steps
    )


def test_a_template_of_another_clinic_is_not_there(signed_in, other_clinic, measured, now):
    stranger = member(other_clinic, "far@shore.example")
    far = enrol(other_clinic, stranger, name="Far Away")
    version = activate_program(far, stranger)
    from web.programs.usecases.templates import save_template

    row = save_template(far, version.program, name="Theirs", by=stranger, now=now)
    page = signed_in.get(url("programs:bench", measured.pk)).content.decode()
    assert "Theirs" not in page
    for name in ("from_template", "drop_template"):
        answer = signed_in.post(
            url(f"programs:{name}", measured.pk), {"template": row.pk}, follow=True
        )
        assert "choose one of the list" in answer.content.decode()
    assert not Draft.objects.filter(client=measured).exists()
    assert ProgramTemplate.objects.get().taken_away_at is None


def test_a_template_that_cannot_be_read_is_said_and_changes_nothing(signed_in, measured, other):
    signed_in.post(url("programs:save_template", other.pk), {"name": "Broken"})
    ProgramTemplate.objects.update(content={"format": 7})
    row = ProgramTemplate.objects.get()
    answer = signed_in.post(url("programs:from_template", measured.pk), {"template": row.pk})
    assert answer.status_code == 409
    assert not Draft.objects.filter(client=measured).exists()
    assert signed_in.get(url("programs:bench", measured.pk)).status_code == 200


def test_what_is_to_be_dealt_with_stays_until_it_is(signed_in, measured):
    import json

    propose(signed_in, measured, school=["semi_reset"])
    draft = Draft.objects.get(client=measured)
    assert draft.program.asked
    page = signed_in.get(url("programs:bench", measured.pk)).content.decode()
    assert "To ask or measure" in page
    for revision in range(1, len(draft.program.asked) + 1):
        body = {"revision": revision, "edit": "dealt", "part": "asked", "value": 0}
        answer = signed_in.post(
            url("programs:edit", measured.pk), json.dumps(body), content_type="application/json"
        )
        assert answer.status_code == 200
    assert "To ask or measure" not in answer.json()["html"]
    body = {"revision": 1 + revision, "edit": "dealt", "part": "routines", "value": 0}
    odd = signed_in.post(
        url("programs:edit", measured.pk), json.dumps(body), content_type="application/json"
    )
    assert odd.status_code == 422
