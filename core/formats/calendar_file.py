"""Home sessions to come as an iCalendar file (RFC 5545): in the client's zone, with ids that last."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from icalendar import Event

_PRODUCT = "-//Still Reed//home practice//EN"
TYPE = "text/calendar; charset=utf-8"


@dataclass(frozen=True, slots=True, kw_only=True)
class CalendarEvent:
    """One entry. uid: the same for as long as it is the same home session; starts: local time with its IANA zone,
    or a date for the whole day; sequence: rises whenever it is moved or cancelled."""

    uid: str
    starts: datetime | date
    minutes: int
    summary: str
    description: str
    sequence: int
    cancelled: bool = False


def calendar_file(
    events: Iterable[CalendarEvent], *, name: str, stamp: datetime, remind_min: int | None = None
) -> bytes:
    """The file. name: of the calendar; stamp: when it was made, UTC; remind_min: minutes before each entry at which
    the calendar speaks up, None = never. Zones come with their rules, so that no reader has to know them."""
    from icalendar import Calendar  # a third of a second to load

    calendar = Calendar()
    calendar.add("prodid", _PRODUCT)
    calendar.add("version", "2.0")
    calendar.add("method", "PUBLISH")
    calendar.add("x-wr-calname", name)
    for one in events:
        calendar.add_component(_entry(one, stamp, remind_min))
    calendar.add_missing_timezones()
    made: bytes = calendar.to_ical()
    return made


def _entry(one: CalendarEvent, stamp: datetime, remind_min: int | None) -> "Event":
    from icalendar import Alarm, Event

    entry = Event()
    entry.add("uid", one.uid)
    entry.add("dtstamp", stamp)
    entry.add("sequence", one.sequence)
    entry.add("summary", one.summary)
    entry.add("description", one.description)
    entry.add("dtstart", one.starts)
    timed = isinstance(one.starts, datetime)
    entry.add("duration", timedelta(minutes=max(one.minutes, 5)) if timed else timedelta(days=1))
    entry.add("status", "CANCELLED" if one.cancelled else "CONFIRMED")
    entry.add("transp", "OPAQUE" if timed else "TRANSPARENT")
    if remind_min is not None and timed and not one.cancelled:
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("description", one.summary)
        alarm.add("trigger", timedelta(minutes=-remind_min))
        entry.add_component(alarm)
    return entry
