"""On which line of a JSON text each value stands."""

import json
import re
from typing import Any

Path = tuple[str | int, ...]
_TOKEN = re.compile(r'\s*("(?:[^"\\]|\\.)*"|[{}\[\],:]|[^\s{}\[\],:"]+)')


def lines_of(text: str) -> dict[Path, int]:
    """Line numbers, from 1, of every value of a JSON text that `json.loads` reads, by its path."""
    found: dict[Path, int] = {}
    stack: list[dict[str, Any]] = []
    path: Path = ()
    for match in _TOKEN.finditer(text):
        token = match[1]
        line = text.count("\n", 0, match.start(1)) + 1
        inside = stack[-1] if stack else None
        if token in "}]":
            stack.pop()
            path = path[: len(stack)]
        elif token == ",":
            if inside is not None and inside["array"]:
                inside["at"] += 1
        elif token == ":":
            continue
        elif inside is not None and not inside["array"] and inside["key"] is None:
            inside["key"] = json.loads(token)
            continue
        else:
            here = path + ((inside["at"] if inside["array"] else inside["key"],) if inside else ())
            found.setdefault(here, line)
            if inside is not None and not inside["array"]:
                inside["key"] = None
            if token in "{[":
                path = here
                stack.append({"array": token == "[", "at": 0, "key": None, "path": path})
                continue
        path = stack[-1]["path"] if stack else ()
    return found


def line_of(found: dict[Path, int], path: Path) -> int:
    """The line of a path, or of the nearest place around it that is there; parts of the path that
    are not in the text (the name of a kind) are passed over."""
    here: Path = ()
    for part in path:
        if (*here, part) in found:
            here = (*here, part)
    return found.get(here, 1)
