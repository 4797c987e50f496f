"""A client's home sessions to come for a calendar: the same ones keep their ids, what fell away is cancelled."""

import json
import uuid
from collections.abc import Mapping
from dataclasses import asdict, dataclass, replace
from datetime import date, datetime, timedelta

from django.utils.translation import gettext as _

from core.dose.calendar import planned_sessions, zone_of
from core.dose.minutes import length_of
from core.errors import PlanError
from core.formats.calendar_file import CalendarEvent, calendar_file
from web.clients.models import Client, Visit
from web.clinic.clock import local_date
from web.clinic.models import User
from web.clinic.refusal import UsecaseRefused
from web.design.speaking import speaking
from web.papers.models import Issued, IssuedKind
from web.papers.print.editions import digest_of, last_issued
from web.papers.usecases.issue import issue
from web.practice.player.routine_words import routine_words
from web.practice.today.on_hold import resting_words
from web.practice.today.practicable import practicable
from web.programs.client_file import ClientFile

_IDS = uuid.UUID("5c0de000-7a1c-4000-8000-000000000004")
REACHES = timedelta(weeks=13)
"""From the day a version is in force; a file that ends within four weeks reaches so much farther."""
_LEAST_AHEAD = timedelta(weeks=4)
REMINDERS = (0, 10, 30)
"""Minutes before, of which a client may choose one."""


@dataclass(frozen=True, slots=True)
class PlannedEntry:
    """One entry: its start as ISO text with the offset, or a day; minutes; what it is called; in which edition it was
    told so; whether it fell away."""

    starts: str
    minutes: int
    summary: str
    edition: int = 0
    cancelled: bool = False

    def same_as(self, other: "PlannedEntry") -> bool:
        """Whether a calendar shows the same, whenever it was told."""
        return replace(self, edition=other.edition) == other

    def is_over(self, today: date) -> bool:
        return date.fromisoformat(self.starts[:10]) < today


def calendar_of(
    client: Client, *, by: User | None, now: datetime, remind_min: int | None
) -> tuple[Issued, bytes]:
    """The calendar file of the coming weeks and its edition. Raises UsecaseRefused if nothing may be practiced."""
    today = local_date(now, client.time_zone)
    with speaking(client.language):
        current = _to_come(client, today)
        last = last_issued(client.pk, IssuedKind.CALENDAR)
        before = {uid: PlannedEntry(**said) for uid, said in last.content.items()} if last else {}
        entries, issued = before, last
        if issued is None or _changed(current, before, today):
            edition = last.edition + 1 if last else 1
            entries = _told(current, before, edition, today)
            content = {uid: asdict(entry) for uid, entry in entries.items()}
            issued = issue(
                client,
                IssuedKind.CALENDAR,
                digest=digest_of(json.dumps(content, sort_keys=True)),
                by=by,
                now=now,
                content=content,
            )
        in_order = sorted(entries.items(), key=lambda one: (one[1].starts, one[0]))
        events = [_event(uid, entry, client) for uid, entry in in_order]
        name = _("Home practice")
        return issued, calendar_file(events, name=name, stamp=issued.at, remind_min=remind_min)


def _to_come(client: Client, today: date) -> dict[str, PlannedEntry]:
    """Every home session and the next visit, by lasting ids."""
    file = ClientFile(client, today)
    version = file.version
    if version is None:
        raise UsecaseRefused(_("There is no program yet. Your clinician will set it."))
    words = resting_words(file.running_gate, client.clinic)
    if words is not None:
        raise UsecaseRefused(words)
    zone, found = zone_of(client.time_zone), {}
    first = max(today, version.active_from)
    last = version.active_from + REACHES
    while last < today + _LEAST_AHEAD:
        last += REACHES
    for one_routine in practicable(file, version.program).lasting():
        routine = one_routine.routine
        if not one_routine.steps:
            continue
        try:
            sessions = planned_sessions(
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
            found[uid] = PlannedEntry(one.local.isoformat(), minutes, routine_words(routine))
    visit = Visit.objects.filter(client=client, next_on__gte=today).order_by("-at").first()
    if visit is not None and visit.next_on:
        uid = _uid(client, f"visit {visit.next_on}")
        found[uid] = PlannedEntry(visit.next_on.isoformat(), 0, _("Visit at the voice clinic"))
    return found


def _uid(client: Client, what: str) -> str:
    return f"{uuid.uuid5(_IDS, f'{client.pk} {what}')}@still-reed"


def _changed(
    current: Mapping[str, PlannedEntry], before: Mapping[str, PlannedEntry], today: date
) -> bool:
    """Whether anything from today on is new, moved or gone."""
    if any(uid not in before or not one.same_as(before[uid]) for uid, one in current.items()):
        return True
    still = {uid for uid, was in before.items() if not (was.cancelled or was.is_over(today))}
    return bool(still - current.keys())


def _told(
    current: Mapping[str, PlannedEntry],
    before: Mapping[str, PlannedEntry],
    edition: int,
    today: date,
) -> dict[str, PlannedEntry]:
    """Every entry of an edition: what is as it was keeps the edition it was told in, what moved or fell away is of
    this one. Days that are over are told no more."""
    found = {
        uid: before[uid]
        if uid in before and one.same_as(before[uid])
        else replace(one, edition=edition)
        for uid, one in current.items()
    }
    for uid, was in before.items():
        if uid not in current and not was.is_over(today):
            found[uid] = was if was.cancelled else replace(was, edition=edition, cancelled=True)
    return found


def _event(uid: str, entry: PlannedEntry, client: Client) -> CalendarEvent:
    starts: datetime | date = date.fromisoformat(entry.starts[:10])
    if len(entry.starts) > len("2026-06-15"):
        starts = datetime.fromisoformat(entry.starts).astimezone(zone_of(client.time_zone))
    clinic = client.clinic
    description = _(
        "Stop at once if it hurts, you feel light-headed, your voice gets worse or you have trouble breathing. "
        "If you miss a day, just carry on. Do not double up."
    )
    if clinic.telephone:
        description += " " + _("Telephone: %(telephone)s") % {"telephone": clinic.telephone}
    description += " " + _("This supports, and does not replace, care by a licensed clinician.")
    return CalendarEvent(
        uid=uid,
        starts=starts,
        minutes=entry.minutes,
        summary=entry.summary,
        description=description,
        sequence=entry.edition - 1,
        cancelled=entry.cancelled,
    )
