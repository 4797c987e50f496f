"""Home sessions, levels, climbing from the record, what client pages say."""

import uuid
from datetime import date, timedelta

import pytest
from django.core.management import call_command
from django.urls import reverse

from core.editing.change_rung import on_rung
from lab.demo.save_session import WholeAttempt, save_session
from tests.conftest import NOW, PIN, enrol
from tests.factories.practice import held, practice, ready, session_on
from web.clients.usecases.enrol import record_screening
from web.clients.usecases.link import make_link
from web.clinic.refusal import UsecaseRefused
from web.measuring.tickets import LIFETIME_S, Ticket, TicketRefused
from web.practice.models import HomeSession
from web.practice.sessions.levels import level_references
from web.practice.usecases.clear_stop import clear_stop_signs
from web.practice.usecases.open_session import open_session
from web.programs.models import Draft
from web.programs.usecases.drafts import edit_draft
from web.programs.usecases.versions import activate
from web.review.models import CaseloadRow
from web.review.results.history import sittings_of

pytestmark = pytest.mark.django_db


def test_a_line_of_rounds_becomes_and_ceases_to_be_ready_by_the_calendar_alone(person, version):
    practice(person, version, 11, 12, 13, 14)
    assert ready(person)
    # half of the practice of the 7 days before must be kept: on 18 June 8 of the 14 of 11–17 June
    # are, on 19 June 6 of the 14 of 12–18 June
    assert ready(person, date(2026, 6, 18))
    assert not ready(person, date(2026, 6, 19))


def test_the_last_home_session_is_remembered_however_long_ago(person, version):
    session_on(person, version, 1)
    CaseloadRow.objects.all().delete()
    HomeSession.objects.update(practice_day=date(2026, 1, 3))
    call_command("rebuild_rows")
    row = CaseloadRow.objects.get(client=person)
    assert row.last_session == date(2026, 1, 3)
    assert row.recent == []


def test_rebuilding_changes_nothing_that_was_right(person, version):
    practice(person, version, 11, 12, 13, 14)
    ready(person)
    before = CaseloadRow.objects.values().get(client=person)
    call_command("rebuild_rows")
    assert CaseloadRow.objects.values().get(client=person) == before
    CaseloadRow.objects.update(stretches=[], recent=[], last_session=None, has_baseline=False)
    call_command("rebuild_rows")
    assert CaseloadRow.objects.values().get(client=person) == before


def test_good_sessions_over_three_days_make_a_client_ready_to_climb(person, version):
    practice(person, version, 11, 12)
    assert not ready(person)
    practice(person, version, 13, 14)
    assert ready(person)


def test_five_good_sessions_are_not_enough_when_half_the_practice_was_missed(person, version):
    for day in (10, 11, 12, 13, 14):
        session_on(person, version, day)
    assert not ready(person)


@pytest.mark.parametrize(
    "worse",
    [
        {"seconds": 6.0},
        {"sd": 0.7},
        {"trail_off_db": -5.0},
        {"strain": None},
    ],
)
def test_a_condition_not_met_in_two_sessions_means_not_ready(person, version, worse):
    practice(person, version, 10, 11, 12, 13)
    for _ in range(2):
        session_on(person, version, 14, **worse)
    assert not ready(person)


def test_pressed_holds_do_not_count(person, version):
    session_on(person, version, 9, level_db=-30.0)
    for day in (10, 11, 12, 13, 14):
        for _ in range(2):
            session_on(person, version, day, level_db=-26.0)
    assert not ready(person)


def test_levels_compare_only_within_one_device(person, version):
    session_on(person, version, 10, device="tablet", level_db=-30.0)
    session_on(person, version, 11, device="phone", level_db=-44.0)
    session_on(person, version, 12, device="phone", level_db=-43.0)
    session_on(person, version, 13, device="phone", level_db=-41.0)
    assert level_references(person.pk) == {"tablet": -30.0, "phone": -44.0}
    ready(person)
    power = version.program.steps[3].step_id
    over = [
        done.figures["over_db"]
        for sitting in sittings_of(person, since=date(2026, 6, 1))
        for done in sitting.steps
        if done.step_id == power
    ]
    # 14 dB apart on two devices say nothing; 3 dB louder on one is pressed
    assert over == [0.0, 0.0, 1.0, 3.0]


