"""What a client lives with: lines for clinician and client, pages, days of events."""

from datetime import date, time, timedelta

import pytest

from core.catalogue.touches import Touch
from core.errors import PlanError
from core.safety.circumstances import (
    Circumstance,
    Event,
    Living,
    Page,
    bearing_of,
    lines_for_client,
    lines_for_clinician,
    near_events,
    pages_for,
)

TODAY = date(2026, 6, 15)


def on(days, name="Regatta"):
    return Event(on=TODAY + timedelta(days=days), name=name)


def clinician(living, *, steps=3):
    found = lines_for_clinician(living, today=TODAY, steps=steps)
    return {one.code: dict(one.params) for one in found}


def test_every_circumstance_says_something_to_the_clinician():
    found = clinician(Living(circumstances=frozenset(Circumstance)))
    assert set(found) == {f"bears_{one.value}" for one in Circumstance}


def test_many_steps_are_many_for_a_weak_memory_only():
    weak = Living(circumstances=frozenset({Circumstance.MEMORY}))
    assert "many_steps" not in clinician(weak, steps=3)
    assert clinician(weak, steps=4)["many_steps"] == {"steps": 4}
    assert "many_steps" not in clinician(Living(), steps=9)


def test_medication_and_much_talking_are_said_with_their_numbers():
    found = clinician(Living(medication_times=(time(8, 30), time(20)), talking_hours=4.0))
    assert found["medication_at"] == {"times": ("08:30", "20:00")}
    assert found["talks_much"] == {"hours": 4.0}
    assert "talks_much" not in clinician(Living(talking_hours=3.9))
    assert clinician(Living()) == {}


def test_events_of_the_coming_week_are_near():
    events = [on(8), on(7, "Choir"), on(0, "Fair"), on(-1)]
    assert near_events(events, TODAY) == (on(0, "Fair"), on(7, "Choir"))
    found = clinician(Living(events=tuple(events)))
    assert found["event_today"] == {"event": "Fair"}
    assert found["event_in"] == {"event": "Choir", "days": 7}


def test_a_client_reads_a_line_of_the_day_of_an_event_and_of_how_they_live():
    living = Living(
        circumstances=frozenset({Circumstance.REFLUX, Circumstance.DRYING_MEDICATION}),
        events=(on(0, "Fair"), on(1, "Choir")),
    )
    codes = [one.code for one in lines_for_client(living, today=TODAY)]
    assert codes == ["drying_medication", "reflux", "on_the_day"]
    assert lines_for_client(living, today=TODAY)[-1].params["event"] == "Fair"


def test_no_line_asks_to_sip_where_that_is_not_allowed():
    living = Living(circumstances=frozenset({Circumstance.DRYING_MEDICATION}))
    assert not lines_for_client(living, today=TODAY, allowed=frozenset(Touch) - {Touch.SIP})
    assert lines_for_client(living, today=TODAY, allowed=frozenset({Touch.SIP}))
    nobody_to_tell = Living(circumstances=frozenset({Circumstance.REMOTE_VISITS}))
    lines = lines_for_client(nobody_to_tell, today=TODAY)
    assert all(str(line) for line in lines)


def test_pages_change_for_ears_eyes_and_hands():
    assert pages_for([Circumstance.HARD_OF_HEARING]) == (Page.LOUD,)
    assert set(pages_for(Circumstance)) == set(Page)
    assert pages_for([Circumstance.REFLUX]) == ()


def test_hours_of_talking_lie_in_a_day():
    for odd in (-0.1, 24.1, float("nan")):
        with pytest.raises(PlanError):
            Living(talking_hours=odd)


@pytest.mark.parametrize(
    "change",
    [{"asked": ""}, {"clinician": None}, {"touches": ["the moon"]}, {"page": "pink"}, {"x": 1}],
)
def test_a_broken_entry_is_named(change):
    entry = {"asked": "a", "clinician": "b", "client": "", "touches": ["sip"], "page": "large"}
    bearing = bearing_of("reflux", entry)
    assert (bearing.asked, bearing.clinician, bearing.client) == ("a", "b", "")
    assert (bearing.touches, bearing.page) == ({Touch.SIP}, Page.LARGE)
    with pytest.raises(PlanError) as broken:
        bearing_of("reflux", entry | change)
    assert (broken.value.code, broken.value.params["key"]) == ("rule_broken", "reflux")
    assert next(iter(change)) in broken.value.params["reason"]


def test_a_line_for_the_client_is_the_one_of_the_table():
    living = Living(circumstances=frozenset({Circumstance.REFLUX}))
    (line,) = lines_for_client(living, today=TODAY)
    assert str(line) == "Leave two hours between a meal and practice."
