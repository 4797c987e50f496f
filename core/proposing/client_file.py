"""A client as JSON: what `./reed propose` reads. Times are s, heights cm, notes by name.

Format 2 says of each red flag whether it is present; one that is absent has not been asked about, and so
has a state of the voice, an airway or a cold that is absent. In format 1 what is absent was asked, and the
answer was no.
"""

from collections.abc import Mapping
from dataclasses import fields
from typing import Any

from pydantic import TypeAdapter

from core.formats.reading import FileRefused, Problem, json_of, read_as
from core.proposing.request import PlanRequest
from core.safety.screening import RedFlag

FORMAT = 2
_READ = (1, 2)
_REQUEST = TypeAdapter(PlanRequest)
_ASKED = ("voice", "airway", "cold", "release")
"""Answers of a screening that were not asked where a file of format 2 does not have them."""
_OF_TWO = frozenset(
    {
        *("voice", "airway", "clear_since", "usual_voice_since", "release", "surgeons_date"),
        *("cuff_safe_on", "valve_tolerated_on", "upper_airway_seen_on", "botulinum_on"),
        *("paralysis_since", "throat_operated_on", "movement_examined_on", "voice_changing"),
        *("tone_heard", "usual_voice_reported"),
    }
)
"""Answers that a file of format 1 does not have."""


def read_client(text: str) -> PlanRequest:
    """The request of a client file of format 1 or 2; FileRefused with every problem by line."""
    data = json_of(text)
    if not isinstance(data, dict):
        raise FileRefused([Problem(1, "", "a client is an object in braces")])
    number = data.get("format")
    if number not in _READ or isinstance(number, bool):
        words = f"the format is {number!r}: formats 1 and 2 are read"
        raise FileRefused([Problem(1, "format", words)])
    data = {key: value for key, value in data.items() if key != "format"}
    came = data.get("screening")
    if isinstance(came, dict):
        if "unasked" in came:
            raise FileRefused([Problem(1, "screening.unasked", "is not known here")])
        data["screening"] = _screening_one(came) if number == 1 else _screening_two(came)
    return read_as(_REQUEST, text, data)


def _screening_one(came: Mapping[str, Any]) -> dict[str, Any]:
    """A screening of format 1; what only format 2 knows is refused."""
    if odd := sorted(_OF_TWO & set(came)):
        words = f"{odd[0]} belongs to format 2"
        raise FileRefused([Problem(1, f"screening.{odd[0]}", words)])
    return dict(came)


def _screening_two(came: Mapping[str, Any]) -> dict[str, Any]:
    """A screening of format 2 with its red flags as the core holds them."""
    answers = came.get("red_flags", {})
    if not isinstance(answers, dict) or not all(isinstance(v, bool) for v in answers.values()):
        words = 'red flags are an object such as {"blood": false, "ear_pain": true}'
        raise FileRefused([Problem(1, "screening.red_flags", words)])
    if odd := sorted(set(answers) - set(RedFlag)):
        known = ", ".join(RedFlag)
        words = f"{odd[0]} is not a red flag: {known}"
        raise FileRefused([Problem(1, "screening.red_flags", words)])
    return {
        **dict.fromkeys(_ASKED),
        **came,
        "red_flags": [flag for flag, present in answers.items() if present],
        "unasked": [flag.value for flag in RedFlag if flag.value not in answers],
    }


def client_data(request: PlanRequest) -> dict[str, Any]:
    """A request as plain data of format 2; `read_client` of its JSON gives the equal request back."""
    data = {"format": FORMAT, **_REQUEST.dump_python(request, mode="json")}
    if data["screening"] is not None:
        screening = data["screening"]
        present, unasked = set(screening["red_flags"]), set(screening.pop("unasked"))
        screening["red_flags"] = {
            flag.value: flag.value in present for flag in RedFlag if flag.value not in unasked
        }
    return data


def client_schema() -> dict[str, Any]:
    """The JSON Schema (2020-12) of a client file of format 2."""
    schema = _REQUEST.json_schema()
    screening = schema["$defs"]["Screening"]["properties"]
    del screening["unasked"]
    screening["red_flags"] = {
        "type": "object",
        "description": "Whether each red flag is present; one that is absent was not asked about.",
        "properties": {flag.value: {"type": "boolean"} for flag in RedFlag},
        "additionalProperties": False,
        "default": {},
    }
    for name in _ASKED:
        screening[name]["default"] = None
    schema["properties"] = {"format": {"const": FORMAT}, **schema["properties"]}
    needed = ["format", *(f.name for f in fields(PlanRequest) if f.name in ("today", "baseline"))]
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "$id": "still-reed/client/2",
        **schema,
        "required": needed,
        "title": "Still Reed client",
    }
