"""Today: when, what to have at hand, the clinician's note, what is other than last time and why."""

from dataclasses import replace
from datetime import timedelta

import pytest
from django.urls import reverse

from core.editing.change_rung import on_rung
from core.editing.step_order import without_step
from core.editing.step_targets import with_repetitions
from core.formats.program_file import data_of
from core.program.program import Chosen
from tests.conftest import NOW, PIN, activate_program
from web.clients.usecases.enrol import record_screening
from web.clients.usecases.link import make_link
from web.practice.models import HomeSession
from web.programs.models import ProgramVersion

pytestmark = pytest.mark.django_db


@pytest.fixture
def home_page(client, person, clinician):
    def opened():
        access = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
        client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
        return client.get(reverse("practice:today", args=[access.pk])).content.decode()

    return opened


def next_version(version, program, clinician):
    return ProgramVersion.objects.create(
        clinic_id=version.clinic_id,
        client=version.client,
        number=version.number + 1,
        content=data_of(program),
        activated_at=NOW,
        active_from=NOW.date(),
        activated_by=clinician,
    )


def tell(signed_in, person, words):
    return signed_in.post(reverse("clients:for_home", args=[person.pk]), {"words": words})


def test_the_note_of_the_clinician_stands_until_it_is_taken_away(
    signed_in, person, clinician, version, home_page
):
    assert tell(signed_in, person, "Slowly. No hurry.").status_code == 302
    assert "Slowly. No hurry." in home_page()
    assert clinician.name in home_page()
    assert tell(signed_in, person, "x" * 401).status_code == 422
    assert "Slowly. No hurry." in home_page()
    tell(signed_in, person, "")
    assert "Slowly" not in home_page()


def test_two_home_sessions_a_day_have_their_times(home_page, version):
    page = home_page()
    assert "Good times:" in page
    assert "Have at hand" not in page  # held notes need nothing


def test_a_tube_in_water_needs_a_tube_and_a_glass(person, clinician, home_page):
    record_screening(
        person,
        by=clinician,
        now=NOW + timedelta(minutes=1),
        voice="troubled",
        airway="larynx",
        asked_on=NOW.date(),
        larynx_examined_on=NOW.date(),
        equipment=["glass_of_water", "wide_tube"],
    )
    versions = activate_program(person, clinician, schools=(Chosen(school="semi_deep"),))
    names = [step.name for step in versions.program.steps]
    page = home_page()
    assert "Have at hand: " in page, names
    assert "glass of water" in page


def test_a_climb_is_told_with_its_reason_until_it_was_practiced(
    person, clinician, version, home_page, access
):
    program, main = version.program, version.program.main_step
    assert "New since last time" not in home_page()  # the first version: nothing is new
    after = next_version(version, on_rung(program, main.step_id, main.rung + 1), clinician)
    page = home_page()
    assert "New since last time" in page
    assert f"{main.name}: now hold for 7 seconds, 5 notes, because it went well." in page
    HomeSession.objects.create(
        clinic_id=person.clinic_id,
        client=person,
        version=after,
        access=access,
        routine=program.routines[0].key,
        started_at=NOW,
        ended_at=NOW,
        outcome="kept",
        practice_day=NOW.date(),
    )
    assert "New since last time" not in home_page()


def test_what_came_and_went_and_what_was_set_is_told(clinician, version, home_page):
    program = version.program
    first, second = program.steps[0], program.steps[1]
    changed = with_repetitions(without_step(program, first.step_id), second.step_id, 5)
    new = replace(first, step_id="11111111-1111-4111-8111-111111111111", name="Other hold")
    routine = changed.routines[0]
    changed = changed.with_routine(replace(routine, steps=(*routine.steps, new)))
    next_version(version, changed, clinician)
    page = home_page()
    assert f"No longer: {first.name}." in page
    assert "New: Other hold, " in page
    assert f"{second.name}: now" in page
    assert "as your clinician set it." in page
