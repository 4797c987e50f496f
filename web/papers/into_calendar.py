"""A client's home sessions to come for a calendar: the same ones keep their ids, what fell away is cancelled."""

import json
import uuid
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any

from django.utils.translation import gettext as _

from core.dose.calendar import planned, zone_of
from core.dose.minutes import length_of
from core.errors import PlanError
from core.formats.calendar_file import CalendarEvent, calendar_file
from web.clients.models import Client, Visit
from web.clinic.clock import local_date
from web.clinic.models import User
from web.clinic.usecases import UsecaseRefused
from web.design.speaking import speaking
from web.papers.issuing import digest_of, issue, last_issued
from web.papers.models import Issued, IssuedKind
from web.practice.due import practicable
from web.practice.resting import resting_words
from web.practice.routine_words import routine_words
from web.programs.gates import running_gate
from web.programs.queries import active_version

_IDS = uuid.UUID("5c0de000-7a1c-4000-8000-000000000004")
REACHES = timedelta(weeks=13)
"""From the day a version is in force; a file that ends within four weeks reaches so much farther."""
_LEAST_AHEAD = timedelta(weeks=4)
REMINDERS = (0, 10, 30)
"""Minutes before, of which a client may choose one."""


@dataclass(frozen=True, slots=True)
class Entry:
    """One entry to come: its start as ISO text with the offset, or a day; minutes; what it is called."""

    starts: str
    minutes: int
    summary: str

    @property
    def data(self) -> list[Any]:
        return [self.starts, self.minutes, self.summary]


def calendar_of(
    client: Client, *, by: User | None, now: datetime, remind_min: int | None
) -> tuple[Issued, bytes]:
    """The file of the weeks to come, and the edition it is. UsecaseRefused where nothing may be practised."""
    today = local_date(now, client.time_zone)
    with speaking(client.language):
        entries = _to_come(client, today)
        last = last_issued(client.pk, IssuedKind.CALENDAR)
        before: Mapping[str, list[Any]] = last.content["entries"] if last else {}
        current = {uid: entry.data for uid, entry in entries.items()}
        if last is not None and not _changed(current, before, today):
            issued = last
        else:
            edition = last.edition + 1 if last else 1
            content = _content(current, before, edition, today)
            issued = issue(
                client,
                IssuedKind.CALENDAR,
                digest=digest_of(json.dumps(content, sort_keys=True)),
                by=by,
                now=now,
                content={"entries": content},
            )
        told = sorted(issued.content["entries"].items(), key=lambda one: (one[1][0], one[0]))
        events = [_event(uid, said, client) for uid, said in told]
        name = _("Home practice")
        return issued, calendar_file(events, name=name, stamp=issued.at, remind_min=remind_min)


def _to_come(client: Client, today: date) -> dict[str, Entry]:
    """Every home session and the next visit, by lasting ids."""
    version = active_version(client.pk)
    if version is None:
        raise UsecaseRefused(_("There is no program yet. Your clinician will set it."))
    words = resting_words(running_gate(client, version, today), client.clinic)
    if words is not None:
        raise UsecaseRefused(words)
    zone, found = zone_of(client.time_zone), {}
    first = max(today, version.active_from)
    last = version.active_from + REACHES
    while last < today + _LEAST_AHEAD:
        last += REACHES
    for one_routine in practicable(client, version.program).lasting():
        routine = one_routine.routine
        if not one_routine.steps:
            continue
        try:
            sessions = planned(
                routine.dose,
                zone=zone,
                first=first,
                last=last,
                start=routine.dose.starts_on or version.active_from,
            )
        except PlanError as error:
            words = _(
                "The home sessions of a day do not fit into it. Your clinician sets the times."
            )
            raise UsecaseRefused(words) from error
        minutes = max(round(length_of(one_routine.steps).minutes), 1)
        turns = dict[date, int]()
        for one in sessions:
            turns[one.day] = turns.get(one.day, 0) + 1
            uid = _uid(client, f"{one.day} {routine.key} {turns[one.day]}")
            found[uid] = Entry(one.local.isoformat(), minutes, routine_words(routine))
    visit = Visit.objects.filter(client=client, next_on__gte=today).order_by("-at").first()
    if visit is not None and visit.next_on:
        uid = _uid(client, f"visit {visit.next_on}")
        found[uid] = Entry(visit.next_on.isoformat(), 0, _("Visit at the voice clinic"))
    return found


def _uid(client: Client, what: str) -> str:
    return f"{uuid.uuid5(_IDS, f'{client.pk} {what}')}@still-reed"


def _changed(
    current: Mapping[str, list[Any]], before: Mapping[str, list[Any]], today: date
) -> bool:
    """Whether anything from today on is new, moved or gone."""
    new = any(uid not in before or before[uid][4] for uid in current)
    moved = any(uid in before and before[uid][:3] != data for uid, data in current.items())
    ahead = {uid for uid, was in before.items() if not was[4] and not _is_over(was, today)}
    return new or moved or bool(ahead - set(current))


def _is_over(said: list[Any], today: date) -> bool:
    return date.fromisoformat(said[0][:10]) < today


def _content(
    current: Mapping[str, list[Any]],
    before: Mapping[str, list[Any]],
    edition: int,
    today: date,
) -> dict[str, list[Any]]:
    """Every entry as [start, minutes, name, sequence, cancelled]: what is as it was keeps its sequence, what moved
    or fell away takes the number of this edition. Days that are over are told no more."""
    found = {}
    for uid, data in current.items():
        was = before.get(uid)
        same = was is not None and was[:3] == data and not was[4]
        found[uid] = [*data, was[3] if same and was is not None else edition, False]
    for uid, was in before.items():
        if uid in current or _is_over(was, today):
            continue
        found[uid] = was if was[4] else [*was[:3], edition, True]
    return found


def _event(uid: str, said: list[Any], client: Client) -> CalendarEvent:
    start, minutes, summary, sequence, cancelled = said
    starts: datetime | date = date.fromisoformat(start[:10])
    if len(start) > len("2026-06-15"):
        starts = datetime.fromisoformat(start).astimezone(zone_of(client.time_zone))
    clinic = client.clinic
    description = _(
        "Stop at once if it hurts, you feel light-headed, your voice gets worse or you have trouble breathing. "
        "A missed day is not made up for by doubling."
    )
    if clinic.telephone:
        description += " " + _("Telephone: %(telephone)s") % {"telephone": clinic.telephone}
    description += " " + _("This supports, and does not replace, care by a licensed clinician.")
    return CalendarEvent(
        uid=uid,
        starts=starts,
        minutes=minutes,
        summary=summary,
        description=description,
        sequence=sequence - 1,
        cancelled=cancelled,
    )
