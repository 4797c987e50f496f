"""The FHIR bundle: what it says, read by a second library, and what the published types leave open."""

import copy
import json
from datetime import timedelta

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse
from fhirclient.models.bundle import Bundle

from core.formats.fhir_bundle import UCUM, BundleBroken, checked
from core.formats.music.midi_file import from_midi
from core.sheets.rows import SheetColumn, rows_of
from core.sheets.sitting import cell_name
from tests.conftest import NOW, red_flag
from web.programs.models import Draft


@pytest.fixture
def practiced(signed_in, person, version):
    """A home session from paper: two tries a note, strain 2."""
    column = SheetColumn(day=NOW.date() - timedelta(days=2), routine="ladder", turn=1, asked=True)
    typed = {
        cell_name(row, column): "7 6.5" if row.note else "2"
        for row in rows_of(version.program.routine("ladder"))
    }
    signed_in.post(
        reverse("papers:sheet_log", args=[person.pk]), typed | {f"strain|{column.key}": "2"}
    )
    return person


@pytest.fixture
def bundle(signed_in, practiced):
    answer = signed_in.get(reverse("papers:hospital", args=[practiced.pk]))
    assert answer["Content-Type"] == "application/fhir+json"
    return json.loads(answer.content)


def of_kind(bundle, kind):
    return [e["resource"] for e in bundle["entry"] if e["resource"]["resourceType"] == kind]


def test_a_second_library_reads_it(bundle):
    read = Bundle(bundle)
    plans = [e.resource for e in read.entry if e.resource.resource_type == "CarePlan"]
    assert [p.status for p in plans] == ["active"]
    repeat = plans[0].activity[3].detail.scheduledTiming.repeat
    assert (repeat.frequency, repeat.period, repeat.periodUnit) == (2, 1, "d")
    seen = [e.resource for e in read.entry if e.resource.resource_type == "Observation"]
    assert {one.status for one in seen} == {"final"}


def test_the_worked_case_stands_in_it(bundle):
    """Phonation 9.4 s, s/z 17.6 / 11.0 = 1.6."""
    values = {
        one["code"]["coding"][0]["code"]: one["valueQuantity"]
        for one in of_kind(bundle, "Observation")
        if "valueQuantity" in one
    }
    assert values["phonation"] == {"value": 9.4, "unit": "s", "system": UCUM, "code": "s"}
    assert values["sz_ratio"]["value"] == pytest.approx(1.6)
    assert values["sz_ratio"]["code"] == "1"


def test_a_home_session_says_how_it_was_taken_and_what_is_not_known(bundle):
    (notes,) = [
        one
        for one in of_kind(bundle, "Observation")
        if one["code"]["text"] == "Power notes" and "component" in one
    ]
    assert notes["method"]["text"] == "from paper"
    parts = {
        (c["code"]["coding"][0]["code"], c["code"].get("text", "")): c for c in notes["component"]
    }
    held = parts[("best_s", "Longest hold, C4")]
    assert held["valueQuantity"]["value"] == 7.0
    unheard = [c for key, c in parts.items() if key[0] == "pitch_sd"]
    assert unheard
    assert all("dataAbsentReason" in c for c in unheard)
    assert parts[("strain_after", "")]["valueQuantity"]["value"] == 2.0


def test_every_code_it_uses_is_told(bundle):
    (system,) = of_kind(bundle, "CodeSystem")
    told = {concept["code"] for concept in system["concept"]}
    used = {
        coding["code"]
        for one in of_kind(bundle, "Observation")
        for code in (one["code"], *(c["code"] for c in one.get("component", ())))
        for coding in code["coding"]
    }
    assert used == told


def broken(bundle, change):
    other = copy.deepcopy(bundle)
    change({e["resource"]["resourceType"]: e["resource"] for e in other["entry"]})
    return other


@pytest.mark.parametrize(
    "change",
    [
        lambda by: by["Observation"].update(status="nonsense"),
        lambda by: by["CarePlan"].update(status="running"),
        lambda by: by["CarePlan"]["activity"][0]["detail"].update(status="busy"),
        lambda by: by["Observation"].update(subject={"reference": "urn:uuid:nobody"}),
        lambda by: by["Observation"].update(
            code={"coding": [{"system": by["CodeSystem"]["url"], "code": "x"}]}
        ),
        lambda by: by["Observation"].update(
            valueQuantity={"value": 1, "system": UCUM, "code": "furlong"}
        ),
        lambda by: by["Observation"].pop("code"),
        lambda by: by["CodeSystem"].update(status="old"),
    ],
)
def test_what_the_types_leave_open_is_checked(bundle, change):
    checked(bundle)
    with pytest.raises(BundleBroken):
        checked(broken(bundle, change))


def test_a_program_that_rests_is_on_hold(signed_in, practiced, clinician):
    red_flag(practiced, clinician)
    answer = signed_in.get(reverse("papers:hospital", args=[practiced.pk]))
    assert [p["status"] for p in of_kind(json.loads(answer.content), "CarePlan")] == ["on-hold"]


def test_a_client_without_a_program_has_a_bundle_too(signed_in, person):
    answer = signed_in.get(reverse("papers:hospital", args=[person.pk]))
    assert answer.status_code == 200
    assert not of_kind(json.loads(answer.content), "CarePlan")


def notes_step(version):
    return version.program.routine("ladder").steps[3]


def test_held_notes_as_midi_and_back_into_the_draft(signed_in, person, version):
    step = notes_step(version)
    data = signed_in.get(reverse("papers:midi", args=[person.pk, step.step_id])).content
    line = from_midi(data)
    assert [t.note.name for t in line.tones if t.note] == ["B♭3", "C4", "D4", "E♭4", "F4"]
    address = reverse("papers:take_music", args=[person.pk, step.step_id])
    sent = SimpleUploadedFile(
        "notes.mid",
        data.replace(b"\x90\x3a\x40", b"\x90\x39\x40").replace(b"\x80\x3a", b"\x80\x39"),
    )
    answer = signed_in.post(address, {"file": sent})
    assert answer["Location"] == reverse("programs:bench", args=[person.pk])
    draft = Draft.objects.get(client=person).program
    assert [h.note.name for h in draft.step(step.step_id).holds] == ["A3", "C4", "D4", "E♭4", "F4"]
    assert {h.seconds for h in draft.step(step.step_id).holds} == {6.5}


@pytest.mark.parametrize("data", [b"", b"MThd broken", b"<score-partwise/>", b"PK\x03\x04"])
def test_a_file_that_is_no_music_is_refused_and_nothing_changes(signed_in, person, version, data):
    before = Draft.objects.filter(client=person).first()
    step = notes_step(version)
    address = reverse("papers:take_music", args=[person.pk, step.step_id])
    page = signed_in.post(address, {"file": SimpleUploadedFile("x.mid", data)}, follow=True)
    assert "Not taken in:" in page.content.decode()
    after = Draft.objects.filter(client=person).first()
    assert (before and before.revision) == (after and after.revision)


def test_a_glide_is_no_music(signed_in, person, version):
    glide = version.program.routine("ladder").steps[1]
    assert signed_in.get(reverse("papers:midi", args=[person.pk, glide.step_id])).status_code == 404
