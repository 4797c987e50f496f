"""The worked case as a request, for tests of the fitting: school cook, woman, 52, 165 cm, G3–G4."""

import itertools
from collections.abc import Iterable
from dataclasses import replace
from datetime import date

from core.catalogue.words import Equipment
from core.fitting.baseline_arithmetic import LungSex
from core.fitting.known import KnownBaseline
from core.notes.note import Note
from core.notes.range import VoiceGroup
from core.program.program import Chosen
from core.proposing.propose import ProposedProgram, propose
from core.proposing.request import PlanRequest
from core.reason import Reason
from core.safety.screening import Screening

TODAY = date(2026, 6, 15)
PITCHED = {key: {"direction": "up"} for key in ("gender_affirming", "speaking_pitch")}
"""Which way the speaking pitch goes where a test does not ask."""


def note(name: str | None) -> Note | None:
    return Note.named(name) if name else None


def baseline(**changes) -> KnownBaseline:
    known = {
        "voice_group": VoiceGroup.WOMEN,
        "age_years": 52,
        "lowest": "G3",
        "highest": "G4",
        "phonation_s": (9.4, 8.8, 8.1),
        "s_s": (17.6,),
        "z_s": (11.0,),
        "probes_s": (8.2, 8.4, 7.0),
        "height_cm": 165.0,
        "lung_sex": LungSex.FEMALE,
    } | changes
    for name in ("lowest", "highest", "transition", "speaking"):
        known[name] = note(known.get(name))
    return KnownBaseline(**known)


def request(*schools: str, options: dict | None = None, known: dict | None = None, **changes):
    """A request for these schools; `known` changes the baseline, the rest the request."""
    given = {
        "today": TODAY,
        "baseline": baseline(**known or {}),
        "screening": Screening(asked_on=TODAY, larynx_examined_on=TODAY, guardian_consent=True),
        "schools": tuple(
            Chosen(school=key, options=PITCHED.get(key, {}) | (options or {})) for key in schools
        ),
        "equipment": frozenset(Equipment),
    }
    return PlanRequest(**given | changes)


def proposed(*schools: str, **changes) -> ProposedProgram:
    return propose_for(request(*schools, **changes))


def propose_for(wanted: PlanRequest, **more) -> ProposedProgram:
    ids = itertools.count()
    return propose(wanted, new_step_id=lambda: f"step-{next(ids)}", **more)


def screened(wanted: PlanRequest, **answers) -> PlanRequest:
    return replace(wanted, screening=replace(wanted.screening, **answers))


def step(proposal: ProposedProgram, task: str):
    """The step of a task, or None."""
    return next((one for one in proposal.program.steps if one.task == task), None)


def said(reasons: Iterable[Reason], code: str) -> Reason | None:
    """The first of these reasons that has the code, looked for inside others too; None for none."""
    for reason in reasons:
        if reason.code == code:
            return reason
        inner = [
            one
            for value in reason.params.values()
            for one in (value if isinstance(value, tuple) else (value,))
            if isinstance(one, Reason)
        ]
        if (found := said(inner, code)) is not None:
            return found
    return None
