"""A whole record out and in again: nothing missing, equal content, refused whole, its program through the gate."""

import hashlib
import io
import json
import zipfile
from datetime import timedelta

import jsonschema
import pytest
from django.apps import apps
from django.urls import reverse

from lab.demo.save_session import WholeAttempt, save_session
from tests.conftest import NOW, PIN, record_of
from tests.factories.records import members, packed, read
from web.clients.models import Client
from web.clients.usecases.for_home import save_note
from web.clients.usecases.link import make_link
from web.clinic.models import AccessEvent, User
from web.clinic.refusal import UsecaseRefused
from web.practice.models import HomeSession, Remark
from web.practice.usecases.open_session import open_session
from web.programs.models import Draft, ProgramVersion
from web.programs.usecases.versions import activate
from web.records.models import TakenIn
from web.records.pack import record_schema
from web.records.tables import LEFT_OUT, TABLES, history_tables
from web.records.unpack import ArchiveRefused
from web.records.usecases.import_record import import_record
from web.review.models import CaseloadRow


def zipped(files):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in files.items():
            archive.writestr(name, data)
    return out.getvalue()


def from_elsewhere(data, change=None):
    """The archive as another installation would have made it: its own id, right digests, no signature of ours."""
    files = members(data)
    manifest = json.loads(files["manifest.json"])
    manifest["installation"] = "f" * 32
    if change:
        for name in manifest["tables"]:
            rows = json.loads(files[f"record/{name}.json"])
            change(name, rows)
            text = json.dumps(rows).encode()
            files[f"record/{name}.json"] = text
            manifest["tables"][name] |= {
                "rows": len(rows),
                "sha256": hashlib.sha256(text).hexdigest(),
            }
    files["manifest.json"] = json.dumps(manifest).encode()
    return zipped(files)


@pytest.fixture
def whole(person, clinician, version, home):
    """A record with something in most tables: a measured hold, strain, a stop sign, a remark, a note, paper."""
    from core.kinds.live import measure_sound
    from core.notes.note import Note
    from core.sound.reading import Sound
    from lab.simulate.voice import Voice, sing

    sung = sing(Voice(f0_hz=233.1, seconds=7.0))
    session, _ticket = home
    figures = measure_sound(Sound(sung.samples, 16_000), "hold", target=Note.named("B♭3"))
    step = version.program.routine("ladder").steps[3]
    save_session(
        person,
        version,
        access=session.access,
        started_at=NOW,
        attempts=[WholeAttempt(step=step, place=0, repetition=1, figures=figures, after_s=0)],
        strain=2,
        stop_sign="pain",
        input_name="microphone",
        measured_by="kernel",
    )
    Remark.objects.create(
        clinic_id=person.clinic_id, client=person, home_session=session, kind="note", words="Häßlich — wind",
        by=clinician, at=NOW,
    )  # fmt: skip
    save_note(person, "Sit up well.", by=clinician, now=NOW)
    return person


def test_every_table_about_a_client_is_in_it_or_listed_with_its_reason():
    told = {model._meta.label for model in TABLES.values()} | set(LEFT_OUT)
    told |= {event._meta.label for event in history_tables().values()}
    for model in apps.get_models():
        columns = {field.attname for field in model._meta.concrete_fields}
        if model is Client or "client_id" in columns:
            assert model._meta.label in told or "DraftEvent" in model.__name__, model._meta.label
    assert all(len(why) > 20 for why in LEFT_OUT.values())


def test_every_column_of_its_tables_is_in_it(whole):
    """Only what says whose it is, and the private link."""
    for name, rows in record_of(whole).items():
        columns = {field.attname for field in TABLES[name]._meta.concrete_fields}
        for row in rows:
            assert columns - set(row) <= {"clinic_id", "client_id", "access_id"}, name


def test_the_published_schema_holds(whole):
    schema = record_schema()
    jsonschema.Draft202012Validator.check_schema(schema)
    jsonschema.validate(record_of(whole), schema)


def test_into_an_empty_clinic_with_equal_content(whole, clinic, now):
    """Erased here, taken in again from its archive: every table as it was."""
    from web.clients.usecases.enrol import erase_client

    before, data = record_of(whole), packed(whole)
    lead = User.objects.get(membership__clinic=clinic, membership__role="lead")
    erase_client(whole, by=lead, now=now)
    taken = import_record(read(data), clinic, by=lead, now=now)
    after = record_of(taken.client)
    assert after.pop("taken_in")
    before.pop("taken_in")
    assert after == before
    assert sum(map(len, before.values())) >= 25
    assert taken.in_force
    row = CaseloadRow.objects.get(client=taken.client)
    assert row.stop_sign == "pain"


