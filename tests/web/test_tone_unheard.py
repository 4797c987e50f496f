"""Who does not hear the reference tone is shown each note and feels it, and the proposal says so."""

from datetime import timedelta

import pytest

from tests.conftest import NOW, PIN, activate_program, baseline_of
from tests.factories.pages import propose, url
from web.clients.usecases.enrol import record_screening
from web.clients.usecases.link import make_link

pytestmark = pytest.mark.django_db
FELT = 'value="felt" selected'


def screened(person, by, tone_heard, *, at=NOW):
    record_screening(
        person,
        by=by,
        now=at,
        asked_on=NOW.date(),
        larynx_examined_on=NOW.date(),
        trouble_began_on=person.born_on.replace(year=2026),
        red_flags=[],
        voice="troubled",
        airway="larynx",
        tone_heard=tone_heard,
    )


@pytest.mark.parametrize(("heard", "felt"), [(False, True), (True, False), (None, False)])
def test_the_practice_page_begins_with_a_note_that_is_felt_only_where_it_is_not_heard(
    client, person, clinician, heard, felt
):
    activate_program(person, clinician)
    screened(person, clinician, heard)
    access = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
    client.post(url("practice:enter", access.pk), {"pin": PIN})
    page = client.get(url("practice:practice", access.pk)).content.decode()
    assert (FELT in page) is felt


def test_what_was_tried_last_counts_and_a_screening_that_did_not_ask_changes_nothing(
    client, person, clinician
):
    activate_program(person, clinician)
    for hours, heard in enumerate((True, False, None)):
        screened(person, clinician, heard, at=NOW + timedelta(hours=hours))
    access = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
    client.post(url("practice:enter", access.pk), {"pin": PIN})
    assert FELT in client.get(url("practice:practice", access.pk)).content.decode()


@pytest.mark.parametrize("asked_again", [False, True])
def test_the_proposal_says_so_until_the_tone_was_tried_again(
    signed_in, person, clinician, asked_again
):
    baseline_of(person, clinician)
    screened(person, clinician, False)
    if asked_again:  # about everything but the tone
        screened(person, clinician, None, at=NOW + timedelta(hours=1))
    propose(signed_in, person, school=["sustained"])
    page = signed_in.get(url("programs:bench", person.pk)).content.decode()
    assert "does not hear the reference tone" in page
