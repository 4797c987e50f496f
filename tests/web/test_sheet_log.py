"""A paper sheet typed back: kept once, asked about at the cell, a stop sign at once, the same from a file."""

import json
from datetime import timedelta

import pytest
from django.core import mail
from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse

from core.sheets.rows import SheetColumn, rows_of
from core.sheets.sitting import cell_name
from tests.conftest import CLOSED, NOW, activate_program, enrol
from web.clinic.models import OutboxMessage
from web.papers.models import SheetDraft
from web.practice.models import Attempt, Entry, HomeSession, PaperLog
from web.review.models import CaseloadRow

DAY = NOW.date() - timedelta(days=2)


def key(day=DAY, turn=1):
    return SheetColumn(day=day, routine="ladder", turn=turn, asked=True).key


def cell(row, day=DAY, turn=1):
    return cell_name(row, SheetColumn(day=day, routine="ladder", turn=turn, asked=True))


@pytest.fixture
def rows(version):
    return rows_of(version.program.routine("ladder"))


@pytest.fixture
def address(person, version):
    return reverse("papers:sheet_log", args=[person.pk])


def whole(rows, day=DAY, turn=1, seconds="7 6.5"):
    """A home session with everything done and strain 2."""
    typed = {cell(row, day, turn): seconds if row.note else "2" for row in rows}
    return typed | {f"strain|{key(day, turn)}": "2"}


def test_a_home_session_from_paper_is_kept_and_counts_as_paper(signed_in, person, address, rows):
    answer = signed_in.post(address, whole(rows))
    assert answer.status_code == 302
    session = HomeSession.objects.get(client=person)
    assert (session.practice_day, session.outcome, session.clock) == (DAY, "kept", "paper")
    attempts = Attempt.objects.filter(home_session=session)
    assert attempts.count() == 16
    assert set(attempts.values_list("taken", "state", "clock")) == {("paper", "timed", "paper")}
    held = attempts.filter(note="C4").order_by("repetition")
    assert [(a.seconds, a.target_s, a.repetition) for a in held] == [(7.0, 6.5, 1), (6.5, 6.5, 2)]
    strain = Entry.objects.filter(home_session=session, kind="strain")
    assert {e.value for e in strain} == {2}
    assert strain.count() == 4  # warm-up, two glides, the notes
    log = PaperLog.objects.get(client=person)
    assert (log.how, log.home_sessions, log.attempts) == ("sheet", 1, 16)


def test_the_same_sheet_twice_is_kept_once(signed_in, person, address, rows):
    for _time in range(2):
        signed_in.post(address, whole(rows))
    assert HomeSession.objects.filter(client=person).count() == 1
    assert Attempt.objects.filter(client=person).count() == 16
    assert PaperLog.objects.filter(client=person).count() == 1


def test_what_is_kept_stays_when_it_is_typed_otherwise(signed_in, person, address, rows):
    signed_in.post(address, whole(rows))
    answer = signed_in.post(address, whole(rows, seconds="9 6.5"), follow=True)
    assert b"Kept otherwise already" in answer.content
    assert not Attempt.objects.filter(client=person, seconds=9.0).exists()


def test_nothing_is_saved_while_a_cell_cannot_be(signed_in, person, address, rows):
    bad = whole(rows) | {cell(rows[3]): "650"}
    answer = signed_in.post(address, bad)
    assert answer.status_code == 422
    assert not HomeSession.objects.filter(client=person).exists()
    assert b'value="650"' in answer.content
    signed_in.post(address, bad | {"knowingly": "1"})
    assert Attempt.objects.filter(client=person).count() == 14


def test_a_stop_sign_counts_while_the_rest_is_asked_about(signed_in, person, address, rows):
    bad = whole(rows) | {cell(rows[3]): "650", f"sign|{key()}": "light_headed"}
    assert signed_in.post(address, bad).status_code == 422
    session = HomeSession.objects.get(client=person)
    assert (session.stop_sign, session.outcome) == ("light_headed", "stopped")
    assert not Attempt.objects.filter(client=person).exists()
    assert CaseloadRow.objects.get(client=person).stop_sign == "light_headed"


def test_a_stop_sign_is_mailed_once_and_rests_the_program(signed_in, person, address, version):
    stop = reverse("papers:sheet_stop", args=[person.pk])
    for _time in range(2):
        answer = signed_in.post(stop, {"column": key(), "sign": "breathing"})
        assert answer.status_code == 200
    mails = OutboxMessage.objects.filter(subject__contains="stop sign was reported")
    assert mails.count() == 1
    assert person.name not in mails.get().body
    assert mail.outbox == []


