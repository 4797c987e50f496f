"""A program and its results for a hospital's system: a FHIR R4B bundle (CarePlan, Observations, CodeSystem)."""

import uuid
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from typing import Any

from core.figures.kind import Unit
from core.figures.registry import FIGURES
from core.notes.note import Note
from core.program.program import Program
from core.program.routine import Routine

TYPE = "application/fhir+json"
OWN_SYSTEM = "urn:uuid:5c0de000-7a1c-4000-8000-00000000f411"
"""Of the codes of figures: the bundle holds it, with what each means."""
UCUM = "http://unitsofmeasure.org"
CATEGORY = "http://terminology.hl7.org/CodeSystem/observation-category"
ABSENT = "http://terminology.hl7.org/CodeSystem/data-absent-reason"
_IDS = uuid.UUID(OWN_SYSTEM.removeprefix("urn:uuid:"))
UCUM_UNITS: Mapping[Unit, str] = {
    Unit.SECONDS: "s",
    Unit.PERCENT: "%",
    Unit.DECIBELS: "dB",
    Unit.ML_PER_S: "mL/s",
    Unit.SEMITONES: "{semitone}",
    Unit.BEATS: "{beat}",
    Unit.IN_TEN_SECONDS: "{stop}/(10.s)",
    Unit.WORDS_A_MINUTE: "{word}/min",
    Unit.A_SECOND: "{bubble}/s",
    Unit.OF_TEN: "{score}",
    Unit.POINTS: "{score}",
    Unit.COUNT: "1",
    Unit.RATIO: "1",
    Unit.YES_NO: "1",
}
"""Units of figures in UCUM. A note is exported by its name."""
RESULTS: Mapping[str, tuple[str, str]] = {
    "step": ("Step of a home session", "What the attempts of one task of a home session came to."),
    "baseline": ("Baseline", "What was measured or typed in at a visit."),
}
"""Display and definition of the codes that stand for a whole result."""
_DAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
_STATUSES = {
    "Observation": {"final", "preliminary", "amended", "entered-in-error"},
    "CarePlan": {"active", "completed", "revoked", "on-hold", "draft"},
    "CodeSystem": {"active", "draft", "retired"},
}
_ACTIVITY = {"scheduled", "in-progress", "on-hold", "completed", "stopped", "not-started"}


