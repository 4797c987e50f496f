"""Note names and pitch numbers can be kept off a client's own pages and papers; the tone and the measuring stay."""

import re

import pytest

from tests.conftest import NOW, PIN
from tests.factories.pages import url
from tests.factories.practice import session_on
from web.clients.usecases.link import make_link
from web.papers.print.handout import handout_context
from web.practice.models import HomeSession
from web.practice.player.bundle import bundle_of
from web.programs.client_file import ClientFile

pytestmark = pytest.mark.django_db
NOTE = re.compile(r"\b[A-G][♭♯]?[1-6]\b|\d Hz")


@pytest.fixture
def hidden(signed_in, person, version):
    assert NOTE.search(targets_of(person, version))
    answer = signed_in.post(url("clients:pitch_at_home", person.pk), {"hidden": "on"})
    assert answer.status_code == 302
    person.refresh_from_db()
    return person


def targets_of(person, version):
    session = HomeSession(client=person, practice_day=NOW.date(), routine="", version=version)
    session.routine = version.program.routines[0].key
    steps = bundle_of(session, version)["steps"]
    assert all(target["hz"] for step in steps for target in step["targets"] if step["held"])
    return " ".join(target["note"] for step in steps for target in step["targets"])


def test_the_practice_page_names_no_notes_and_still_sounds_them(hidden, version):
    assert not NOTE.search(targets_of(hidden, version))


def test_the_clients_course_and_papers_name_no_notes(hidden, version, client, clinician):
    session_on(hidden, version, 12)
    access = make_link(hidden, by=clinician, now=NOW, pin=PIN)[0]
    client.post(url("practice:enter", access.pk), {"pin": PIN})
    page = client.get(url("review:own_reeds", access.pk)).content.decode()
    assert "own-reeds" in page
    assert not NOTE.search(page)
    told = handout_context(ClientFile(hidden, NOW.date()))
    steps = [step for routine in told["routines"] for step in routine.steps]
    assert steps
    assert not any(step.notes or step.keys for step in steps)


def test_it_can_be_shown_again_and_the_clinic_sees_it_all_the_while(hidden, version, signed_in):
    page = signed_in.get(url("review:client", hidden.pk)).content.decode()
    assert NOTE.search(page)
    signed_in.post(url("clients:pitch_at_home", hidden.pk))
    hidden.refresh_from_db()
    assert NOTE.search(targets_of(hidden, version))
