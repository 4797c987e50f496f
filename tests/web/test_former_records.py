"""Records of former formats are still taken in."""

import json
from pathlib import Path

import pytest

from tests.factories.records import members, packed, read
from web.clients.models import StoredScreening
from web.clinic.models import User
from web.practice.models import HomeSession
from web.records.usecases.import_record import import_record

pytestmark = pytest.mark.django_db


def test_a_record_of_the_former_format_is_taken_in(clinic, clinician, now):
    """Written before the state of the voice was asked about: nothing is made up for what was not."""
    lead = User.objects.get(membership__clinic=clinic, membership__role="lead")
    former = (Path(__file__).parent / "former" / "record-2.zip").read_bytes()
    assert json.loads(members(former)["manifest.json"])["format"] == "still-reed/record/2"
    taken = import_record(read(former), clinic, by=lead, now=now)
    client = taken.client
    assert (client.name, client.telephone) == ("Jonah Tresk", "")
    assert HomeSession.objects.filter(client=client).count() == len(
        json.loads(members(former)["record/home_sessions.json"])
    )
    screening = StoredScreening.objects.get(client=client)
    assert (screening.voice, screening.airway, screening.red_flags) == ("", "", [])
    again = packed(client)
    assert json.loads(members(again)["manifest.json"])["format"] == "still-reed/record/3"
