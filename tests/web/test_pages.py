"""Pages of the clinician: what they say, what they refuse, how many queries they take."""

import os
import secrets
import subprocess
import sys
import uuid
from datetime import timedelta

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from tests.conftest import CLOSED, NOW, PIN, activate_program, baseline_of, enrol
from tests.factories.pages import MOST_QUERIES, edit, propose, url
from tests.factories.practice import ready, session_on
from web.clients.models import Baseline, BaselineAttempt
from web.clinic import clock
from web.programs.models import Draft, ProgramVersion

pytestmark = pytest.mark.django_db


def staff_pages(person):
    return [
        url("review:rounds"),
        url("review:client", person.pk),
        url("clients:screening", person.pk),
        url("clients:baseline", person.pk),
        url("programs:bench", person.pk),
        url("clients:enrol"),
        url("papers:sheet_log", person.pk),
        url("papers:papers", person.pk),
    ]


@pytest.mark.parametrize(("clients", "sign"), [(1, ""), (8, ""), (1, "light_headed")])
def test_no_page_takes_more_than_15_queries(
    signed_in, person, version, clinic, clinician, clients, sign
):
    for number in range(clients - 1):
        activate_program(enrol(clinic, clinician, name=f"Client {number}"), clinician)
    for day in (11, 12):
        session_on(person, version, day, strain=2, sign=sign)
    ready(person)
    for page in staff_pages(person):
        with CaptureQueriesContext(connection) as seen:
            assert signed_in.get(page).status_code == 200, page
        assert len(seen) <= MOST_QUERIES, (page, [q["sql"][:90] for q in seen])


def test_no_client_page_takes_more_than_15_queries(client, home):
    session, _ticket = home
    link = session.access_id
    client.post(url("practice:enter", link), {"pin": PIN})
    pages = [url(f"practice:{name}", link) for name in ("today", "practice", "hearing")]
    for page in [*pages, url("review:own_reeds", link), url("practice:finished", link, session.pk)]:
        with CaptureQueriesContext(connection) as seen:
            assert client.get(page).status_code == 200, page
        assert len(seen) <= MOST_QUERIES, (page, len(seen))


def test_clinic_page_takes_at_most_12_queries(client, clinic):
    from web.clinic.models import Membership

    client.force_login(Membership.objects.get(clinic=clinic).user)
    with CaptureQueriesContext(connection) as seen:
        assert client.get(url("clinic:clinic")).status_code == 200
    assert len(seen) <= MOST_QUERIES


def test_typed_baseline_shows_the_figures_and_the_reason_of_each_flag(signed_in, person):
    page = url("clients:baseline", person.pk)
    signed_in.get(page)
    values = {"lowest": "g3", "highest": "G4", "height_cm": "165", "lung_sex": "female"}
    signed_in.post(url("clients:set_baseline", person.pk), values)
    for measure, seconds in (
        ("phonation", "9.4 8.8 8.1"),
        ("s", "17,6"),
        ("z", "11.0"),
        ("probe_low", "8.2"),
    ):
        data = {"measure": measure, "seconds": seconds, "attempt_ids": uuid.uuid4()}
        assert signed_in.post(url("clients:type_attempts", person.pk), data).status_code == 302
    shown = signed_in.get(page).content.decode()
    for words in ("1.60", "290 mL/s", "34.1 s", "9.4 s is under 10 s", "1.60 is 1.4 or more"):
        assert words in shown
    signed_in.post(url("clients:record", person.pk))
    assert Baseline.objects.get().recorded_at


def test_the_same_typed_line_twice_is_logged_once(signed_in, person):
    signed_in.get(url("clients:baseline", person.pk))
    data = {"measure": "s", "seconds": "12.4 11.8", "attempt_ids": uuid.uuid4()}
    for _ in range(2):
        signed_in.post(url("clients:type_attempts", person.pk), data)
    assert sorted(BaselineAttempt.objects.values_list("seconds", flat=True)) == [11.8, 12.4]