@pytest.mark.parametrize(
    "sent",
    [
        {"column": key(), "sign": "tired"},
        {"column": key(), "sign": ""},
        {"column": "2026-99-01.ladder.1", "sign": "pain"},
        {"column": key().replace("ladder", "waltz"), "sign": "pain"},
        {"column": key(NOW.date() + timedelta(days=3)), "sign": "pain"},
    ],
)
def test_a_stop_sign_of_no_day_is_refused_in_words(signed_in, person, version, sent):
    answer = signed_in.post(reverse("papers:sheet_stop", args=[person.pk]), sent)
    assert answer.status_code in (409, 422)
    assert answer.json()["error"]
    assert not HomeSession.objects.filter(client=person).exists()


def test_a_sign_after_an_earlier_one_was_cleared_is_open_again(signed_in, person, version):
    stop = reverse("papers:sheet_stop", args=[person.pk])
    signed_in.post(stop, {"column": key(), "sign": "pain"})
    signed_in.post(reverse("review:clear_stop", args=[person.pk]), CLOSED)
    assert HomeSession.objects.get(client=person).stop_cleared_at
    signed_in.post(stop, {"column": key(), "sign": "breathing"})
    session = HomeSession.objects.get(client=person)
    assert (session.stop_sign, session.stop_cleared_at) == ("breathing", None)


def test_what_is_typed_stays_while_it_is_typed(signed_in, person, address, rows):
    check = reverse("papers:sheet_check", args=[person.pk])
    said = signed_in.post(check, {cell(rows[3]): "650", cell(rows[4]): "7"}).json()
    assert [one["cell"] for one in said["queries"]] == [cell(rows[3])]
    assert not HomeSession.objects.filter(client=person).exists()
    page = signed_in.get(address).content.decode()
    assert 'value="650"' in page
    signed_in.post(address, {cell(rows[4]): "7"})
    assert not SheetDraft.objects.exists()


def test_days_to_come_are_refused(signed_in, person, address, rows):
    ahead = NOW.date() + timedelta(days=2)
    first = f"{address}?first={DAY.isoformat()}"
    answer = signed_in.post(first, whole(rows, day=ahead))
    assert answer.status_code == 409
    assert not HomeSession.objects.filter(client=person).exists()


def test_a_day_the_device_kept_is_asked_about(signed_in, person, rows, address, home):
    session, _ticket = home
    HomeSession.objects.filter(pk=session.pk).update(outcome="kept", ended_at=NOW)
    day = session.practice_day
    sheet = f"{address}?first={(day - timedelta(days=3)).isoformat()}"
    fine = signed_in.post(sheet, whole(rows, day=day))
    assert fine.status_code == 302  # two are asked for a day: one by the device, one on paper
    asked = signed_in.post(sheet, whole(rows, day=day, turn=2))
    assert asked.status_code == 422
    assert "device kept 1" in asked.content.decode()


def test_a_sheet_of_an_older_version_counts_as_that_version(
    signed_in, person, clinician, version, rows
):
    newer = activate_program(person, clinician, now=NOW)
    address = reverse("papers:sheet_log", args=[person.pk])
    answer = signed_in.get(f"{address}?version={version.number}")
    assert "another is in force since" in answer.content.decode()
    signed_in.post(f"{address}?version={version.number}", whole(rows))
    assert HomeSession.objects.get(client=person).version_id == version.pk != newer.pk


def test_another_clinic_has_no_such_sheet(client, other_clinic, address, rows):
    client.force_login(_lead(other_clinic))
    assert client.get(address).status_code == 404
    assert client.post(address, whole(rows)).status_code == 404


def _lead(clinic):
    from web.clinic.models import Membership

    return Membership.objects.get(clinic=clinic).user


def test_before_the_first_program_the_page_says_what_to_do(signed_in, clinic, clinician):
    other = enrol(clinic, clinician, name="Corin Vell")
    page = signed_in.get(reverse("papers:sheet_log", args=[other.pk]))
    assert "Open the Bench" in page.content.decode()


def upload(text):
    data = text if isinstance(text, bytes) else text.encode()
    return {"file": SimpleUploadedFile("log.csv", data, content_type="text/csv")}


HEAD = "date,routine,session,step,note,attempt,seconds,count,strain,stop_sign,short,hoarser\n"


def test_a_file_is_answered_row_by_row_and_kept_knowingly(signed_in, person, version):
    address = reverse("papers:sheet_file", args=[person.pk])
    good = f"{DAY},ladder,1,4,C4,1,6.5,,2,,,\n"
    answer = signed_in.post(address, upload(HEAD + good + good.replace("C4", "A5")))
    page = answer.content.decode()
    assert answer.status_code == 422
    assert "1 of 2 rows fit" in page
    assert "A5" in page
    assert not HomeSession.objects.exists()
    signed_in.post(address, {"knowingly": "1"})
    assert Attempt.objects.get(client=person).seconds == 6.5
    assert PaperLog.objects.get(client=person).how == "csv"
    assert not SheetDraft.objects.exists()


