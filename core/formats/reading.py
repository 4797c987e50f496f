"""Reads JSON into the types of the core and says line by line what does not fit."""

import json
from dataclasses import dataclass
from typing import Any, TypeVar

from pydantic import TypeAdapter, ValidationError

from core.errors import CoreError
from core.fitting.why_words import why_words
from core.formats.json_input import NotPlain, read_json
from core.formats.lines import line_of, lines_of

_T = TypeVar("_T")
MOST_BYTES = 2_000_000
MOST_PROBLEMS = 50


@dataclass(frozen=True, slots=True)
class Problem:
    """One thing that does not fit: line from 1, where in the file, what and what would work."""

    line: int
    where: str
    words: str

    def __str__(self) -> str:
        return (
            f"line {self.line}, {self.where}: {self.words}"
            if self.where
            else (f"line {self.line}: {self.words}")
        )


class FileRefused(CoreError):
    """A file that cannot be used; `problems` says line by line why. Nothing of it was taken."""

    def __init__(self, problems: list[Problem]) -> None:
        self.problems = problems
        super().__init__("file_refused", problems=[str(problem) for problem in problems])


def json_of(text: str) -> Any:
    """The JSON of a text; FileRefused with the line where it stops being JSON."""
    if len(text.encode(errors="replace")) > MOST_BYTES:
        raise FileRefused([Problem(1, "", f"the file is over {MOST_BYTES // 1_000_000} MB")])
    try:
        return read_json(text, finite=False)
    except NotPlain as error:
        raise FileRefused([Problem(error.line, "", error.words)]) from error


def read_as(adapter: TypeAdapter[_T], text: str, data: Any) -> _T:
    """`data`, read from `text`, as the adapter's type; FileRefused with every problem."""
    try:
        return adapter.validate_json(json.dumps(data), strict=True)
    except ValidationError as error:
        raise FileRefused(problems_of(error, text)) from error


def problems_of(error: ValidationError, text: str) -> list[Problem]:
    """The problems of a validation by line, at most 50."""
    found = lines_of(text)
    problems = [
        Problem(line_of(found, tuple(one["loc"])), where_of(tuple(one["loc"])), _words(one))
        for one in error.errors(include_url=False)[:MOST_PROBLEMS]
    ]
    return sorted(problems, key=lambda problem: problem.line)


def where_of(path: tuple[str | int, ...]) -> str:
    """A path as it is said: routines[0].steps[2].task."""
    return "".join(f"[{p}]" if isinstance(p, int) else f".{p}" for p in path).lstrip(".")


def _words(one: Any) -> str:
    context = one.get("ctx", {})
    came = one.get("input")
    if isinstance(context.get("error"), CoreError):
        return why_words(context["error"])
    if one["type"] == "missing":
        return "is missing"
    if one["type"] in ("extra_forbidden", "unexpected_keyword_argument"):
        return "is not known here"
    if one["type"] == "greater_than_equal":
        return f"{came!r} is too small: at least {context['ge']:g}"
    if one["type"] == "less_than_equal":
        return f"{came!r} is too large: at most {context['le']:g}"
    shown = "" if isinstance(came, dict | list) else f"{came!r}: "
    return shown + one["msg"][0].lower() + one["msg"][1:]