def test_only_sessions_at_the_current_rung_count(person, version, clinician):
    for day in (8, 9, 10, 11, 12):
        session_on(person, version, day, seconds=9.0)
    draft = edit_draft(
        person,
        revision=1,
        change=lambda p: on_rung(p, p.main_step.step_id, 1),
        by=clinician,
        now=NOW,
    )
    climbed = activate(
        person,
        revision=draft.revision,
        written_reason="",
        by=clinician,
        now=NOW,
        active_from=NOW.date(),
    )
    assert climbed.number == 2
    assert not ready(person)
    row = CaseloadRow.objects.get(client=person)
    assert row.rung_s == 7.0
    step_ids = {s.step_id for s in version.program.steps}
    assert {s.step_id for s in climbed.program.steps} == step_ids


def test_an_open_stop_sign_blocks_until_the_clinician_clears_it(person, version, clinician):
    practice(person, version, 10, 11, 12, 13)
    last = session_on(person, version, 14)
    HomeSession.objects.filter(pk=last.pk).update(stop_sign="pain", outcome="stopped")
    assert not ready(person)
    assert clear_stop_signs(person, by=clinician, now=NOW) == 1
    # only home sessions after it count
    assert not ready(person)
    practice(person, version, 15, 16)
    assert not ready(person, date(2026, 6, 18))
    practice(person, version, 17)
    assert ready(person, date(2026, 6, 18))
    assert HomeSession.objects.get(stop_sign="pain").stop_cleared_by == clinician


def test_a_home_session_is_opened_once_for_its_id(access, version):
    session_id = uuid.uuid4()
    one, _ = open_session(access, session_id=session_id, now=NOW)
    again, ticket = open_session(access, session_id=session_id, now=NOW + timedelta(minutes=3))
    assert one.pk == again.pk == uuid.UUID(ticket.sitting)
    assert HomeSession.objects.count() == 1


def test_a_practice_day_is_the_local_date_at_the_start(access, version):
    late = NOW.replace(hour=23, minute=30)  # half past midnight in Dublin
    session, _ = open_session(access, session_id=uuid.uuid4(), now=late)
    assert session.practice_day == NOW.date() + timedelta(days=1)


def test_no_program_and_voice_rest_open_no_session(clinic, clinician, access, version, person):
    stranger = enrol(clinic, clinician, name="No Program")
    link, _pin = make_link(stranger, by=clinician, now=NOW)
    with pytest.raises(UsecaseRefused, match="no program yet"):
        open_session(link, session_id=uuid.uuid4(), now=NOW)
    record_screening(
        person,
        by=clinician,
        now=NOW + timedelta(minutes=1),
        red_flags=[],
        voice="troubled",
        airway="larynx",
        asked_on=NOW.date(),
        larynx_examined_on=NOW.date(),
        voice_rest_until=NOW.date() + timedelta(days=5),
    )
    with pytest.raises(UsecaseRefused, match="rests for now"):
        open_session(access, session_id=uuid.uuid4(), now=NOW)


def test_another_clients_session_id_opens_nothing(home, clinic, clinician):
    session, _ticket = home
    from tests.conftest import activate_program

    stranger = enrol(clinic, clinician, name="Osric Fendt")
    activate_program(stranger, clinician)
    link, _pin = make_link(stranger, by=clinician, now=NOW)
    with pytest.raises(UsecaseRefused):
        open_session(link, session_id=session.pk, now=NOW)


