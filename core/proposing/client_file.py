"""A client as JSON: what `./reed propose` reads. Times are s, heights cm, notes by name."""

from dataclasses import fields
from typing import Any

from pydantic import TypeAdapter

from core.formats.reading import FileRefused, Problem, json_of, read_as
from core.proposing.request import PlanRequest

FORMAT = 1
_REQUEST = TypeAdapter(PlanRequest)


def read_client(text: str) -> PlanRequest:
    """The request of a client file; FileRefused with every problem by line."""
    data = json_of(text)
    if not isinstance(data, dict):
        raise FileRefused([Problem(1, "", "a client is an object in braces")])
    if data.get("format") != FORMAT:
        words = f"the format is {data.get('format')!r}: format {FORMAT} is read"
        raise FileRefused([Problem(1, "format", words)])
    return read_as(_REQUEST, text, {key: v for key, v in data.items() if key != "format"})


def client_data(request: PlanRequest) -> dict[str, Any]:
    """A request as plain data; `read_client` of its JSON gives the equal request back."""
    return {"format": FORMAT, **_REQUEST.dump_python(request, mode="json")}


def client_schema() -> dict[str, Any]:
    """The JSON Schema (2020-12) of a client file."""
    schema = _REQUEST.json_schema()
    schema["properties"] = {"format": {"const": FORMAT}, **schema["properties"]}
    needed = ["format", *(f.name for f in fields(PlanRequest) if f.name in ("today", "baseline"))]
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "$id": "still-reed/client/1",
        **schema,
        "required": needed,
        "title": "Still Reed client",
    }
