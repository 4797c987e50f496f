"""Takes of the demo: read from their file, performed where they lack, and the simulated voice of a page."""

import gzip
import json

import pytest
from django.core.management import CommandError, call_command
from django.urls import reverse

from core.program.targets import Asked
from core.sound import VERSION
from lab.demo.load import load_demo
from lab.demo.perform_take import Take
from lab.demo.takes import Takes
from lab.simulate.history import PlayedHold
from tests.conftest import NOW
from web.clinic.models import Clinic

pytestmark = pytest.mark.django_db


def test_takes_of_another_kernel_or_no_file_are_not_used(tmp_path):
    assert Takes.shipped(tmp_path / "nothing.gz")._book == {}
    older = tmp_path / "older.gz"
    older.write_bytes(gzip.compress(b'{"kernel": "1"}\n["abc", {}]'))
    assert Takes.shipped(older)._book == {}


def test_what_was_performed_is_read_back_from_its_file(tmp_path):
    breath = Take(
        task="breath",
        asked=Asked(seconds=6.0, aim="in 2 out 4"),
        held=PlayedHold(
            seconds=6.0, cents=3.0, pitch_sd_semitones=0.3, level_db=-30.0, trail_off_db=-2.0
        ),
        seed=7,
        a4_hz=440.0,
        size="",
        contour=True,
    )
    one, again = tmp_path / "one.gz", tmp_path / "again.gz"
    takes = Takes({})
    (performed_now,) = takes.figures([breath])
    takes.write(one)
    read = Takes.shipped(one)
    (read_back,) = read.figures([breath])
    read.write(again)
    assert read.anew == 0
    assert one.read_bytes() == again.read_bytes()
    assert read_back.as_data() == performed_now.as_data()
    assert read_back.hold_s == pytest.approx(6.0, abs=0.8)


def test_performing_keeps_nothing_in_the_database_and_needs_an_empty_one(tmp_path):
    file = tmp_path / "takes.gz"
    call_command("perform_demo", only=["Bryony Sallow"], file=file)
    assert Clinic.objects.count() == 0
    (head,) = gzip.decompress(file.read_bytes()).decode().splitlines()  # she has not practiced yet
    assert json.loads(head)["kernel"] == VERSION
    load_demo(NOW, Takes({}), only=["Bryony Sallow"])
    with pytest.raises(CommandError, match="empty database"):
        call_command("perform_demo", only=["Bryony Sallow"], file=file)


def test_the_simulated_voice_is_there_for_the_demo_only(client, settings):
    address = reverse("simulated_voice")
    assert client.get(address, {"hz": 220, "seconds": 1}).content[:4] == b"RIFF"
    for odd in ({"hz": 5}, {"hz": "x"}, {"seconds": 900}, {"end_hz": 9999}, {"seed": -1}):
        assert client.get(address, odd).status_code == 400
    settings.OFFER_SIMULATED_VOICE = False
    assert client.get(address).status_code == 404