def test_tickets_read_back_and_nothing_else_does(monkeypatch):
    ids = {name: str(uuid.uuid4()) for name in ("clinic", "client", "holder", "sitting")}
    ticket = Ticket(purpose="practice", issued_at=NOW.isoformat(), **ids)
    assert Ticket.read(ticket.signed()) == ticket
    for forged in ("", "x", ticket.signed()[:-2], ticket.signed() + "A"):
        with pytest.raises(TicketRefused):
            Ticket.read(forged)
    signed = ticket.signed()
    import time

    later = time.time() + LIFETIME_S + 60
    monkeypatch.setattr("django.core.signing.time.time", lambda: later)
    with pytest.raises(TicketRefused):
        Ticket.read(signed)


@pytest.fixture
def at_home(client, access, version):
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    return client


def page(browser, name, access, *more):
    route = name if ":" in name else f"practice:{name}"
    return browser.get(reverse(route, args=[access.pk, *more])).content.decode()


def test_today_says_what_how_long_and_why_and_shows_the_stop_signs(at_home, access):
    shown = page(at_home, "today", access)
    assert "Practice 1 of 2, about 9 minutes." in shown
    assert "hold for 6.5 seconds, 5 notes" in shown
    assert "Stop at once" in shown
    assert "000 555 0100" in shown
    assert "does not replace" in shown
    assert "not watched around the clock" in shown


def test_when_all_is_done_nobody_is_asked_for_more(at_home, access, person, version):
    for _ in range(2):
        session = session_on(person, version, 14)
        HomeSession.objects.filter(pk=session.pk).update(
            practice_day=NOW.date() + timedelta(days=1)
        )
    shown = page(at_home, "today", access)
    assert "All done for today" in shown
    assert "Do not double up" in shown


def test_a_session_broken_off_does_not_hide_the_reeds_before_it(at_home, access, person, version):
    session_on(person, version, 12)
    warm_up = version.program.steps[0]
    save_session(
        person,
        version,
        access=None,
        started_at=NOW,
        attempts=[WholeAttempt(step=warm_up, place=0, repetition=1, figures=held(5.0), after_s=0)],
        strain=None,
        input_name="tablet",
        measured_by="test",
    )
    shown = page(at_home, "review:own_reeds", access)
    assert "grow with your first home session" not in shown
    assert "<svg" in shown


def test_my_reeds_are_kind(at_home, access, person, version):
    assert "grow with your first home session" in page(at_home, "review:own_reeds", access)
    session_on(person, version, 14, seconds=30.0)
    shown = page(at_home, "review:own_reeds", access)
    assert "30.0 s" in shown  # the number is what was held; only the bar is cut short
    assert "17.6" not in shown


def test_finished_of_somebody_else_is_not_there(at_home, access, clinic, clinician):
    from tests.conftest import activate_program

    stranger = enrol(clinic, clinician, name="Osric Fendt")
    other = session_on(stranger, activate_program(stranger, clinician), 14)
    address = reverse("practice:finished", args=[access.pk, other.pk])
    assert at_home.get(address).status_code == 404


def test_the_client_page_of_the_clinician_shows_how_each_attempt_was_taken(
    signed_in, person, version
):
    session_on(person, version, 14)
    ready(person)
    shown = signed_in.get(reverse("review:client", args=[person.pk])).content.decode()
    assert "measured live" in shown
    assert shown.count("7.0 s ✓") == 10
    assert "1 of 5 measurable home sessions at this rung" in shown
    assert "throat strain 2/10" in shown


def test_a_refused_activation_leaves_the_draft_as_it_was(person, version, clinician):
    before = Draft.objects.get(client=person)
    record_screening(
        person,
        by=clinician,
        now=NOW + timedelta(seconds=1),
        voice="troubled",
        airway="larynx",
        asked_on=NOW.date(),
        larynx_examined_on=None,
        trouble_began_on=NOW.date() - timedelta(days=10),
        cold=False,
        usual_voice_since=NOW.date() - timedelta(days=3),
    )
    with pytest.raises(UsecaseRefused, match="before the present trouble began"):
        activate(
            person,
            revision=before.revision,
            written_reason=" ",
            by=clinician,
            now=NOW,
            active_from=NOW.date(),
        )
    after = Draft.objects.get(client=person)
    assert (after.revision, after.content) == (before.revision, before.content)
