"""A proposal as text and as JSON."""

from datetime import timedelta
from typing import Any

from core.dose.calendar import PlannedSession, last_day, planned_sessions, zone_of
from core.dose.load import RoutineLoad
from core.formats.program_file import data_of
from core.program.dosing import Dose, When
from core.program.routine import Routine
from core.program.routine_words import WHEN_WORDS, routine_name
from core.program.step_words import asks_words, whys_of
from core.program.taper_words import stage_words
from core.proposing.propose import ProposedProgram
from core.proposing.request import PlanRequest
from core.reason import ENGLISH, Reason

_DAYS = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")


def proposal_data(proposal: ProposedProgram, request: PlanRequest) -> dict[str, Any]:
    """Program, gate, load, what was left out and the first week, as plain data."""
    load = proposal.load
    return {
        "program": data_of(proposal.program),
        "gate": {
            "blocks": [said(one) for one in proposal.gate.blocks],
            "needs_reason": [said(one) for one in proposal.gate.needs_reason],
        },
        "load": {
            "routines": [
                {
                    "routine": one.routine,
                    "session_min": round(one.session_min, 2),
                    "voiced_min": round(one.voiced_min, 2),
                    "repetitions": one.repetitions,
                    "cycles": round(one.cycles),
                    "sessions_a_week": one.sessions_a_week,
                }
                for one in load.routines
            ],
            "sessions_a_week": load.sessions_a_week,
            "day_min": round(load.day_min, 1),
            "week_min": round(load.week_min, 1),
            "voiced_week_min": round(load.voiced_week_min, 1),
        },
        "left_out": [
            {"school": out.school, "task": out.task, "why": said(out.why)}
            for out in proposal.left_out
        ],
        "notices": [said(one) for one in proposal.notices],
        "first_week": {
            routine.key: [one.local.isoformat() for one in _first_week(routine.dose, request)]
            for routine in proposal.program.routines
        },
    }


def said(reason: Reason) -> dict[str, Any]:
    """A reason as plain data: its code, and its sentence."""
    return {"code": reason.code, "words": str(reason)}


def proposal_text(proposal: ProposedProgram, request: PlanRequest) -> str:
    """The same for reading."""
    program, load = proposal.program, proposal.load
    lines = [f"Schools: {', '.join(one.school for one in program.schools)}"]
    for routine in program.routines:
        lines += ["", f"{routine_name(routine)}:", *_routine_lines(routine, request)]
        lines += [_load_words(load.of(routine.key))]
    lines += [
        "",
        f"A week: {load.sessions_a_week} sessions, {load.week_min:.0f} min, "
        f"{load.voiced_week_min:.0f} min voiced; the fullest day {load.day_min:.1f} min.",
    ]
    for title, sentences in (
        ("Why it is so", program.reasons),
        ("Assumed", program.assumed),
        ("Still to ask or measure", program.asked),
        ("Left out", [f"{out.task}: {out.why}" for out in proposal.left_out]),
        ("To think about", proposal.notices),
        ("Care", [line.words for line in program.advice]),
        ("It cannot become active", proposal.gate.blocks),
        ("A written reason is needed", proposal.gate.needs_reason),
    ):
        if sentences:
            lines += ["", f"{title}:", *(f"  - {sentence}" for sentence in sentences)]
    return "\n".join(lines)


def _routine_lines(routine: Routine, request: PlanRequest) -> list[str]:
    lines = []
    for number, step in enumerate(routine.steps, 1):
        times = f" ×{step.repetitions}" if step.repetitions > 1 else ""
        lines += [f"  {number}. {step.name}{times}: {asks_words(step)}"]
        lines += [f"     {why}" for why in whys_of(step)]
    if routine.short_day is not None:
        lines += [f"  On a bad day: {routine.short_day.name}, {asks_words(routine.short_day)}"]
    return [*lines, *(f"  {line}" for line in _dose_lines(routine.dose, request))]


def _load_words(load: RoutineLoad) -> str:
    return (
        f"  A home session: {load.session_min:.1f} min, {load.voiced_min:.1f} min voiced, "
        f"{load.repetitions} attempts, {load.cycles:.0f} cycles."
    )


def _dose_lines(dose: Dose, request: PlanRequest) -> list[str]:
    start = dose.starts_on or request.today
    days = [f"{_DAYS[one.day.weekday()]} {one.local:%H:%M}" for one in _first_week(dose, request)]
    taper = (
        [f"Then taper: {' → '.join(str(stage_words(stage)) for stage in dose.taper)}."]
        if dose.taper
        else []
    )
    when = f", {WHEN_WORDS[dose.when]}" if dose.when is not When.ANY else ""
    return [
        f"{dose.sessions_a_day} a day{when}, {dose.days_a_week} days a week, {dose.weeks} weeks, "
        f"{ENGLISH.day(start)} to {ENGLISH.day(last_day(dose, start))}.",
        *taper,
        f"First week ({request.wishes.zone}): {', '.join(days) or 'no home session'}.",
    ]


def _first_week(dose: Dose, request: PlanRequest) -> list[PlannedSession]:
    start = dose.starts_on or request.today
    zone = zone_of(request.wishes.zone)
    return planned_sessions(
        dose, zone=zone, first=start, last=start + timedelta(days=6), start=start
    )
