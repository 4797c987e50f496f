"""Reads JSON from pages, sockets and files. The only place where untrusted JSON is parsed."""

import json
import math
from typing import Any

MOST_DEPTH = 40
LARGEST_WHOLE = 2**53
"""Beyond it a script cannot count exactly."""


class NotPlain(ValueError):
    """JSON that is refused. Line and column count from 1 and are given where known."""

    def __init__(self, words: str, line: int = 1) -> None:
        self.words, self.line = words, line
        super().__init__(words)


def read_json(text: str | bytes, *, finite: bool = True) -> Any:
    """Parse a JSON text. Raises NotPlain for invalid JSON or UTF-8, nesting deeper than 40, and text with NUL or half
    a surrogate pair, which the database cannot store; with `finite` also for NaN, infinity and numbers that
    overflow."""
    try:
        if isinstance(text, bytes):
            text = text.decode("utf-8")
        if finite:
            data = json.loads(text, parse_constant=_no_number, parse_float=_real, parse_int=_whole)
        else:
            data = json.loads(text)
    except json.JSONDecodeError as error:
        words = f"this is no JSON from column {error.colno} on: {error.msg}"
        raise NotPlain(words, error.lineno) from error
    except RecursionError as error:
        raise NotPlain("brackets are nested too deep") from error
    except NotPlain:
        raise
    except ValueError as error:  # no UTF-8, or a number of thousands of digits
        raise NotPlain("this cannot be read") from error
    _check(data, MOST_DEPTH)
    return data


def read_object(text: str | bytes) -> dict[str, Any]:
    """Like `read_json`, and the value has to be an object."""
    data = read_json(text)
    if not isinstance(data, dict):
        raise NotPlain("this is no object")
    return data


def _check(data: Any, depth: int) -> None:
    if isinstance(data, str):
        if "\x00" in data or any("\ud800" <= letter <= "\udfff" for letter in data):
            raise NotPlain("a text holds a character that cannot be kept")
    elif isinstance(data, dict | list):
        if depth == 0:
            raise NotPlain("brackets are nested too deep")
        if isinstance(data, dict):
            for key in data:
                _check(key, depth - 1)
        for value in data.values() if isinstance(data, dict) else data:
            _check(value, depth - 1)


def _no_number(name: str) -> float:
    raise NotPlain(f"{name} is no number")


def _real(text: str) -> float:
    value = float(text)
    if not math.isfinite(value):
        raise NotPlain("a number is too large")
    return value


def _whole(text: str) -> int:
    value = int(text)
    if abs(value) > LARGEST_WHOLE:
        raise NotPlain("a number is too large")
    return value