@pytest.mark.parametrize("data", [b"", b"\x00\x01\x02", b"name\nx\n", json.dumps({}).encode()])
def test_a_file_that_is_no_log_is_refused_in_words(signed_in, person, version, data):
    answer = signed_in.post(reverse("papers:sheet_file", args=[person.pk]), upload(data))
    assert answer.status_code == 422
    assert b"Nothing was logged" in answer.content
    assert not HomeSession.objects.exists()


def test_the_sample_file_has_every_try(signed_in, person, version):
    text = signed_in.get(reverse("papers:sheet_sample", args=[person.pk])).content.decode()
    assert len(text.splitlines()) == 17


def test_a_long_program_twice_a_day_has_more_cells_than_a_form_usually_may(
    signed_in, person, address, rows
):
    """40 lines, 28 home sessions and their boxes: nothing of it is cut off."""
    typed = whole(rows) | {f"cell|none.{n}|{key()}": "1" for n in range(1600)}
    assert signed_in.post(address, typed).status_code == 302
    assert Attempt.objects.filter(client=person).count() == 16


def test_without_a_version_the_sheet_is_of_the_one_in_force_on_its_first_day(
    signed_in, person, clinician, version
):
    activate_program(person, clinician, since_days=2)
    address = reverse("papers:sheet_log", args=[person.pk])
    page = signed_in.get(f"{address}?first={version.active_from.isoformat()}")
    assert page.context["page"].version == version


def test_an_odd_address_opens_the_last_two_weeks(signed_in, person, version):
    address = reverse("papers:sheet_log", args=[person.pk])
    for odd in (
        "?first=someday",
        "?version=x&routine=waltz",
        "?first=9999-12-31",
        "?first=0001-01-01",
    ):
        assert signed_in.get(f"{address}{odd}").status_code == 200, odd


def test_strain_of_a_short_version_is_not_lost(signed_in, person, address, rows):
    signed_in.post(address, {f"strain|{key()}": "6", f"short|{key()}": "1"})
    session = HomeSession.objects.get(client=person)
    assert session.outcome == "short"
    said = Entry.objects.filter(home_session=session, kind="strain")
    assert {one.value for one in said} == {6}


def test_goals_met_on_paper_are_ready_by_the_clock_and_do_not_climb(
    signed_in, person, address, rows
):
    """Five home sessions and more over the last days, every note at its 6.5 s: what was heard would climb."""
    typed = {}
    for back in range(1, 7):
        for turn in (1, 2):
            typed |= whole(rows, day=NOW.date() - timedelta(days=back), turn=turn)
    assert signed_in.post(address, typed).status_code == 302
    assert HomeSession.objects.filter(client=person, outcome="kept").count() == 12
    page = signed_in.get(reverse("review:client", args=[person.pk])).content.decode()
    assert "ready by the clock; it climbs once it is heard" in page
    assert "Climb one rung" not in page


def test_a_file_of_days_the_device_kept_is_asked_about(signed_in, person, version, home):
    """Two are asked for a day and the device kept two: a third one from a file may be one of them."""
    session, _ticket = home
    HomeSession.objects.filter(pk=session.pk).update(outcome="kept", ended_at=NOW)
    day = session.practice_day
    address = reverse("papers:sheet_file", args=[person.pk])
    once = f"{day},ladder,1,4,C4,1,6.5,,2,,,\n"
    assert signed_in.post(address, upload(HEAD + once)).status_code == 302
    twice = once.replace(",1,4,C4", ",2,4,C4")
    asked = signed_in.post(address, upload(HEAD + twice))
    assert asked.status_code == 422
    assert "the device kept 1 of that day" in asked.content.decode()
    assert Attempt.objects.filter(client=person).count() == 1
    signed_in.post(address, {"knowingly": "1"})
    assert Attempt.objects.filter(client=person).count() == 2


def test_a_sheet_typed_in_two_parts_is_not_short_for_it(signed_in, person, address, rows):
    """The first part is under 80 %: logged again with the rest, as the page shows it, it is kept whole."""
    signed_in.post(address, {cell(rows[3]): "7 6.5"})
    session = HomeSession.objects.get(client=person)
    assert session.outcome == "short"
    page = signed_in.get(f"{address}?first={DAY.isoformat()}").context["page"]
    shown = {
        one.name: one.value
        for week in page.weeks
        for line in (*week.lines, *week.boxes)
        for one in line.cells
        if one.value
    }
    assert f"short|{key()}" not in shown
    signed_in.post(f"{address}?first={DAY.isoformat()}", shown | whole(rows))
    session.refresh_from_db()
    assert session.outcome == "kept"


@pytest.mark.parametrize(("days", "status"), [(398, 302), (399, 409)])
def test_how_long_ago_paper_is_taken(signed_in, person, version, rows, days, status):
    """The tests' day is the day after NOW."""
    day = NOW.date() + timedelta(days=1 - days)
    sheet = f"{reverse('papers:sheet_log', args=[person.pk])}?first={day.isoformat()}"
    assert signed_in.post(sheet, whole(rows, day=day)).status_code == status
