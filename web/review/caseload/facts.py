"""The facts of a line in Rounds: one function each, from one client's record."""

from collections.abc import Callable, Mapping
from datetime import timedelta
from typing import Any
from zoneinfo import ZoneInfo

from pydantic import TypeAdapter

from core.catalogue.words import Growth
from core.dose.tide import Prescribed
from core.formats.program_file import dose_data
from core.grading.season import main_course, season_of
from core.program.program import Program
from core.program.step import Grade
from core.safety.circumstances import Living
from core.safety.conditions import GatedStep
from core.safety.program_gate import doings_of
from core.safety.screening import Screening
from web.clients.models import ClientAccess
from web.practice.models import SetAside
from web.programs.queries import prescribed_stretches
from web.review.course_file import CourseFile
from web.review.models import HandOver

COURSE_DAYS = 28
SCREENING = TypeAdapter(Screening)
LIVING = TypeAdapter(Living)
DOES = TypeAdapter(tuple[GatedStep, ...])


def _screened(file: CourseFile) -> dict[str, Any] | None:
    asked, version, program = file.latest_screening, file.version, file.program
    if file.screening is None or asked is None:
        return None
    does = doings_of(program, file.tasks) if program else ()
    return {
        "stands": SCREENING.dump_python(file.screening, mode="json"),
        "findings": asked.findings,
        "living": LIVING.dump_python(file.living, mode="json"),
        "where": " · ".join(filter(None, (asked.whereabouts, asked.emergency_contact))),
        "program_does": DOES.dump_python(does, mode="json"),
        "taken_in": version is not None and version.imported,
        "restarts": file.running_screening_of(version) != file.screening,
    }


def _link_made_at(file: CourseFile) -> Any:
    links = ClientAccess.objects.filter(client=file.client, revoked_at=None)
    made = links.values_list("made_at", "renewed_at").first()
    return (made[1] or made[0]) if made else None


def hold_grade(program: Program | None) -> Grade | None:
    """The grade of the held notes, as shown in Rounds."""
    step = program.main_step if program else None
    return step.grade if step and step.grade and step.grade.growth is Growth.SECONDS else None


def _handed(file: CourseFile) -> dict[str, str] | None:
    row = HandOver.objects.filter(client=file.client).order_by("-at").first()
    if row is None or row.taker_id != file.client.clinician_id or hasattr(row, "note_read"):
        return None
    local = row.at.astimezone(ZoneInfo(file.client.time_zone))
    return {"by": row.giver.name, "on": local.date().isoformat(), "note": row.note}


def _course(file: CourseFile) -> dict[str, Any]:
    """The leading step by name and figure: for each day the best result and the target, over the four weeks
    before the last home session."""
    last = file.last_session
    if file.history is None or last is None:
        return {}
    first = last - timedelta(days=COURSE_DAYS - 1)
    season = season_of(file.history, file.rules, first=first, last=last)
    found = main_course(season, file.history.program)
    if found is None:
        return {}
    best: dict[str, list[Any]] = {}
    for day, value, asked, _calm in found.points:
        there = best.get(day.isoformat())
        if there is None or value > there[1]:
            best[day.isoformat()] = [day.isoformat(), round(value, 2), asked]
    return {"name": found.name, "code": found.code, "points": list(best.values())}


FACTS: Mapping[str, Callable[[CourseFile], Any]] = {
    "clinic_id": lambda file: file.client.clinic_id,
    "stop_sign": lambda file: file.stop.stop_sign if file.stop else "",
    "open_signs": lambda file: [[one.sign.value, one.step_id] for one in file.signs],
    "flags_said": lambda file: list(file.flags_said),
    "stop_sign_on": lambda file: file.stop.practice_day if file.stop else None,
    "set_aside": lambda file: SetAside.objects.filter(client=file.client, looked_at=None).count(),
    "has_baseline": lambda file: file.baseline is not None,
    "active_since": lambda file: file.versions[0].active_from if file.versions else None,
    "last_session": lambda file: file.last_session,
    "stretches": lambda file: [
        _stretch_data(stretch) for stretch in prescribed_stretches(file.versions)
    ],
    "recent": lambda file: [
        [one.day.isoformat(), one.stroke.value, one.routine] for one in file.recent
    ],
    "screening": _screened,
    "link_made_at": _link_made_at,
    "families": lambda file: file.families,
    "visits": lambda file: file.visits,
    "snoozed_until": lambda file: file.snoozed.until if file.snoozed else None,
    "snoozed_need": lambda file: file.snoozed.need if file.snoozed else None,
    "handed": _handed,
    "course": _course,
    "rung_s": lambda file: grade.value if (grade := hold_grade(file.program)) else None,
    "goal_s": lambda file: grade.goal if (grade := hold_grade(file.program)) else None,
}
"""Every fact of a caseload row by name. None depends on the day it is read."""


def _stretch_data(stretch: Prescribed) -> list[Any]:
    last = stretch.last.isoformat() if stretch.last else None
    return [stretch.first.isoformat(), last, dose_data(stretch.dose), stretch.routine]
