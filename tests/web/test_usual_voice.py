"""Today asks a client with laryngitis whether the voice is back; after two such days the clinician restarts."""

from datetime import timedelta

import pytest
from django.urls import reverse

from core.editing.change_rung import on_rung
from tests.conftest import NOW, PIN, activate_program
from tests.factories.pages import url
from web.clients.intake.screenings import screenings_of
from web.clients.models import StoredScreening, VoiceReport
from web.clients.usecases.enrol import record_screening
from web.clients.usecases.link import make_link
from web.practice.usecases.report_voice import report_voice
from web.programs.models import Draft, ProgramVersion
from web.programs.usecases import drafts, versions
from web.review.usecases.refresh_row import rebuilt

pytestmark = pytest.mark.django_db
QUESTION = "Is your voice back to usual today?"


def hoarse_with_a_cold(person, clinician):
    asked_on = NOW.date() - timedelta(days=2)
    record_screening(
        person,
        by=clinician,
        now=NOW,
        asked_on=asked_on,
        larynx_examined_on=None,
        trouble_began_on=asked_on - timedelta(days=2),
        red_flags=[],
        voice="troubled",
        airway="larynx",
        cold=True,
        hoarser=True,
    )


@pytest.fixture
def program(person, clinician):
    """A program one rung up, then a cold."""
    version = activate_program(person, clinician)
    revision = Draft.objects.get(client=person).revision
    main = version.program.main_step.step_id
    draft = drafts.edit_draft(
        person, revision=revision, change=lambda p: on_rung(p, main, 1), by=clinician, now=NOW
    )
    climbed = versions.activate(
        person,
        revision=draft.revision,
        written_reason="",
        by=clinician,
        now=NOW,
        active_from=NOW.date(),
    )
    hoarse_with_a_cold(person, clinician)
    return climbed


@pytest.fixture
def today(client, person, clinician):
    access = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})

    def page(usual=None):
        if usual is not None:
            answer = client.post(url("practice:usual_voice", access.pk), {"usual": usual})
            if answer.status_code != 302:
                return answer.content.decode()
        return client.get(url("practice:today", access.pk)).content.decode()

    return page


def test_the_question_stands_only_while_a_laryngitis_rests_the_program(today, person, clinician):
    activate_program(person, clinician)
    assert QUESTION not in today()
    hoarse_with_a_cold(person, clinician)
    page = today()
    assert QUESTION in page
    assert "Please call the clinic" in page


def test_the_answer_of_a_day_is_kept_once_and_odd_ones_are_refused(today, program, person):
    assert "Choose one of the answers" in today("maybe")
    assert not VoiceReport.objects.exists()
    page = today("no")
    assert QUESTION not in page
    assert "We will ask again tomorrow" in page
    assert not VoiceReport.objects.get().usual


def test_two_days_running_tell_the_clinician_and_the_program_waits_for_its_restart(
    today, program, person, clinician, client
):
    report_voice(person, usual="yes", now=NOW)  # yesterday
    page = today("yes")
    assert "Your clinic will start your program again" in page
    assert "Start practice" not in page
    client.force_login(clinician)
    shown = client.get(url("review:client", person.pk)).content.decode()
    assert "restart every step at its first target" in shown
    key = shown[shown.index('name="key" value="') + 18 :].split('"')[0].replace("&quot;", '"')
    # hoarse anew and not examined since: the gate asks for a written reason
    sent = {"key": key, "after": program.number, "accept": "yes", "reason": "Well after a cold."}
    answer = client.post(url("review:decide", person.pk), sent)
    assert answer.status_code == 302
    newest = ProgramVersion.objects.order_by("number").last()
    assert {step.grade.rung for step in newest.program.all_steps if step.grade} == {0}
    assert "Start practice" in today()


def test_a_program_at_its_first_targets_goes_on_by_itself(today, person, clinician):
    activate_program(person, clinician)
    hoarse_with_a_cold(person, clinician)
    report_voice(person, usual="yes", now=NOW)
    assert "Start practice" in today("yes")


def test_a_day_between_or_a_relapse_opens_nothing(today, person, clinician):
    activate_program(person, clinician)
    hoarse_with_a_cold(person, clinician)
    report_voice(person, usual="yes", now=NOW - timedelta(days=1))
    page = today("yes")
    assert "Start practice" not in page
    assert "We will ask again tomorrow" in page


def test_rows_worked_out_anew_are_the_same(program, person, clinician, today):
    report_voice(person, usual="yes", now=NOW)
    today("yes")
    person.caseload_row.refresh_from_db()
    before = person.caseload_row.screening
    assert before["restarts"] is True
    rebuilt(person)
    person.caseload_row.refresh_from_db()
    assert person.caseload_row.screening == before


def test_of_two_screenings_of_one_moment_the_one_asked_later_is_in_force(person, clinician):
    """The database may give rows of the same moment in any order."""
    first = StoredScreening.objects.get(client=person)
    record_screening(
        person,
        by=clinician,
        now=first.at,
        asked_on=first.asked_on - timedelta(days=7),
        larynx_examined_on=None,
        red_flags=[],
        voice="troubled",
        airway="larynx",
    )
    assert [row.asked_on for row in screenings_of(person)] == [
        first.asked_on - timedelta(days=7),
        first.asked_on,
    ]
