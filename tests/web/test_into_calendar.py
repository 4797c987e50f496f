"""The calendar file, opened by a second library: right across daylight saving, the same ids, moved, cancelled."""

import uuid
from dataclasses import replace
from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo

import icalendar
import pytest
import recurring_ical_events
from django.urls import reverse

from core.formats.program_file import data_of
from tests.conftest import NOW, PIN, red_flag
from web.clients.models import Visit
from web.clients.usecases.link import make_link
from web.papers.models import Issued
from web.programs.models import ProgramVersion

DUBLIN = ZoneInfo("Europe/Dublin")


@pytest.fixture
def saved(signed_in, person, version):
    def save(**asked):
        answer = signed_in.get(reverse("papers:calendar", args=[person.pk]), asked)
        assert answer.status_code == 200
        assert answer["Content-Type"].startswith("text/calendar")
        return icalendar.Calendar.from_ical(answer.content)

    return save


def entries(calendar):
    return {str(one["UID"]): one for one in calendar.walk("VEVENT")}


def new_version(person, by, *, active_from, **dose):
    """The program in force with another dose, from that day on."""
    last = ProgramVersion.objects.filter(client=person).order_by("-number").first()
    (routine,) = last.program.routines
    routine = replace(routine, dose=replace(routine.dose, **dose))
    return ProgramVersion.objects.create(
        clinic_id=person.clinic_id,
        client=person,
        number=last.number + 1,
        content=data_of(replace(last.program, routines=(routine,))),
        activated_at=NOW,
        active_from=active_from,
        activated_by=by,
    )


def test_two_home_sessions_a_day_at_local_times(saved):
    """2026-06-15 is the tests' day; Dublin is an hour ahead of UTC in June."""
    found = recurring_ical_events.of(saved()).at(date(2026, 6, 16))
    starts = sorted(one["DTSTART"].dt for one in found)
    assert [one.astimezone(DUBLIN).strftime("%H:%M") for one in starts] == ["09:00", "18:00"]
    assert starts[0].astimezone(UTC).hour == 8


def test_the_same_clock_time_after_the_clocks_change(saved, person, clinician):
    """In Dublin the clocks go back on 25 October 2026: 8:30 is 7:30 UTC before and 8:30 UTC after."""
    start = date(2026, 9, 14)
    new_version(
        person,
        clinician,
        active_from=start,
        starts_on=start,
        sessions_a_day=1,
        times=(time(8, 30),),
        weeks=12,
    )
    calendar = recurring_ical_events.of(saved())
    for day, utc in ((date(2026, 10, 24), (7, 30)), (date(2026, 10, 26), (8, 30))):
        (one,) = calendar.at(day)
        at = one["DTSTART"].dt.astimezone(UTC)
        assert (at.hour, at.minute) == utc
        assert one["DTSTART"].dt.astimezone(DUBLIN).time() == time(8, 30)


def test_another_zone_is_told_in_its_own(saved, person):
    type(person).objects.filter(pk=person.pk).update(time_zone="Pacific/Auckland")
    found = recurring_ical_events.of(saved()).at(date(2026, 6, 17))
    local = [one["DTSTART"].dt.astimezone(ZoneInfo("Pacific/Auckland")) for one in found]
    assert sorted(f"{at:%H:%M}" for at in local) == ["09:00", "18:00"]


def test_saved_again_it_is_the_same_file(saved, signed_in, person):
    first = signed_in.get(reverse("papers:calendar", args=[person.pk])).content
    assert signed_in.get(reverse("papers:calendar", args=[person.pk])).content == first
    assert Issued.objects.filter(kind="calendar").count() == 1


