"""Words to say on paper: what is read and said in the steps, read back from the PDF by a second library."""

import uuid
from datetime import timedelta

import pytest
from django.urls import reverse

from core.program.program import Chosen
from tests.conftest import NOW, activate_program, enrol, red_flag
from tests.factories.handout import words_of
from web.clients.usecases.for_home import save_phrases
from web.papers.models import Issued
from web.papers.print.words_to_say import make_words
from web.programs.client_file import ClientFile

OWN = ["Is the kettle on?", "Next stop, the pier!"]


@pytest.fixture
def loud(person, clinician):
    """Strong voice at speaking lengths, with phrases of the client's own."""
    version = activate_program(person, clinician, schools=(Chosen(school="loudness_vowels"),))
    save_phrases(person, OWN, by=clinician, now=NOW)
    return person, version


def printed(signed_in, person, **said):
    return signed_in.post(reverse("papers:words", args=[person.pk]), said)


def test_texts_and_own_phrases_are_printed(signed_in, loud):
    person, _version = loud
    words, _reader = words_of(printed(signed_in, person))
    for said in (
        *OWN,
        "Words to say",
        "Strong reading",
        "Stop at once",
        "Strong, not shouted.",
        "edition 1",
    ):
        assert said in words, said
    assert "Long before the town is awake, the market hall is bright and loud." in words
    # Answered, not read: each step that has words stands there
    assert "What did you have for breakfast?" in words
    page = signed_in.get(reverse("papers:papers", args=[person.pk])).content.decode()
    assert "Print words" in page
    handout = signed_in.post(reverse("papers:handout", args=[person.pk]))
    assert "on the paper “Words to say”" in words_of(handout)[0]


def test_every_text_stands_once_and_the_same_days_later_is_no_new_edition(
    signed_in, loud, clinician
):
    person, version = loud
    words, _reader = words_of(printed(signed_in, person))
    # their own phrases: once with one word stretched, once as they are said
    assert words.count(OWN[0]) == 2
    # a short day reads what a whole one does
    assert words.count("Long before the town is awake") == 1
    assert "The same words as for: Strong reading." in words
    for now in (NOW, NOW + timedelta(days=3)):
        make_words(ClientFile(person, now.date()), version, large=True, by=clinician, now=now)
    assert Issued.objects.filter(client=person, kind="words").count() == 1
    save_phrases(person, ["Mind the step!"], by=clinician, now=NOW + timedelta(days=4))
    words, _reader = words_of(printed(signed_in, person))
    assert "Mind the step!" in words
    assert "edition 2" in words


def test_what_rests_is_not_printed(signed_in, loud, access):
    from web.practice.usecases.open_session import open_session
    from web.practice.usecases.save_entry import SentEntry, save_entry

    person, version = loud
    reading = next(step for step in version.program.steps if step.task == "loud_reading")
    _session, ticket = open_session(access, session_id=uuid.uuid4(), now=NOW)
    said = SentEntry(entry_id=str(uuid.uuid4()), kind="stop", step_id=reading.step_id, value="pain")
    save_entry(ticket, said, now=NOW)
    words, _reader = words_of(printed(signed_in, person))
    assert OWN[0] in words
    assert "Strong reading" not in words


def test_while_the_program_rests_nothing_is_printed(signed_in, loud, clinician):
    person, _version = loud
    red_flag(person, clinician)
    answer = printed(signed_in, person)
    assert answer.status_code == 409
    assert "The program is on hold" in answer.content.decode()
    assert not Issued.objects.exists()


def test_a_program_without_words_has_no_such_paper(signed_in, person, version):
    answer = printed(signed_in, person)
    assert answer.status_code == 409
    assert "Nothing is read or said" in answer.content.decode()
    assert "Print words" not in answer.content.decode()


def test_before_the_first_program_nothing_is_printed(signed_in, clinic, clinician):
    person = enrol(clinic, clinician, name="Silas Merrow")
    assert printed(signed_in, person).status_code == 409


def test_a_clients_own_language_is_printed(signed_in, loud, strange):
    person, _version = loud
    type(person).objects.filter(pk=person.pk).update(language=strange)
    words, _reader = words_of(printed(signed_in, person))
    assert "Words to say" not in words
    assert OWN[0] in words
