"""Reading material of the clinic's own: added, practiced at home, taken away; of no other clinic."""

import uuid
from datetime import timedelta

import pytest
from django.urls import reverse

from core.program.program import Chosen
from tests.conftest import NOW, PIN, activate_program, member
from web.clients.usecases.link import make_link
from web.library.materials import own_turns
from web.library.models import OwnMaterial
from web.practice.player.spoken_lines import own_lines_of, said_lines
from web.practice.usecases.open_session import open_session

pytestmark = pytest.mark.django_db
ALL = reverse("library:materials")
FORM = {
    "sort": "questions",
    "name": "At work",
    "level": 1,
    "lines": "Who is on deck?\nWhen is high water?",
}


def asked_at_home(person, clinician):
    """Everything that is asked within sixty days."""
    version = activate_program(person, clinician, schools=(Chosen(school="loudness_vowels"),))
    access = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
    session, _ticket = open_session(access, session_id=uuid.uuid4(), now=NOW)
    step = next(one for one in version.program.steps if one.task == "answering")
    own = own_lines_of(session.client_id, session.clinic_id)
    days = (NOW.date() + timedelta(days=number) for number in range(60))
    turns = [turn for day in days for turn in said_lines(step, day, own)]
    return {line["words"] for turn in turns for line in turn["lines"]}


def test_it_is_one_more_of_its_sort(signed_in, clinic):
    assert signed_in.post(ALL, FORM).status_code == 302
    (turn,) = own_turns(clinic.pk)["questions"]
    assert (turn.name, turn.level, turn.lines) == (
        "At work",
        1,
        ("Who is on deck?", "When is high water?"),
    )
    assert "Who is on deck?" in signed_in.get(ALL).content.decode()


def test_it_is_practiced_at_home_until_it_is_taken_away(signed_in, clinic, person, clinician):
    signed_in.post(ALL, FORM)
    asked = asked_at_home(person, clinician)
    assert "Who is on deck?" in asked
    assert "What did you have for breakfast?" in asked  # the shipped ones stay
    away = reverse("library:take_away", args=[OwnMaterial.objects.get().pk])
    assert signed_in.post(away).status_code == 302
    assert own_turns(clinic.pk) == {}
    assert signed_in.post(away).status_code == 302  # a repeat is harmless


@pytest.mark.parametrize(
    "wrong",
    [
        {"sort": "songs"},
        {"sort": "maps"},
        {"name": ""},
        {"name": "x" * 61},
        {"level": 4},
        {"level": "easy"},
        {"lines": ""},
        {"lines": "\n".join("abcdefghi")},
        {"lines": "x" * 301},
        {"lines": "a\0b"},
    ],
)
def test_what_cannot_be_kept_is_said(signed_in, wrong):
    answer = signed_in.post(ALL, {**FORM, **wrong})
    assert answer.status_code == 422
    assert 'class="wrong"' in answer.content.decode()
    assert not OwnMaterial.objects.exists()


def test_another_clinic_neither_sees_nor_takes_it(signed_in, client, other_clinic):
    signed_in.post(ALL, FORM)
    row = OwnMaterial.objects.get()
    client.force_login(member(other_clinic, "x@elsewhere.example"))
    assert "Who is on deck?" not in client.get(ALL).content.decode()
    assert client.post(reverse("library:take_away", args=[row.pk])).status_code == 404
    assert own_turns(other_clinic.pk) == {}
