"""Every record of a clinic in one archive and in again; refused whole for a single one that is not."""

import io
import json
import uuid
import zipfile

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse

from tests.conftest import NOW, activate_program, enrol, member, record_of, streamed
from web.clients.models import Client
from web.clients.usecases.enrol import erase_client
from web.clinic.models import User
from web.library.models import OwnMaterial
from web.library.usecases.materials import add_material
from web.records.unpack import ArchiveRefused
from web.records.usecases.import_clinic import import_clinic
from web.records.whole_clinic import clinic_in_pieces, read_clinic

COUNT = 3


@pytest.fixture
def caseload(clinic, clinician):
    people = [enrol(clinic, clinician, name=f"Person {n}") for n in range(COUNT)]
    for person in people:
        activate_program(person, clinician)
    fields = {"sort": "questions", "name": "At work", "level": 1, "lines": ["Who is on deck?"]}
    add_material(clinic, by=clinician, now=NOW, **fields)
    return people


def saved(clinic):
    told = []
    data = b"".join(clinic_in_pieces(clinic, now=NOW, told=lambda *far: told.append(far)))
    return data, told


def taken_in(data, clinic, by):
    with read_clinic(io.BytesIO(data), told=lambda *_far: None) as whole:
        return import_clinic(whole, clinic, by=by, now=NOW)


def test_every_record_out_and_in_again_with_equal_content(
    caseload, clinic, clinician, other_clinic
):
    data, told = saved(clinic)
    assert told == [(1, COUNT), (2, COUNT), (3, COUNT)]
    before = {person.pk: record_of(person) for person in caseload}
    for person in caseload:
        erase_client(person, by=clinician, now=NOW)
    OwnMaterial.objects.all().delete()
    lead = User.objects.get(membership__clinic=clinic, membership__role="lead")
    assert taken_in(data, clinic, lead) == COUNT
    assert OwnMaterial.objects.get(clinic=clinic).lines == ["Who is on deck?"]
    for key, was in before.items():
        now = record_of(Client.objects.get(pk=key))
        assert now.pop("taken_in")
        was.pop("taken_in")
        assert now == was


def test_it_is_written_a_record_at_a_time(caseload, clinic):
    pieces = list(clinic_in_pieces(clinic, now=NOW, told=lambda *_far: None))
    assert len(pieces) == COUNT + 1
    assert all(pieces)


def test_one_altered_record_refuses_all(caseload, clinic, clinician):
    data, _told = saved(clinic)
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        files = {name: archive.read(name) for name in archive.namelist()}
    name = next(name for name in files if name.startswith("records/"))
    files[name] = files[name][:-30] + b"x" * 30
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for member_name, content in files.items():
            archive.writestr(member_name, content)
    with pytest.raises(ArchiveRefused, match="altered or damaged"):
        taken_in(out.getvalue(), clinic, clinician)
    assert Client.objects.for_clinic(clinic).count() == COUNT


def test_one_record_that_is_here_refuses_all(caseload, clinic, clinician):
    data, _told = saved(clinic)
    erase_client(caseload[0], by=clinician, now=NOW)
    with pytest.raises(ArchiveRefused, match="here already"):
        taken_in(data, clinic, clinician)
    assert Client.objects.for_clinic(clinic).count() == COUNT - 1


def test_a_lead_saves_it_as_a_stream_and_sees_how_far_it_is(client, caseload, clinic, now):
    lead = User.objects.get(membership__clinic=clinic, membership__role="lead")
    client.force_login(lead)
    key = uuid.uuid4()
    answer = client.get(reverse("records:whole_clinic"), {"key": key})
    assert answer.streaming

    data = streamed(answer)
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        assert archive.testzip() is None
        manifest = json.loads(archive.read("clinic.json"))
    assert len(manifest["records"]) == COUNT
    told = client.get(reverse("records:progress", args=[key])).json()
    assert told == {"done": COUNT, "total": COUNT}
    assert client.get(reverse("records:progress", args=[uuid.uuid4()])).json() == {}


def test_a_lead_of_another_clinic_takes_it_in(client, caseload, clinic, other_clinic, clinician):
    data, _told = saved(clinic)
    for person in caseload:
        erase_client(person, by=clinician, now=NOW)
    client.force_login(User.objects.get(membership__clinic=other_clinic))
    sent = SimpleUploadedFile("clinic.zip", data)
    page = client.post(reverse("records:take_in"), {"file": sent, "key": uuid.uuid4()}, follow=True)
    assert f"Taken in: {COUNT} records" in page.content.decode()
    assert Client.objects.for_clinic(other_clinic).count() == COUNT


def test_nothing_of_another_clinic_is_in_it(caseload, clinic, other_clinic):
    stranger = enrol(other_clinic, member(other_clinic, "x@shore.example"), name="Far Stranger")
    data, _told = saved(clinic)
    assert str(stranger.pk).encode() not in data


def test_a_record_that_unfolds_without_end_is_not_unfolded(caseload, clinic, clinician):
    """A record in the list that is packed once more: 30 MB of nothing in 30 kB."""
    data, _told = saved(clinic)
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        files = {name: archive.read(name) for name in archive.namelist()}
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in files.items():
            archive.writestr(name, b"\0" * 30_000_000 if name.startswith("records/") else content)
            break
    with pytest.raises(ArchiveRefused, match="unfolds"):
        taken_in(out.getvalue(), clinic, clinician)