@pytest.mark.parametrize("seconds", ["", "abc", "0", "400", "-3", "nan", "1 2 3 4 5 6"])
def test_impossible_seconds_are_refused_at_the_field(signed_in, person, seconds):
    signed_in.get(url("clients:baseline", person.pk))
    data = {"measure": "s", "seconds": seconds, "attempt_ids": uuid.uuid4()}
    answer = signed_in.post(url("clients:type_attempts", person.pk), data)
    assert answer.status_code == 422
    assert not BaselineAttempt.objects.exists()


@pytest.mark.parametrize(
    ("values", "words"),
    [
        ({"lowest": "G4", "highest": "G3"}, "is not below the highest"),
        ({"lowest": "H3", "highest": "G3"}, "is no note"),
        ({"lowest": "C1", "highest": "G3"}, "60–1000 Hz"),
        ({"lowest": "G3", "highest": "G4", "speaking": "C3"}, "lies outside G3–G4"),
        ({"throat_strain": "11"}, "10"),
    ],
)
def test_a_wrong_range_is_refused_and_nothing_changes(signed_in, person, values, words):
    signed_in.get(url("clients:baseline", person.pk))
    answer = signed_in.post(url("clients:set_baseline", person.pk), values)
    assert answer.status_code == 422
    assert words in answer.content.decode()
    assert not Baseline.objects.exists()


def test_a_baseline_without_range_or_probe_is_not_recorded(signed_in, person):
    signed_in.post(url("clients:record", person.pk))  # none is begun: nothing to record
    assert not Baseline.objects.exists()
    signed_in.post(url("clients:set_baseline", person.pk), {"lowest": "G3", "highest": "G4"})
    signed_in.post(url("clients:record", person.pk))
    assert Baseline.objects.get().recorded_at is None


@pytest.fixture
def draft(signed_in, person, clinician):
    baseline_of(person, clinician)
    assert propose(signed_in, person).status_code == 302
    return Draft.objects.get()


def test_the_bench_proposes_the_worked_case(draft):
    program = draft.program
    grade = program.main_step.grade
    assert grade.goal == 17.6
    assert [h.note.name for h in program.steps[3].holds] == ["B♭3", "C4", "D4", "E♭4", "F4"]
    assert grade.rungs[0] == program.steps[3].holds[0].seconds == 6.5


@pytest.mark.parametrize("goal", ["", "x", "0", "1000", "nan"])
def test_a_goal_that_cannot_be_is_refused(signed_in, person, clinician, goal):
    baseline_of(person, clinician)
    typed = {"sustained.goal": "typed", "sustained.goal_s": goal}
    assert propose(signed_in, person, **typed).status_code == 422
    assert not Draft.objects.exists()


def test_heads_move_and_undo_brings_them_back(signed_in, person, draft):
    key = f"{draft.program.steps[3].step_id}:4"
    moved = edit(signed_in, person, 1, edit="move", key=key, semitones=1, seconds=0.5)
    assert moved.status_code == 200
    hold = Draft.objects.get().program.steps[3].holds[4]
    assert (hold.note.name, hold.seconds, hold.because.code) == ("F♯4", 7.0, "by_hand")
    assert edit(signed_in, person, 2, edit="undo").json()["revision"] == 3
    assert Draft.objects.get().program == draft.program


def test_a_stale_edit_is_refused_and_shows_the_current_draft(signed_in, person, draft):
    key = f"{draft.program.steps[3].step_id}:0"
    edit(signed_in, person, 1, edit="move", key=key, seconds=0.5)
    stale = edit(signed_in, person, 1, edit="move", key=key, seconds=5)
    assert stale.status_code == 409
    assert stale.json()["revision"] == 2
    assert "<svg" in stale.json()["html"]
    assert Draft.objects.get().program.steps[3].holds[0].seconds == 7.0


