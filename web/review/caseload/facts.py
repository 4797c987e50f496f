"""What a line of Rounds is made of: one function a fact, each from the record of one client."""

from collections.abc import Callable, Mapping, Sequence
from datetime import date, timedelta
from functools import cached_property
from typing import Any
from zoneinfo import ZoneInfo

from django.db.models import Exists, OuterRef, Q
from pydantic import TypeAdapter

from core.catalogue.words import Growth
from core.dose.tide import Done, Prescribed
from core.formats.program_file import dose_data
from core.grading.act import Proposal
from core.grading.decide import decisions
from core.grading.history import History
from core.grading.rule import Rules
from core.grading.season import main_course, season_of
from core.program.program import Program
from core.program.step import Grade
from core.safety.circumstances import Living
from core.safety.conditions import Doing
from core.safety.program_gate import doings_of
from core.safety.screening import Screening
from core.safety.stop import OpenSign
from web.clients.measured import MeasuredView
from web.clients.models import Baseline, Client, ClientAccess, StoredScreening
from web.clients.queries import (
    BaselineView,
    latest_baseline,
    latest_screening,
    living_of,
    standing_screening,
)
from web.library.queries import catalogue_of
from web.practice.before import flags_said, stopped
from web.practice.due import open_signs
from web.practice.models import Attempt, HomeSession, Outcome, SetAside
from web.practice.queries import done_since, strain_said
from web.programs.gates import as_running, is_taken_in
from web.programs.models import ProgramVersion
from web.programs.queries import prescribed_stretches, versions_of
from web.review.deciding.proposals import still_to_decide
from web.review.models import Decision, HandOver, Snooze
from web.review.results.history import (
    decisions_of,
    families_of,
    history_of,
    rules_for,
    visits_of,
)

KEPT_DAYS = 60
COURSE_DAYS = 28
SCREENING = TypeAdapter(Screening)
LIVING = TypeAdapter(Living)
DOES = TypeAdapter(tuple[Doing, ...])


class Record:
    """The record of one client as it stands on a day; each part is read once, when it is asked for."""

    def __init__(self, client: Client, today: date, *, since: date | None = None) -> None:
        self.client = client
        self.today = today
        self.since = since

    @cached_property
    def versions(self) -> list[ProgramVersion]:
        return versions_of(self.client)

    @cached_property
    def program(self) -> Program | None:
        return self.versions[-1].program if self.versions else None

    @cached_property
    def grade(self) -> Grade | None:
        return hold_grade(self.program) if self.program else None

    @cached_property
    def recent(self) -> list[Done]:
        return done_since(self.client.pk, since=self.today - timedelta(days=KEPT_DAYS))

    @cached_property
    def stop(self) -> HomeSession | None:
        rows = HomeSession.objects.filter(client=self.client, stop_cleared_at=None)
        return rows.exclude(stop_sign="").order_by("-started_at").first()

    @cached_property
    def signs(self) -> Sequence[OpenSign]:
        return open_signs(self.client.pk) if self.stop else ()

    @cached_property
    def baseline(self) -> Baseline | None:
        return latest_baseline(self.client)

    @cached_property
    def asked(self) -> StoredScreening | None:
        return latest_screening(self.client)

    @cached_property
    def screening(self) -> Screening | None:
        return standing_screening(self.client, self.today)

    @cached_property
    def rules(self) -> Rules:
        return rules_for(self.client)

    @cached_property
    def history(self) -> History | None:
        views = BaselineView.first_and_latest(self.client, self.client.age_on(self.today))
        return history_of(
            self.client,
            self.versions,
            self.today,
            recent=self.recent,
            screening=self.screening,
            measured=[MeasuredView(view, self.client.clinic.a4_hz) for view in views],
            signs=self.signs,
            families=self.families,
            visits=self.visits,
            decided=self.decided,
            said=strain_said(self.client.pk, self.since or self.today),
            living=living_of(self.asked),
            flags=flags_said(stopped(self.client)) if self.stop else (),
            since=self.since,
        )

    @cached_property
    def families(self) -> dict[str, str]:
        return families_of(self.client, self.versions)

    @cached_property
    def visits(self) -> list[list[Any]]:
        return visits_of(self.client)

    @cached_property
    def snoozed(self) -> Snooze | None:
        return Snooze.objects.filter(client=self.client).order_by("-at").first()

    @cached_property
    def last_session(self) -> date | None:
        """The day of the last home session in which anything was done."""
        held = ~Q(outcome=Outcome.OPEN) | Exists(
            Attempt.objects.filter(home_session=OuterRef("pk"))
        )
        rows = HomeSession.objects.filter(held, client=self.client).order_by("-practice_day")
        return rows.values_list("practice_day", flat=True).first()

    @cached_property
    def decided(self) -> list[Decision]:
        return decisions_of(self.client)

    def proposed_on(self, day: date) -> list[Proposal]:
        """What is to be decided on a day, if nothing is practised until then."""
        if self.history is None:
            return []
        found = decisions(self.history, day, self.rules)
        return still_to_decide(found, self.decided, self.last_session)