def test_into_another_clinic_its_program_waits_for_the_gate(
    whole, other_clinic, now, person, clinician
):
    before, data = record_of(whole), packed(whole)
    from web.clients.usecases.enrol import erase_client

    erase_client(whole, by=clinician, now=now)
    lead = User.objects.get(membership__clinic=other_clinic)
    taken = import_record(read(data), other_clinic, by=lead, now=now)
    client = taken.client
    after = record_of(client)
    for tables in (before, after):
        for name in ("taken_in", "draft"):
            tables.pop(name)
        for one in tables["program_versions"]:
            one.pop("taken_in_on")
        tables["client"][0].pop("clinician_id")
    assert after == before
    assert client.clinician == lead
    assert not taken.in_force
    access = make_link(client, by=lead, now=now, pin=PIN)[0]
    with pytest.raises(UsecaseRefused, match="rests"):
        open_session(access, session_id="5c0de000-7a1c-4000-8000-0000000000aa", now=now)
    draft = Draft.objects.get(client=client)
    version = activate(
        client,
        revision=draft.revision,
        written_reason="seen and asked",
        by=lead,
        now=now,
        active_from=now.date(),
    )
    assert version.number == 2
    assert version.taken_in_on is None


def test_people_from_elsewhere_are_names_without_a_sign_in(
    whole, other_clinic, now, client, clinician
):
    from web.clients.usecases.enrol import erase_client

    def renamed(name, rows):
        for row in rows:
            for column, value in row.items():
                if value == str(clinician.pk):
                    row[column] = "11111111-2222-4333-8444-555555555555"

    data = from_elsewhere(packed(whole), renamed)
    files = members(data)
    manifest = json.loads(files["manifest.json"])
    manifest["people"] = {"11111111-2222-4333-8444-555555555555": "Far Away"} | manifest["people"]
    files["manifest.json"] = json.dumps(manifest).encode()
    erase_client(whole, by=clinician, now=now)
    lead = User.objects.get(membership__clinic=other_clinic)
    import_record(read(zipped(files)), other_clinic, by=lead, now=now)
    stranger = User.objects.get(name="Far Away")
    assert not stranger.is_active
    assert not stranger.has_usable_password()
    assert not hasattr(stranger, "membership")


def test_an_altered_archive_is_refused_whole(whole, clinic, now, clinician):
    files = members(packed(whole))
    files["record/attempts.json"] = files["record/attempts.json"].replace(
        b'"seconds": 6', b'"seconds": 9'
    )
    with pytest.raises(ArchiveRefused, match="altered"):
        read(zipped(files))
    manifest = json.loads(files["manifest.json"])
    digest = hashlib.sha256(files["record/attempts.json"]).hexdigest()
    manifest["tables"]["attempts"]["sha256"] = digest
    files["manifest.json"] = json.dumps(manifest).encode()
    with pytest.raises(ArchiveRefused, match="altered after it was made here"):
        read(zipped(files))


def test_a_record_that_is_here_already_is_refused(whole, clinic, now, clinician):
    with pytest.raises(ArchiveRefused, match="here already"):
        import_record(read(packed(whole)), clinic, by=clinician, now=now)
    assert TakenIn.objects.count() == 0


def drop(name, column):
    def change(table, rows):
        if table == name:
            for row in rows:
                row.pop(column)

    return change


def put(name, column, value):
    def change(table, rows):
        if table == name:
            rows[0][column] = value

    return change


def put_all(name, column, value):
    def change(table, rows):
        if table == name:
            for row in rows:
                row[column] = value

    return change


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (drop("attempts", "seconds"), "missing column seconds"),
        (put("attempts", "colour", 3), "unknown column colour"),
        (put("attempts", "seconds", "long"), "seconds: long cannot be read"),
        (put("attempts", "place", -1), "place"),
        (put("attempts", "place", 40_000), "place"),
        (put("attempts", "state", "dreamt"), "none of its choices"),
        (put("attempts", "state", ""), "none of its choices"),
        (put("attempts", "started_at", "yesterday"), "started_at"),
        (put("attempts", "started_at", "2026-06-14T10:00:00"), "started_at"),
        (put("attempts", "note", "C" * 50), "longer than 4"),
        (put("attempts", "home_session_id", "11111111-2222-4333-8444-555555555555"), "points at"),
        (put("remarks", "by_id", "11111111-2222-4333-8444-555555555555"), "points at"),
        (put("contours", "f0", "%%%"), "f0"),
        (put("screenings", "red_flags", {"blood": True}), "red_flags is no array"),
        (put("measurements", "device", []), "device is no object"),
        (put("client", "id", "11111111-2222-4333-8444-555555555555"), "record of one client"),
        (lambda name, rows: rows.clear() if name == "client" else None, "record of one client"),
    ],
)
def test_rows_that_are_none_are_refused_in_words(whole, change, words):
    with pytest.raises(ArchiveRefused) as refused:
        read(from_elsewhere(packed(whole), change))
    assert words in refused.value.words