@pytest.mark.parametrize(
    "change",
    [
        {"edit": "move", "key": "x", "seconds": 1},
        {"edit": "move", "key": "{step}:9", "seconds": 1},
        {"edit": "move", "key": "{step}:0", "seconds": 1000},
        {"edit": "move", "key": "{step}:0", "seconds": -6.5},
        {"edit": "move", "key": "{step}:0", "seconds": float("inf")},
        {"edit": "move", "key": "{step}:0", "semitones": 60},
        {"edit": "dose", "sessions_a_day": 9, "days_a_week": 7, "weeks": 6},
        {"edit": "rung", "step_id": "{step}", "value": 99},
        {"edit": "rung", "step_id": "{step}", "value": -1},
        {"edit": "rung", "step_id": "no such step", "value": 1},
        {"edit": "set", "step_id": "{step}", "key": "repetitions", "value": "0"},
        {"edit": "set", "step_id": "{step}", "key": "rest_s", "value": "9000"},
        {"edit": "set", "step_id": "{step}", "key": "notes", "value": "H4"},
        {"edit": "set", "step_id": "{step}", "key": "kind", "value": "hold"},
        {"edit": "set", "step_id": "{step}", "key": "rest_s", "value": 5},
        {"edit": "set", "step_id": "{step}", "key": "presented.cue", "value": "x" * 5000},
        {"edit": "nudge", "step_id": "{step}", "key": "sound", "by": 1},
        {"edit": "nudge", "step_id": "{step}", "key": "repetitions", "by": float("nan")},
        {"edit": "ladder", "step_id": "{step}", "value": "7 6"},
        {"edit": "ladder", "step_id": "{step}", "value": "1000"},
        {"edit": "rung_out", "step_id": "{step}", "value": 99},
        {"edit": "rung_in", "step_id": "{step}", "value": 3},
        {"edit": "add", "task": "no_such_task", "routine": "ladder"},
        {"edit": "add", "task": "balloon", "routine": "no such routine"},
        {"edit": "place", "step_id": "{step}", "routine": "ladder", "place": 99},
        {"edit": "routine", "step_id": "{step}", "value": "nowhere"},
        {"edit": "calendar", "routine": "ladder", "key": "times", "value": "25:00"},
        {"edit": "calendar", "routine": "ladder", "key": "quiet", "value": "21:00"},
        {"edit": "calendar", "routine": "ladder", "key": "quiet", "value": "0:00 23:59"},
        {"edit": "calendar", "routine": "ladder", "key": "taper", "value": "soon"},
        {"edit": "weekday", "routine": "ladder", "value": 9},
        {"edit": "away", "value": "9999-12-31"},
        {"edit": "away", "value": "yesterday"},
        {"edit": "stage", "routine": "ladder", "place": 40, "key": "weeks", "value": "1"},
        {"edit": "stage", "routine": "ladder", "place": 0, "key": "words", "value": "1"},
        {"edit": "dance"},
        {},
    ],
)
def test_impossible_edits_are_422_in_words_and_change_nothing(signed_in, person, draft, change):
    step = draft.program.steps[3].step_id
    filled = {k: v.format(step=step) if isinstance(v, str) else v for k, v in change.items()}
    answer = edit(signed_in, person, 1, **filled)
    assert answer.status_code == 422
    assert answer.json()["message"]
    assert Draft.objects.get().revision == 1


def activate(signed_in, person, reason=""):
    return signed_in.post(
        url("programs:activate", person.pk),
        {"revision": Draft.objects.get().revision, "written_reason": reason},
    )


def test_activation_twice_is_one_version(signed_in, person, draft):
    for _ in range(2):
        assert activate(signed_in, person).status_code == 302
    version = ProgramVersion.objects.get()
    assert len(version.program.steps) == 4
    assert version.program.steps == draft.program.steps
    assert version.program.routines[0].dose.starts_on == version.active_from


def test_a_note_outside_the_range_blocks_activation(signed_in, person, draft):
    key = f"{draft.program.steps[3].step_id}:4"
    edit(signed_in, person, 1, edit="move", key=key, semitones=5)
    answer = activate(signed_in, person)
    assert answer.status_code == 422
    assert "above the highest comfortable note" in answer.content.decode()
    assert not ProgramVersion.objects.exists()