class BundleBroken(ValueError):
    """A bundle that is not valid FHIR."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Subject:
    """Whose record it is, and who sends it. Ids as UUID text."""

    client_id: str
    name: str
    born_on: date
    clinic: str
    clinic_id: str
    clinician: str
    clinician_id: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Figure:
    """One value of a kind of figure. value: in its unit, a note by its number, None = not known, and why;
    of: the note or key it belongs to."""

    code: str
    value: float | None
    of: str = ""
    why: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Result:
    """What was found at a time: in a baseline, or of one step of a home session. code: of the whole; method: how it
    was taken; figures: one alone is the value of the observation, several are its parts."""

    key: str
    code: str
    words: str
    at: datetime
    figures: tuple[Figure, ...]
    method: str = ""
    device: str = ""
    of_plan: bool = True


@dataclass(frozen=True, slots=True, kw_only=True)
class Plan:
    """A program in force. words: what each step asks for, names: what it is called, by its id; on_hold: it rests;
    resting: ids of the steps that do."""

    version_id: str
    number: int
    since: date
    program: Program
    words: Mapping[str, str] = field(default_factory=dict)
    names: Mapping[str, str] = field(default_factory=dict)
    on_hold: bool = False
    resting: frozenset[str] = frozenset()


def bundle_of(
    subject: Subject,
    plan: Plan | None,
    results: Iterable[Result],
    *,
    now: datetime,
) -> dict[str, Any]:
    """The bundle as plain data, checked.

    BundleBroken where it would not be one.
    """
    found = list(results)
    used = {code for one in found for code in (one.code, *(figure.code for figure in one.figures))}
    resources = [
        ("Patient", subject.client_id, _patient(subject)),
        ("Organization", subject.clinic_id, {"name": subject.clinic}),
        ("Practitioner", subject.clinician_id, {"name": [{"text": subject.clinician}]}),
        ("CodeSystem", str(_IDS), _code_system(used, now)),
    ]
    if plan is not None:
        resources.append(("CarePlan", plan.version_id, _care_plan(subject, plan)))
    resources += [
        ("Observation", str(uuid.uuid5(_IDS, one.key)), _observation(subject, plan, one))
        for one in found
    ]
    bundle = {
        "resourceType": "Bundle",
        "type": "collection",
        "timestamp": now.isoformat(),
        "entry": [
            {
                "fullUrl": f"urn:uuid:{key}",
                "resource": {"resourceType": kind, "id": key, **resource},
            }
            for kind, key, resource in resources
        ],
    }
    return checked(bundle)


def _patient(subject: Subject) -> dict[str, Any]:
    return {
        "identifier": [{"system": OWN_SYSTEM, "value": subject.client_id}],
        "name": [{"text": subject.name}],
        "birthDate": subject.born_on.isoformat(),
        "managingOrganization": _to(subject.clinic_id),
    }


def meaning_of(code: str) -> tuple[str, str]:
    """Display and definition of a code in English; KeyError for an unknown one."""
    if code in RESULTS:
        return RESULTS[code]
    kind = FIGURES[code]
    return f"{kind.name[0].upper()}{kind.name[1:]}", kind.definition


def _code_system(used: set[str], now: datetime) -> dict[str, Any]:
    concepts = []
    for code in sorted(used):
        display, definition = meaning_of(code)
        concepts.append({"code": code, "display": display, "definition": definition})
    system = {
        "url": OWN_SYSTEM,
        "name": "StillReedVoiceFigures",
        "status": "active",
        "content": "complete",
        "date": now.date().isoformat(),
    }
    return {**system, "concept": concepts} if concepts else system


def _care_plan(subject: Subject, plan: Plan) -> dict[str, Any]:
    last = max(_last_day(plan, routine) for routine in plan.program.routines)
    return {
        "status": "on-hold" if plan.on_hold else "active",
        "intent": "plan",
        "title": f"Home voice program, version {plan.number}",
        "description": "Supports, and does not replace, care by a licensed clinician.",
        "subject": _to(subject.client_id),
        "author": _to(subject.clinician_id),
        "period": {"start": plan.since.isoformat(), "end": last.isoformat()},
        "activity": [
            {"detail": _activity(plan, routine, step.step_id, step.name)}
            for routine in plan.program.routines
            for step in routine.steps
        ],
    }


def _activity(plan: Plan, routine: Routine, step_id: str, name: str) -> dict[str, Any]:
    dose = routine.dose
    repeat: dict[str, Any] = {
        "boundsPeriod": {
            "start": plan.since.isoformat(),
            "end": _last_day(plan, routine).isoformat(),
        },
        "frequency": dose.sessions_a_day,
        "period": 1,
        "periodUnit": "d",
    }
    if dose.weekdays:
        repeat["dayOfWeek"] = [_DAYS[day - 1] for day in sorted(dose.weekdays)]
    said = plan.words.get(step_id, "")
    days = "" if dose.weekdays or dose.days_a_week == 7 else f" {dose.days_a_week} days a week."
    return {
        "status": "on-hold" if plan.on_hold or step_id in plan.resting else "in-progress",
        "code": {"text": plan.names.get(step_id, name)},
        "description": f"{said}.{days}".strip(),
        "scheduledTiming": {"repeat": repeat},
    }


def _last_day(plan: Plan, routine: Routine) -> date:
    weeks = routine.dose.weeks + sum(stage.weeks for stage in routine.dose.taper)
    return (routine.dose.starts_on or plan.since) + timedelta(weeks=weeks, days=-1)


def _observation(subject: Subject, plan: Plan | None, one: Result) -> dict[str, Any]:
    found: dict[str, Any] = {
        "status": "final",
        "category": [{"coding": [{"system": CATEGORY, "code": "exam", "display": "Exam"}]}],
        "code": {**_coded(one.code), "text": one.words},
        "subject": _to(subject.client_id),
        "performer": [_to(subject.clinic_id)],
        "effectiveDateTime": one.at.isoformat(),
    }
    if plan is not None and one.of_plan:
        found["basedOn"] = [_to(plan.version_id)]
    if one.method:
        found["method"] = {"text": one.method}
    if one.device:
        found["note"] = [{"text": f"Device: {one.device}"}]
    if len(one.figures) == 1 and one.figures[0].code == one.code:
        found |= _value(one.figures[0])
    else:
        found["component"] = [
            {"code": _of_note(figure), **_value(figure)} for figure in one.figures
        ]
    return found


def _of_note(figure: Figure) -> dict[str, Any]:
    coded = _coded(figure.code)
    display, _definition = meaning_of(figure.code)
    return {**coded, "text": f"{display}, {figure.of}"} if figure.of else coded


def _coded(code: str) -> dict[str, Any]:
    return {"coding": [{"system": OWN_SYSTEM, "code": code, "display": meaning_of(code)[0]}]}


def _value(figure: Figure) -> dict[str, Any]:
    if figure.value is None:
        words = figure.why or "not known"
        return {
            "dataAbsentReason": {"coding": [{"system": ABSENT, "code": "unknown"}], "text": words}
        }
    unit = FIGURES[figure.code].unit
    if unit is Unit.NOTE:
        return {"valueString": Note(round(figure.value)).name}
    ucum = UCUM_UNITS[unit]
    quantity = {
        "value": round(figure.value, 4),
        "unit": "1" if ucum == "1" else unit.value,
        "system": UCUM,
        "code": ucum,
    }
    return {"valueQuantity": quantity}


def _to(key: str) -> dict[str, str]:
    return {"reference": f"urn:uuid:{key}"}


def checked(bundle: dict[str, Any]) -> dict[str, Any]:
    """The bundle, if it is one: its shape by the published types, and what these leave open: codes of a status, units,
    references within it, codes of our own system."""
    from fhir.resources.R4B.bundle import Bundle  # half a second, only where it is needed

    try:
        Bundle.model_validate(bundle)
    except ValueError as error:
        raise BundleBroken(str(error)) from error
    resources = [entry["resource"] for entry in bundle["entry"]]
    there = {entry["fullUrl"] for entry in bundle["entry"]}
    if len(there) != len(bundle["entry"]):
        raise BundleBroken("two resources have the same id")
    for one in resources:
        if one.get("status") not in _STATUSES.get(one["resourceType"], {one.get("status")}):
            raise BundleBroken(f"{one['resourceType']} status {one.get('status')}")
        for activity in one.get("activity", ()):
            if activity["detail"]["status"] not in _ACTIVITY:
                raise BundleBroken(f"activity status {activity['detail']['status']}")
    (system,) = (one for one in resources if one["resourceType"] == "CodeSystem")
    codes = {concept["code"] for concept in system.get("concept", ())}
    for node in _nodes(resources):
        reference = node.get("reference")
        if isinstance(reference, str) and reference not in there:
            raise BundleBroken(f"nothing here is {reference}")
        if node.get("system") == UCUM and node.get("code") not in UCUM_UNITS.values():
            raise BundleBroken(f"unit {node.get('code')}")
        if node.get("system") == OWN_SYSTEM and "code" in node and node["code"] not in codes:
            raise BundleBroken(f"code {node['code']}")
    return bundle


def _nodes(data: Any) -> Iterable[Mapping[str, Any]]:
    if isinstance(data, Mapping):
        yield data
    if isinstance(data, Mapping | Sequence) and not isinstance(data, str):
        for value in data.values() if isinstance(data, Mapping) else data:
            yield from _nodes(value)