@pytest.mark.parametrize(
    "change",
    [
        put("attempts", "seconds", 99_999.0),
        put("client", "time_zone", "Mars/Olympus"),
        put("program_versions", "content", {"format": 4}),
        put("screenings", "red_flags", ["no such flag"]),
        put_all("entries", "value", {"strain": "much"}),
    ],
)
def test_what_no_record_can_hold_is_refused_whole(whole, other_clinic, now, clinician, change):
    from web.clients.usecases.enrol import erase_client

    good = packed(whole)
    data = from_elsewhere(good, change)
    erase_client(whole, by=clinician, now=now)
    people = User.objects.count()
    lead = User.objects.get(membership__clinic=other_clinic)
    with pytest.raises(ArchiveRefused):
        import_record(read(data), other_clinic, by=lead, now=now)
    assert not Client.objects.filter(pk=whole.pk).exists()
    assert not ProgramVersion.objects.filter(client_id=whole.pk).exists()
    assert User.objects.count() == people
    # the same way in, with nothing wrong
    assert import_record(read(from_elsewhere(good)), other_clinic, by=lead, now=now)


def bomb():
    return zipped({"manifest.json": b"{}", "record/attempts.json": b" " * 700_000_000})


@pytest.mark.parametrize(
    "data",
    [
        b"",
        b"PK",
        b"not a zip at all",
        zipped({}),
        zipped({"manifest.json": b"{}"}),
        zipped({"manifest.json": b"[1, 2"}),
        zipped({"manifest.json": b'{"format": "elsewhere/9"}'}),
        zipped({"../../etc/passwd": b"x", "manifest.json": b"{}"}),
        zipped({"record/../x.json": b"x", "manifest.json": b"{}"}),
        zipped({"/record/client.json": b"x", "manifest.json": b"{}"}),
    ],
)
def test_archives_that_are_none_are_refused_in_words(data):
    with pytest.raises(ArchiveRefused) as refused:
        read(data)
    assert refused.value.words


def test_a_truncated_archive_is_refused(whole):
    data = packed(whole)
    for share in (0.3, 0.6, 0.95):
        with pytest.raises(ArchiveRefused):
            read(data[: int(len(data) * share)])


def test_an_archive_with_a_damaged_byte_anywhere_is_refused_or_proved(whole):
    """A byte turned over at four hundred places: in what is packed, in the directory, in what is not read."""
    data = packed(whole)
    step = max(len(data) // 400, 1)
    refused = 0
    for at in range(0, len(data), step):
        damaged = bytearray(data)
        damaged[at] ^= 0xFF
        try:
            read(bytes(damaged))
        except ArchiveRefused:
            refused += 1
    assert refused > 100


def test_a_bomb_is_refused_before_it_unfolds():
    with pytest.raises(ArchiveRefused, match="unfolds"):
        read(bomb())


def test_the_lead_takes_one_in_and_it_is_noted(client, whole, other_clinic, clinician, now):
    from django.core.files.uploadedfile import SimpleUploadedFile

    from web.clients.usecases.enrol import erase_client

    data = packed(whole)
    erase_client(whole, by=clinician, now=now)
    lead = User.objects.get(membership__clinic=other_clinic)
    client.force_login(lead)
    address = reverse("records:take_in")
    refused = client.post(address, {"file": SimpleUploadedFile("x.zip", b"nothing")})
    assert refused.status_code == 422
    assert "Nothing was taken in" in refused.content.decode()
    done = client.post(address, {"file": SimpleUploadedFile("x.zip", data)}, follow=True)
    page = done.content.decode()
    assert "Its program is a draft on the Bench" in page
    assert "came with a record from elsewhere" in page
    assert AccessEvent.objects.filter(what="took in a record", subject_id=whole.pk).exists()


def test_a_clinician_takes_none_in(client, clinician):
    client.force_login(clinician)
    assert client.get(reverse("records:records")).status_code == 403
    assert client.post(reverse("records:take_in")).status_code == 403


def test_a_spreadsheet_gets_no_formula(whole, clinician):
    save_note(whole, "=HYPERLINK(1)", by=clinician, now=NOW + timedelta(minutes=1))
    text = members(packed(whole))["csv/notes_home.csv"].decode()
    assert "'=HYPERLINK(1)" in text
    assert HomeSession.objects.filter(client=whole).exists()