def screened(clinic, clinician, signed_in, **answers):
    person = enrol(clinic, clinician, name="Bryony Sallow", **answers)
    baseline_of(person, clinician)
    propose(signed_in, person)
    return person


def test_an_unexamined_larynx_needs_a_written_reason(signed_in, clinic, clinician):
    person = screened(clinic, clinician, signed_in, larynx_examined_on=None, hoarse_weeks=5.0)
    refused = activate(signed_in, person)
    assert refused.status_code == 422
    assert "Hoarse for 5 weeks" in refused.content.decode()
    assert activate(signed_in, person, "Examination booked, gentle start agreed").status_code == 302
    assert ProgramVersion.objects.get().written_reason.startswith("Examination booked")


@pytest.mark.parametrize(
    "answers",
    [
        {"red_flags": ["noisy_breathing"]},
        {"red_flags": ["blood"]},
        {"red_flags": ["fresh_haemorrhage"]},
        {"voice_rest_until": clock.now().date() + timedelta(days=3)},
    ],
)
def test_some_findings_admit_no_reason(signed_in, clinic, clinician, answers):
    person = screened(clinic, clinician, signed_in, **answers)
    assert activate(signed_in, person, "I think it is fine").status_code == 422
    assert not ProgramVersion.objects.exists()


def test_rounds_puts_the_stop_sign_first_and_clears_it(signed_in, home, person, clinic, clinician):
    from web.practice.usecases.save_entry import SentEntry, save_entry

    activate_program(enrol(clinic, clinician, name="Ana On Course"), clinician)
    _session, ticket = home
    said = SentEntry(entry_id=str(uuid.uuid4()), kind="stop", step_id=None, value="light_headed")
    save_entry(ticket, said, now=NOW)
    shown = signed_in.get(url("review:rounds")).content.decode()
    assert shown.index("Maren Tidewell") < shown.index("Ana On Course")
    assert "light-headed" in shown
    signed_in.post(url("review:clear_stop", person.pk), CLOSED)
    assert "light-headed" not in signed_in.get(url("review:rounds")).content.decode()


def test_an_empty_caseload_says_what_to_do_first(signed_in):
    assert "You have no clients yet" in signed_in.get(url("review:rounds")).content.decode()


@pytest.mark.parametrize("born", ["2026-01-01", "1890-01-01", "yesterday"])
def test_impossible_birth_dates_are_refused(signed_in, born):
    data = {"name": "X", "born_on": born, "voice_group": "men", "time_zone": "Europe/Dublin"}
    assert signed_in.post(url("clients:enrol"), data).status_code == 422


def test_clinic_invites_by_mail_without_client_data(client, clinic, settings):
    from web.clinic.models import Membership, OutboxMessage, User

    settings.EMAIL_BACKEND = "web.clinic.usecases.outbox.OutboxBackend"
    client.force_login(Membership.objects.get(clinic=clinic).user)
    client.post(url("clinic:invite"), {"email": "new@quay.example", "role": "clinician"})
    message = OutboxMessage.objects.get()
    link = message.body.split()[-1]
    path = link.split("/", 3)[3]
    client.logout()
    data = {"name": "Dov Ellery", "password": "tide-and-timber-5"}
    assert client.post(f"/{path}", data).status_code == 302
    assert User.objects.get(email="new@quay.example").membership.clinic == clinic
    assert client.post(f"/{path}", data).status_code == 410


def test_production_settings_pass_the_deploy_check():
    env = os.environ | {
        "DJANGO_SETTINGS_MODULE": "web.config.settings.prod",
        "REED_SECRET_KEY": secrets.token_urlsafe(50),
    }
    command = [sys.executable, "-m", "django", "check", "--deploy", "--fail-level", "WARNING"]
    done = subprocess.run(command, env=env, capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stderr