def _screened(record: Record) -> dict[str, Any] | None:
    if record.screening is None or record.asked is None:
        return None
    asked, program = record.asked, record.program
    version = record.versions[-1] if record.versions else None
    does = doings_of(program, catalogue_of(record.client.clinic)) if program else ()
    return {
        "stands": SCREENING.dump_python(record.screening, mode="json"),
        "findings": asked.findings,
        "living": LIVING.dump_python(living_of(asked), mode="json"),
        "where": " · ".join(filter(None, (asked.whereabouts, asked.emergency_contact))),
        "program_does": DOES.dump_python(does, mode="json"),
        "taken_in": is_taken_in(version),
        "restarts": as_running(record.client, record.screening, version) != record.screening,
    }


def _link_made_at(record: Record) -> Any:
    links = ClientAccess.objects.filter(client=record.client, revoked_at=None)
    made = links.values_list("made_at", "renewed_at").first()
    return (made[1] or made[0]) if made else None


def hold_grade(program: Program) -> Grade | None:
    """The grade of the held notes: what Rounds shows."""
    step = program.main_step
    return step.grade if step and step.grade and step.grade.growth is Growth.SECONDS else None


def _handed(record: Record) -> dict[str, str] | None:
    row = HandOver.objects.filter(client=record.client).order_by("-at").first()
    if row is None or row.taker_id != record.client.clinician_id or hasattr(row, "note_read"):
        return None
    local = row.at.astimezone(ZoneInfo(record.client.time_zone))
    return {"by": row.giver.name, "on": local.date().isoformat(), "note": row.note}


def _course(record: Record) -> dict[str, Any]:
    """The step that leads, by name and figure, and of each day what was held best in it and what was
    asked for, four weeks back from its last home session."""
    last = record.last_session
    if record.history is None or last is None:
        return {}
    first = last - timedelta(days=COURSE_DAYS - 1)
    season = season_of(record.history, record.rules, first=first, last=last)
    found = main_course(season, record.history.program)
    if found is None:
        return {}
    best: dict[str, list[Any]] = {}
    for day, value, asked, _calm in found.points:
        there = best.get(day.isoformat())
        if there is None or value > there[1]:
            best[day.isoformat()] = [day.isoformat(), round(value, 2), asked]
    return {"name": found.name, "code": found.code, "points": list(best.values())}


FACTS: Mapping[str, Callable[[Record], Any]] = {
    "clinic_id": lambda record: record.client.clinic_id,
    "stop_sign": lambda record: record.stop.stop_sign if record.stop else "",
    "open_signs": lambda record: [[one.sign.value, one.step_id] for one in record.signs],
    "flags_said": lambda record: flags_said(stopped(record.client)) if record.stop else [],
    "stop_sign_on": lambda record: record.stop.practice_day if record.stop else None,
    "set_aside": lambda record: SetAside.objects.filter(
        client=record.client, looked_at=None
    ).count(),
    "has_baseline": lambda record: record.baseline is not None,
    "active_since": lambda record: record.versions[0].active_from if record.versions else None,
    "last_session": lambda record: record.last_session,
    "stretches": lambda record: [
        _stretch_data(stretch) for stretch in prescribed_stretches(record.versions)
    ],
    "recent": lambda record: [
        [one.day.isoformat(), one.stroke.value, one.routine] for one in record.recent
    ],
    "screening": _screened,
    "link_made_at": _link_made_at,
    "families": lambda record: record.families,
    "visits": lambda record: record.visits,
    "snoozed_until": lambda record: record.snoozed.until if record.snoozed else None,
    "snoozed_need": lambda record: record.snoozed.need if record.snoozed else None,
    "handed": _handed,
    "course": _course,
    "rung_s": lambda record: record.grade.value if record.grade else None,
    "goal_s": lambda record: record.grade.goal if record.grade else None,
}
"""Every fact of a caseload row by its name; none depends on the day it is read."""


def _stretch_data(stretch: Prescribed) -> list[Any]:
    last = stretch.last.isoformat() if stretch.last else None
    return [stretch.first.isoformat(), last, dose_data(stretch.dose), stretch.routine]
