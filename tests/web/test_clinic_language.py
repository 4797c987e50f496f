"""A clinic's pages in the clinic's language: names, notes, units and material to read are all that stays as it is."""

import calendar

import pytest
from django.urls import reverse

from core.catalogue.materials import sorts
from core.catalogue.reading import HARBOUR_MORNING
from core.reference import values
from lab.demo.load import load_demo
from lab.demo.takes import Takes
from tests.conftest import NOW
from tests.database import empty_touched_tables
from tests.pseudo import LANGUAGE, plain_words
from web.clients.models import Client
from web.clinic.models import Clinic, Membership, Role, User

pytestmark = pytest.mark.django_db
OF_A_CLIENT = (
    "review:client",
    "review:results",
    "review:in_visit",
    "review:hearing",
    "review:home_levels",
    "clients:screening",
    "clients:baseline",
    "clients:for_home",
    "programs:bench",
    "programs:versions",
    "papers:papers",
    "papers:sheet_log",
)
OF_THE_CLINIC = (
    "review:rounds",
    "review:clinic_numbers",
    "clients:enrol",
    "clients:access",
    "library:library",
    "library:schools",
    "library:add",
    "clinic:clinic",
    "records:records",
)
SAME_IN_EVERY_LANGUAGE = {
    *("min", "mm", "dB", "dBFS", "st", "cents", "mL", "SD", "cmH", "Hz", "cm"),
    *("Enter", "Shift", "Delete", "Alt", "Space"),
    *("MIDI", "MusicXML", "FHIR", "CSV", "WAV", "JSON", "ZIP", "QR", "PIN"),
    *("ah", "oh", "ee", "oo", "ng"),
    *("Strange", "English", "British", "Still", "Reed"),
}
"""Units and keys, formats, vowels, and how languages call themselves."""
DAYS = {
    name
    for names in (calendar.day_name, calendar.day_abbr, calendar.month_name, calendar.month_abbr)
    for name in names
}
"""Django has them in every real language."""
SOURCES = {one.source for one in vars(values).values() if isinstance(one, values.Reference)}
READ_ALOUD = {
    *(words for turn in sorts()["phrases"].turns for words in (turn.name, *turn.lines)),
    *(HARBOUR_MORNING.name, HARBOUR_MORNING.text),
}
"""Material in the client's language is written anew, not translated."""


@pytest.fixture(scope="module")
def maren(django_db_setup, django_db_blocker):
    """A client with a history, and the clinic."""
    with django_db_blocker.unblock():
        load_demo(NOW, Takes.shipped(), only=["Maren Tidewell"])
        yield Client.objects.get()
        empty_touched_tables()


@pytest.fixture
def page_of(client, maren, strange, db):
    Clinic.objects.update(language=strange)
    client.force_login(Membership.objects.get(role=Role.LEAD).user)

    def page(view, *of):
        answer = client.get(reverse(view, args=of))
        assert answer.status_code == 200
        html = answer.content.decode()
        assert f'<html lang="{LANGUAGE}">' in html
        return html

    return page


def not_translated(html, person):
    """Words of a page that were never offered for translation."""
    people = (user.name for user in User.objects.all())
    clinic = person.clinic
    written = (person.name, person.occupation, person.referral, clinic.name, clinic.policy_text)
    written += ("simulated voice",)  # what the device calls itself
    names = (*written, *people, *(user.email for user in User.objects.all()))
    return plain_words(html, *names, *SOURCES, *READ_ALOUD) - SAME_IN_EVERY_LANGUAGE - DAYS


@pytest.mark.parametrize("view", OF_A_CLIENT)
def test_a_page_of_a_client_speaks_the_clinics_language(page_of, maren, view):
    assert sorted(not_translated(page_of(view, maren.pk), maren)) == []


@pytest.mark.parametrize("view", OF_THE_CLINIC)
def test_a_page_of_the_clinic_speaks_its_language(page_of, maren, view):
    assert sorted(not_translated(page_of(view), maren)) == []


def test_a_task_of_the_library_is_told_in_the_clinics_language(page_of, maren):
    assert sorted(not_translated(page_of("library:task", "straw_water"), maren)) == []
