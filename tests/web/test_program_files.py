"""Program files: out of the Bench and into it, all or nothing, judged by the client's own range."""

import io
import json
import uuid
from datetime import timedelta

import pytest
from django.urls import reverse

from core.formats.program_file import data_of
from tests.conftest import NOW, baseline_of
from tests.core.fitted import proposed, said
from tests.factories.family_pages import bench
from web.programs.models import Draft, ProgramVersion

pytestmark = pytest.mark.django_db


def take_in(signed_in, person, text):
    file = io.BytesIO(text if isinstance(text, bytes) else text.encode())
    file.name = "program.json"
    return signed_in.post(reverse("programs:take_in", args=[person.pk]), {"program": file})


def test_a_program_goes_out_and_comes_in_the_same(signed_in, person, clinician, version):
    out = signed_in.get(reverse("programs:export", args=[person.pk]))
    assert out["Content-Disposition"].endswith('program.json"')
    assert take_in(signed_in, person, out.content).status_code == 302
    assert Draft.objects.get().program == version.program
    assert Draft.objects.get().revision == 2


def test_a_file_that_does_not_fit_changes_nothing_and_says_every_line(signed_in, person, version):
    before = Draft.objects.get()
    broken = data_of(version.program)
    broken["routines"][0]["steps"][0]["repetitions"] = 40
    broken["routines"][0]["steps"][1]["name"] = 3
    answer = take_in(signed_in, person, json.dumps(broken, indent=1))
    assert answer.status_code == 422
    page = answer.content.decode()
    assert "steps[0].repetitions: 40 is too large" in page
    assert "steps[1].name" in page
    for odd in (b"", b"\xff\xfe\x00", b"{}", b"[1"):
        assert take_in(signed_in, person, odd).status_code == 422
    missing = signed_in.post(reverse("programs:take_in", args=[person.pk]))
    assert missing.status_code == 422
    after = Draft.objects.get()
    assert (after.content, after.revision) == (before.content, before.revision)


def test_a_file_made_for_another_range_is_judged_by_the_client_s_own(signed_in, person, version):
    high = proposed("sustained", known={"lowest": "C4", "highest": "C5"}).program
    assert high.problems() == ()
    assert take_in(signed_in, person, json.dumps(data_of(high))).status_code == 302
    problems = Draft.objects.get().program.problems()
    assert said(problems, "above_comfort").params["highest"] == "G4"
    activate = reverse("programs:activate", args=[person.pk])
    revision = Draft.objects.get().revision
    assert signed_in.post(activate, {"revision": revision}).status_code == 422


def test_a_draft_fitted_before_a_smaller_baseline_is_judged_by_the_new_one(
    signed_in, person, clinician
):
    from web.clients.usecases import baseline as measuring

    baseline_of(person, clinician)
    bench(signed_in, person, school=["sustained"])
    later = NOW + timedelta(days=1)
    row = measuring.open_baseline(person, by=clinician, now=later)
    probe = {"measure": "probe_low", "seconds": 6.0}
    measuring.type_attempt(row, attempt_id=uuid.uuid4(), now=later, **probe)
    measuring.set_baseline(row, {"lowest": "G3", "highest": "D4"})
    measuring.record_baseline(row, now=later)
    activate = reverse("programs:activate", args=[person.pk])
    answer = signed_in.post(activate, {"revision": 1})
    assert answer.status_code == 422
    assert "above the highest comfortable note D4" in answer.content.decode()
    assert not ProgramVersion.objects.exists()


def test_without_a_baseline_no_file_is_taken_in(signed_in, person):
    program = proposed("breath_beats").program
    assert take_in(signed_in, person, json.dumps(data_of(program))).status_code == 302
    assert not Draft.objects.exists()


def test_without_draft_and_version_there_is_nothing_to_export(signed_in, person):
    assert signed_in.get(reverse("programs:export", args=[person.pk])).status_code == 404
