"""A client's file: every part read once, the same from the row of Rounds as from the record itself."""

from datetime import timedelta

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from tests.conftest import NOW, red_flag
from tests.factories.pages import url
from tests.factories.practice import session_on
from web.clients.intake.intake_file import IntakeFile
from web.programs.client_file import ClientFile
from web.review.caseload.row import RowFile
from web.review.course_file import CourseFile
from web.review.usecases.refresh_row import rebuilt

pytestmark = pytest.mark.django_db
TODAY = NOW.date()
INTAKE = ("screenings", "screening", "living", "conditions", "allowed", "baselines", "measured")
PROGRAM = ("tasks", "versions", "version", "program", "draft", "tried", "running_gate")
COURSE = ("stop", "signs", "flags_said", "recent", "practice", "strain", "last_session", "families")
DECIDED = ("visits", "decided", "snoozed", "rule_overrides", "rules", "history")


def read(file, names):
    for name in names:
        getattr(file, name)


@pytest.mark.parametrize(
    ("kind", "names", "most"),
    [
        (IntakeFile, INTAKE, 3),  # screenings, baselines, their attempts
        (ClientFile, (*INTAKE, *PROGRAM), 8),  # and catalogue, versions, draft, tries in a visit
        # and stop signs with their answers, home sessions (60 days, newest, 84 days), attempts, levels,
        # strain, visits, decisions, snoozes, rule numbers
        (CourseFile, (*INTAKE, *PROGRAM, *COURSE, *DECIDED), 24),
    ],
)
def test_each_part_is_read_once(person, version, kind, names, most):
    for day in (11, 12):
        session_on(person, version, day, strain=2, sign="light_headed")
    file = kind(person, TODAY)
    with CaptureQueriesContext(connection) as first:
        read(file, names)
    with CaptureQueriesContext(connection) as again:
        read(file, names)
    assert len(first) <= most, [q["sql"][:90] for q in first]
    assert len(again) == 0, [q["sql"][:90] for q in again]


@pytest.mark.parametrize("flagged", [False, True])
def test_the_row_says_what_the_record_says(person, version, clinician, flagged):
    for day in (8, 11, 12):
        session_on(person, version, day, strain=2, sign="voice_worse" if day == 12 else "")
    if flagged:
        red_flag(person, clinician)
    course = CourseFile.now(person)
    row = RowFile(rebuilt(person), course.today)
    for name in (
        "screening",
        "living",
        "allowed",
        "running_gate",
        "signs",
        "recent",
        "last_session",
        "families",
        "visits",
        "decided",
        "rules",
        "history",
    ):
        assert getattr(row, name) == getattr(course, name), name
    assert row.running_gate.opens("") is not flagged
    assert row.history.open_signs, "the stop sign stands in the history"


def test_the_gate_of_a_coming_day_reads_nothing_but_the_row(person, version):
    row = rebuilt(person)
    with CaptureQueriesContext(connection) as seen:
        gates = [RowFile(row, TODAY + timedelta(days=d)).running_gate for d in range(60)]
    assert len(seen) == 0
    assert all(gate.opens("") for gate in gates)


def test_a_visit_asks_the_database_at_most_35_times(signed_in, person, version):
    session_on(person, version, 12, strain=2)
    with CaptureQueriesContext(connection) as seen:
        assert signed_in.get(url("review:in_visit", person.pk)).status_code == 200
    assert len(seen) <= 35, [q["sql"][:90] for q in seen]
