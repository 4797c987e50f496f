"""Everything the player needs for one home session, in plain data."""

from dataclasses import replace
from functools import partial
from typing import Any

from core.dose.taper import on_day
from core.program.step import Step
from core.reference.values import PAIN_STOPS
from web.practice.models import USUAL_TALK, HomeSession, State
from web.practice.player.spoken_lines import own_lines_of, places_of
from web.practice.player.step_words import step_data, usual_talk_data
from web.practice.player.warm_up_plans import is_planned, plans_of
from web.practice.sessions.levels import conversations, level_references
from web.practice.today.practicable import Practicable, PracticableRoutine, practicable
from web.programs.client_file import ClientFile
from web.programs.models import ProgramVersion

BUNDLE_FORMAT = 3
"""Of what the page keeps to go on without the server: one of another format is not read (session.js)."""


def bundle_of(
    session: HomeSession, version: ProgramVersion, *, short_day: bool = False
) -> dict[str, Any]:
    """Everything the player needs for one home session, in plain data, without the steps that rest;
    on a bad day only the step that stands for the whole, where the routine has one. Before strong
    work each device first takes usual talk: `usual_talk`, unless it is in `known_talk`."""
    program = on_day(version.program, session.practice_day)
    file = ClientFile.now(session.client)
    can = practicable(file, program, but=session)
    now = can.of(session.routine)
    short = now.short_day if short_day else None
    steps = (short,) if short else now.steps
    strong = any(step.level for step in steps)
    own = replace(
        own_lines_of(session.client_id, session.clinic_id),
        places=places_of(session.client_id, steps),
    )
    data = partial(
        step_data,
        a4_hz=program.a4_hz,
        day=session.practice_day,
        own=own,
        tasks=file.tasks,
        names_notes=not session.client.pitch_hidden,
    )
    fitted = is_planned(now.routine) and not short
    more = _more_steps(can, now) if fitted else []
    return {
        "format": BUNDLE_FORMAT,
        "session_id": str(session.pk),
        "routine": session.routine,
        "steps": [data(step) for step in steps],
        "plans": plans_of([*now.steps, *more]) if fitted else None,
        "more_steps": [data(step) for step in more],
        "a4_hz": program.a4_hz,
        "pain_stops": PAIN_STOPS.number,
        "known_devices": sorted(level_references(session.client_id)),
        "usual_talk": usual_talk_data() if strong else None,
        "known_talk": sorted(conversations(session.client_id)) if strong else [],
        **done_in(session),
    }


def _more_steps(can: Practicable, now: PracticableRoutine) -> list[Step]:
    """What of the other routines may stand in a warm-up of the day."""
    return [step for one in can.routines if one is not now for step in one.steps]


def done_in(session: HomeSession) -> dict[str, Any]:
    """What was done of a home session that goes on: attempts by step, place and repetition, and the steps
    after which strain was answered."""
    attempts = session.attempts.exclude(state=State.INTERRUPTED).exclude(step_id=USUAL_TALK)
    said = session.entries.filter(kind__in=["strain", "pain"], step_id__isnull=False)
    return {
        "done": [
            [str(step_id), place, repetition]
            for step_id, place, repetition in attempts.values_list("step_id", "place", "repetition")
        ],
        "answered": sorted({str(step_id) for step_id in said.values_list("step_id", flat=True)}),
    }
