"""A program as JSON: exact there and back, versioned; the schema is published in docs/formats."""

from collections.abc import Iterator, Mapping
from dataclasses import replace
from typing import Any

from pydantic import TypeAdapter, ValidationError

from core.catalogue.tasks import Task
from core.errors import CoreError, PlanError
from core.formats import format_one, format_three, format_two
from core.formats.lines import Path, line_of, lines_of
from core.formats.reading import FileRefused, Problem, json_of, read_as, where_of
from core.program.dosing import Dose
from core.program.program import Program
from core.program.step import Step

FORMAT = 4
SCHEMA_ID = "still-reed/program/4"
_PROGRAM = TypeAdapter(Program)
_DOSE = TypeAdapter(Dose)


def data_of(program: Program) -> dict[str, Any]:
    """Plain JSON data; notes as names, days and times as ISO text. `program_of` gives the equal
    program back."""
    return {"format": FORMAT, **_PROGRAM.dump_python(program, mode="json")}


def dose_data(dose: Dose) -> dict[str, Any]:
    """A dose alone as plain data; `dose_of` gives it back."""
    return _DOSE.dump_python(dose, mode="json")


def dose_of(data: Mapping[str, Any]) -> Dose:
    return _DOSE.validate_python(data)


def program_of(data: Mapping[str, Any]) -> Program:
    """The program of data in formats 1 to 4; PlanError("format_unknown"), ("program_unreadable")."""
    try:
        return _PROGRAM.validate_python(_body(data))
    except ValidationError as error:
        first = error.errors(include_url=False)[0]
        inner = first.get("ctx", {}).get("error")
        if isinstance(inner, PlanError):
            raise inner from error
        reason = f"{'.'.join(map(str, first['loc']))}: {first['msg']}"
        raise PlanError("program_unreadable", reason=reason) from error


def read_program(text: str, *, tasks: Mapping[str, Task] | None = None) -> Program:
    """The program of a file; FileRefused with every problem by line, and nothing taken.

    tasks: the catalogue of whoever takes it in. A step whose task is not in it is a problem, since
    nobody could tell what it touches; what the catalogue says it touches is added to the step.
    """
    data = json_of(text)
    if not isinstance(data, dict):
        raise FileRefused([Problem(1, "", "a program is an object in braces")])
    try:
        body = _body(data)
    except CoreError as error:
        came = data.get("format")
        words = f"the format is {came!r}: formats 1 to {FORMAT} are read"
        if error.code == "program_unreadable":
            words = f"this program of format {came} cannot be read: {error.params.get('reason')}"
        raise FileRefused([Problem(1, "format", words)]) from error
    program = read_as(_PROGRAM, text, body)
    return program if tasks is None else _with_known_tasks(program, tasks, text)


def _with_known_tasks(program: Program, tasks: Mapping[str, Task], text: str) -> Program:
    lines = lines_of(text)
    older = ("routines", 0) not in lines
    unknown = [
        Problem(
            line_of(lines, path[2:] if older else path),
            where_of(path[2:] if older else path),
            f"“{step.task}” is no task of this clinic: add it in the Library first",
        )
        for path, step in _places(program)
        if step.task not in tasks
    ]
    if unknown:
        raise FileRefused(unknown)
    return program.each_step(
        lambda step: replace(
            step, touches=tuple(sorted({*step.touches, *tasks[step.task].touches}))
        )
    )


def _places(program: Program) -> Iterator[tuple[Path, Step]]:
    for place, routine in enumerate(program.routines):
        for number, step in enumerate(routine.steps):
            yield ("routines", place, "steps", number, "task"), step
        if routine.short_day is not None:
            yield ("routines", place, "short_day", "task"), routine.short_day


def program_schema() -> dict[str, Any]:
    """The JSON Schema (2020-12) of format 4."""
    schema = _PROGRAM.json_schema(mode="serialization")
    schema["properties"] = {"format": {"const": FORMAT}, **schema["properties"]}
    schema["required"] = ["format", *schema["required"]]
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "$id": SCHEMA_ID,
        **schema,
        "title": "Still Reed program",
    }


def _body(data: Mapping[str, Any]) -> dict[str, Any]:
    if not isinstance(data, Mapping):
        raise PlanError("program_unreadable", reason="a program is an object in braces")
    came = data.get("format")
    if came == 1:
        data = format_one.upgraded(data)
    if came in (1, 2):
        data = format_two.upgraded(data)
    if came in (1, 2, 3):
        data = format_three.upgraded(data)
    elif came != FORMAT:
        raise PlanError("format_unknown", came=came, expected=FORMAT)
    return {key: value for key, value in data.items() if key != "format"}
