"""History, the application's role, erasure, export."""

import io
import json
import uuid
import zipfile
from datetime import timedelta

import pytest
from django.apps import apps
from django.conf import settings as configured
from django.db import DatabaseError, connection, transaction
from django.urls import reverse

from tests.conftest import NOW, enrol, streamed
from web.clients.models import Client
from web.clients.usecases.enrol import archive_client, erase_client
from web.clinic.grants import insert_only_tables
from web.clinic.models import AccessEvent, Membership

pytestmark = pytest.mark.django_db


@pytest.fixture
def as_application(db):
    """The rest of the test runs with the rights of the application's own role."""
    with connection.cursor() as cursor:
        cursor.execute(f"SET LOCAL ROLE {configured.APPLICATION_ROLE}")
    yield
    with connection.cursor() as cursor:
        cursor.execute("RESET ROLE")


def test_every_table_of_client_data_has_its_clinic_and_client():
    for model in apps.get_models():
        fields = {field.name for field in model._meta.get_fields()}
        if "client" in fields and not hasattr(model, "pgh_tracked_model"):
            assert "clinic" in fields, model


def test_keys_are_uuids():
    ours = [m for m in apps.get_models() if m.__module__.startswith("web.")]
    for model in ours:
        if not hasattr(model, "pgh_tracked_model"):
            assert model._meta.pk.get_internal_type() == "UUIDField", model


def test_the_insert_only_tables_are_the_ones_the_record_rests_on():
    kept = insert_only_tables()
    for table in (
        "practice_attempt",
        "measuring_measurement",
        "clinic_accessevent",
        "programs_programversion",
        "review_signednote",
        "review_addendum",
        "review_taught",
        "clients_clientevent",
        "practice_homesessionevent",
    ):
        assert table in kept


@pytest.mark.parametrize("verb", ["UPDATE {table} SET id = id", "DELETE FROM {table}"])
def test_the_application_cannot_change_history(verb, as_application):
    for table in insert_only_tables():
        column = "pgh_id" if table.endswith("event") and table != "clinic_accessevent" else "id"
        refused = pytest.raises(DatabaseError, match="permission denied")
        with refused, transaction.atomic(), connection.cursor() as cursor:
            cursor.execute(verb.format(table=table).replace("id = id", f"{column} = {column}"))


def test_the_application_can_do_its_daily_work(home, signed_in, as_application, person):
    assert signed_in.get(reverse("review:client", args=[person.pk])).status_code == 200
    assert AccessEvent.objects.filter(what="read", subject_id=person.pk).exists()


def test_changes_leave_their_trace(person):
    from web.clients.models import Client as Model

    Model.objects.filter(pk=person.pk).update(occupation="Baker")
    events = apps.get_model("clients", "ClientEvent").objects.filter(pgh_obj_id=person.pk)
    assert list(events.order_by("pgh_id").values_list("occupation", flat=True)) == [
        "School cook",
        "Baker",
    ]


def rows_of(client_id):
    found = {}
    for model in apps.get_models():
        if any(f.attname == "client_id" for f in model._meta.concrete_fields):
            count = model.objects.filter(client_id=client_id).count()
            if count:
                found[model._meta.label] = count
    return found


def test_erasure_removes_everything_of_one_client_and_nothing_else(
    home, person, clinic, clinician, as_application
):
    other = enrol(clinic, clinician, name="Osric Fendt")
    before = rows_of(other.pk)
    assert len(rows_of(person.pk)) > 8
    erase_client(person, by=clinician, now=NOW)
    assert rows_of(person.pk) == {}
    assert not Client.objects.filter(pk=person.pk).exists()
    assert (
        not apps.get_model("clients", "ClientEvent").objects.filter(pgh_obj_id=person.pk).exists()
    )
    assert rows_of(other.pk) == before
    event = AccessEvent.objects.get(what="erased")
    assert event.subject_id == person.pk
    assert "Maren" not in str(event.__dict__)


def test_archived_records_past_their_years_are_shown_to_the_lead(client, person, clinic, clinician):
    archive_client(person, now=NOW - timedelta(days=11 * 365))
    rounds = reverse("review:rounds")
    client.force_login(clinician)
    assert person.name not in client.get(rounds).content.decode()
    client.force_login(Membership.objects.get(clinic=clinic, role="lead").user)
    assert person.name in client.get(rounds).content.decode()
    erase = reverse("clients:erase", args=[person.pk])
    client.post(erase, {"name": "somebody else"})
    assert Client.objects.filter(pk=person.pk).exists()
    client.post(erase, {"name": person.name})
    assert not Client.objects.filter(pk=person.pk).exists()


def test_export_holds_the_record_and_is_noted(client, home, person, clinic):
    client.force_login(Membership.objects.get(clinic=clinic, role="lead").user)
    answer = client.get(reverse("records:record", args=[person.pk]))
    with zipfile.ZipFile(io.BytesIO(streamed(answer))) as archive:
        manifest = json.loads(archive.read("manifest.json"))
        tables = {
            name: json.loads(archive.read(f"record/{name}.json"))
            for name in ("client", "baseline_attempts", "program_versions")
        }
        everything = b"".join(map(archive.read, archive.namelist()))
    assert manifest["format"] == "still-reed/record/3"
    assert tables["client"][0]["name"] == "Maren Tidewell"
    assert len(tables["baseline_attempts"]) == 11
    (program,) = tables["program_versions"]
    assert program["content"]["routines"][0]["steps"][3]["grade"]["goal"] == 17.6
    assert b"pin_hash" not in everything
    assert AccessEvent.objects.filter(what="exported", subject_id=person.pk).exists()


def test_logs_carry_ids_only(client, caplog):
    client.get(f"/clients/{uuid.uuid4()}/x")
    assert "Maren" not in caplog.text
