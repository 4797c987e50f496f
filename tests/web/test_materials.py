"""What is read or said is shown at home and in the Library."""

import uuid

import pytest
from django.urls import reverse

from core.program.program import Chosen
from tests.conftest import NOW, PIN, activate_program
from web.clients.usecases.link import make_link
from web.practice.player.bundle import bundle_of
from web.practice.usecases.open_session import open_session

pytestmark = pytest.mark.django_db


def test_a_client_who_speaks_has_words_for_each_repetition(person, clinician):
    chosen = (Chosen(school="loudness_vowels"),)
    version = activate_program(person, clinician, schools=chosen)
    access = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
    session, _ticket = open_session(access, session_id=uuid.uuid4(), now=NOW)
    steps = {step["name"]: step for step in bundle_of(session, version)["steps"]}
    spoken = [step for step in steps.values() if step["kind"] == "level"]
    assert spoken
    for step in spoken:
        assert len(step["said"]) == step["repetitions"]
        assert all(lines for lines in step["said"])
    held = [step for step in steps.values() if step["kind"] == "hold"]
    assert [step["said"] for step in held] == [[]] * len(held)


def test_the_library_shows_what_is_said(signed_in):
    page = signed_in.get(reverse("library:task", args=["answering"])).content.decode()
    assert "What did you have for breakfast?" in page
    assert "level 1" in page
    without = signed_in.get(reverse("library:task", args=["straw_air"])).content.decode()
    assert "What is read or said" not in without