def test_a_new_version_moves_entries_and_cancels_what_fell_away(saved, person, clinician):
    before = entries(saved())
    start = date(2026, 6, 22)
    new_version(
        person,
        clinician,
        active_from=start,
        starts_on=start,
        sessions_a_day=1,
        times=(time(7, 30),),
    )
    after = entries(saved())
    day = [u for u, one in before.items() if one["DTSTART"].dt.date() == date(2026, 6, 23)]
    kept = [uid for uid in day if after[uid]["STATUS"] == "CONFIRMED"]
    gone = [uid for uid in day if after[uid]["STATUS"] == "CANCELLED"]
    assert len(kept) == len(gone) == 1
    (uid,) = kept
    assert after[uid]["DTSTART"].dt.astimezone(DUBLIN).time() == time(7, 30)
    assert after[uid]["SEQUENCE"] > before[uid]["SEQUENCE"]
    assert after[gone[0]]["SEQUENCE"] > before[gone[0]]["SEQUENCE"]
    assert not entries(saved()).keys() - after.keys()


def test_days_away_are_cancelled_and_come_back(saved, person, clinician, version):
    from core.program.dosing import Away

    day = date(2026, 6, 20)
    saved()
    start = version.active_from
    new_version(
        person, clinician, active_from=start, starts_on=start, away=(Away(first=day, last=day),)
    )
    told = [one for one in entries(saved()).values() if one["DTSTART"].dt.date() == day]
    assert {str(one["STATUS"]) for one in told} == {"CANCELLED"}
    new_version(person, clinician, active_from=start, starts_on=start, away=())
    told = [one for one in entries(saved()).values() if one["DTSTART"].dt.date() == day]
    assert {str(one["STATUS"]) for one in told} == {"CONFIRMED"}


def test_a_reminder_only_where_it_is_wanted(saved):
    assert not saved().walk("VALARM")
    alarms = saved(remind="10").walk("VALARM")
    assert len(alarms) > 20
    assert alarms[0]["TRIGGER"].dt == timedelta(minutes=-10)
    assert not saved(remind="7").walk("VALARM")


def test_the_next_visit_is_a_whole_day(saved, person, clinician):
    Visit.objects.create(
        clinic_id=person.clinic_id,
        client=person,
        day=NOW.date(),
        next_on=date(2026, 6, 29),
        by=clinician,
        at=NOW,
    )
    (visit,) = [
        one for one in entries(saved()).values() if not isinstance(one["DTSTART"].dt, datetime)
    ]
    assert visit["DTSTART"].dt == date(2026, 6, 29)


def test_no_name_and_no_link_stand_in_it(saved, person, access, signed_in):
    text = signed_in.get(reverse("papers:calendar", args=[person.pk])).content.decode()
    assert person.name not in text
    assert str(access.pk) not in text
    assert "does not replace" in text.replace("\r\n ", "")


def test_the_client_takes_it_from_today(client, person, version, access):
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    assert (
        "Save my practice times"
        in client.get(reverse("practice:today", args=[access.pk])).content.decode()
    )
    answer = client.get(reverse("papers:own_calendar", args=[access.pk]), {"remind": "30"})
    assert answer.status_code == 200
    assert icalendar.Calendar.from_ical(answer.content).walk("VALARM")


def test_while_the_program_rests_nothing_is_put_into_a_calendar(
    signed_in, client, person, clinician, version
):
    red_flag(person, clinician)
    answer = signed_in.get(reverse("papers:calendar", args=[person.pk]), follow=True)
    assert "rests" in answer.content.decode()
    access = make_link(person, by=clinician, now=NOW, pin=PIN)[0]
    client.post(reverse("practice:enter", args=[access.pk]), {"pin": PIN})
    own = client.get(reverse("papers:own_calendar", args=[access.pk]))
    assert own.status_code == 409
    assert own["Content-Type"].startswith("text/html")
    assert "Your program rests for now" in own.content.decode()
    assert "000 555 0100" in own.content.decode()
    assert not Issued.objects.exists()


def test_what_rests_after_a_stop_sign_is_cancelled(saved, home):
    from web.practice.usecases.save_entry import SentEntry, save_entry

    before = entries(saved())
    _session, ticket = home
    sign = SentEntry(entry_id=str(uuid.uuid4()), kind="stop", step_id=None, value="voice_worse")
    save_entry(ticket, sign, now=NOW)
    after = entries(saved())
    assert before.keys() <= after.keys() | {
        u for u, e in before.items() if e["DTSTART"].dt.date() < NOW.date()
    }
    assert {str(one["STATUS"]) for one in after.values()} == {"CANCELLED"}
