"""A client's practice as JSON for `./reed decide`; the schema is published in docs/formats."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, fields, replace
from datetime import date
from typing import Annotated, Any, Literal

from pydantic import Field, TypeAdapter

from core.catalogue.tasks import shipped_tasks
from core.dose.tide import Prescribed
from core.errors import CoreError
from core.figures.registry import RULE_FIGURES
from core.fitting.why_words import why_words
from core.formats.program_file import program_of
from core.formats.reading import FileRefused, Problem, json_of, read_as
from core.grading.history import Climbed, Decided, History, PastSession, VisitHeld
from core.grading.rule import Changed, Rules, rules
from core.program.program import Program
from core.program.targets import Strict
from core.safety.condition import Condition
from core.safety.screening import RedFlag
from core.safety.stop import OpenSign

SCHEMA_ID = "still-reed/history/2"
_FORMATS = ("still-reed-history/1", "still-reed-history/2")
_OF_TWO = ("open_flags", "events", "injections", "hearing_loss", "well_again_on")
_OF_TWO_SITTINGS = ("begun", "flags")
_MOST = 5000
Strain = Annotated[float, Field(ge=0, le=10)]


@dataclass(frozen=True, slots=True, kw_only=True)
class HistoryFile(Strict):
    """One client on one day.

    program: a program file (docs/formats/program.schema.json); sittings: home sessions in any order;
    families: the family (A–K) of steps whose task is not shipped; numbers: numbers of the rules this
    clinic or client has otherwise, by their path; the rest as `core.grading.history.History` says.
    """

    format: Literal["still-reed-history/1", "still-reed-history/2"]
    today: date
    program: dict[str, Any]
    active_since: date
    sittings: Annotated[tuple[PastSession, ...], Field(max_length=_MOST)] = ()
    families: Mapping[str, str] = field(default_factory=dict)
    conditions: frozenset[Condition] = frozenset()
    open_signs: tuple[OpenSign, ...] = ()
    climbs: tuple[Climbed, ...] = ()
    decided: tuple[Decided, ...] = ()
    visits: tuple[VisitHeld, ...] = ()
    changed_on: date | None = None
    strain: Strain | None = None
    measured_on: date | None = None
    own_sd: Annotated[float, Field(gt=0, le=12)] | None = None
    gain_real: bool | None = None
    fell: bool = False
    open_flags: frozenset[RedFlag] = frozenset()
    events: tuple[date, ...] = ()
    injections: tuple[date, ...] = ()
    hearing_loss: bool = False
    well_again_on: date | None = None
    numbers: Mapping[str, float] = field(default_factory=dict)


_FILE = TypeAdapter(HistoryFile)


def read_history(text: str) -> tuple[History, date, Rules]:
    """The history of a file, the day it is looked at and the rules with its numbers; FileRefused with
    every problem by line."""
    data = json_of(text)
    if not isinstance(data, dict):
        raise FileRefused([Problem(1, "", "a history is an object in braces")])
    if data.get("format") == _FORMATS[0] and (odd := _of_format_two(data)):
        raise FileRefused([Problem(1, odd, "belongs to format 2")])
    came = read_as(_FILE, text, data)
    if unknown := sorted(_unknown_figures(came.sittings)):
        words = f"no figure is called {', '.join(unknown)}: {', '.join(sorted(RULE_FIGURES))}"
        raise FileRefused([Problem(1, "sittings", words)])
    try:
        program = program_of(came.program)
    except CoreError as error:
        raise FileRefused([Problem(1, "program", why_words(error))]) from error
    try:
        own = rules([Changed(path, value) for path, value in came.numbers.items()])
    except CoreError as error:
        raise FileRefused([Problem(1, "numbers", why_words(error))]) from error
    return _history(came, program), came.today, own


def _of_format_two(data: Mapping[str, Any]) -> str:
    """The first thing of a history that only format 2 has; "" for none."""
    for name in _OF_TWO:
        if name in data:
            return name
    sittings = data.get("sittings", ())
    for place, one in enumerate(sittings if isinstance(sittings, list) else ()):
        for name in _OF_TWO_SITTINGS:
            if isinstance(one, dict) and name in one:
                return f"sittings[{place}].{name}"
    return ""


def _unknown_figures(sittings: Iterable[PastSession]) -> set[str]:
    return {
        code
        for sitting in sittings
        for done in sitting.steps
        for figures in (done.figures, done.said, *(trial.figures for trial in done.trials))
        for code in figures
        if code not in RULE_FIGURES
    }


def _history(came: HistoryFile, program: Program) -> History:
    tasks = shipped_tasks()
    families = {
        step.step_id: tasks[step.task].family for step in program.all_steps if step.task in tasks
    }
    stretches = tuple(
        Prescribed(
            routine=one.key,
            first=came.active_since,
            last=None,
            dose=replace(one.dose, starts_on=one.dose.starts_on or came.active_since),
        )
        for one in program.routines
    )
    shared = {one.name for one in fields(HistoryFile)} & {one.name for one in fields(History)}
    said = {name: getattr(came, name) for name in shared}
    return History(
        **{
            **said,
            "program": program,
            "stretches": stretches,
            "families": {**families, **came.families},
        }
    )


def history_schema() -> dict[str, Any]:
    """The JSON Schema (2020-12) of format 2; format 1 lacks the fields that came with it."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "$id": SCHEMA_ID,
        **_FILE.json_schema(mode="validation"),
        "title": "Still Reed history",
    }
