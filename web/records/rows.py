"""A stored row as plain data and back; each column by its type, nothing guessed."""

import base64
import binascii
import math
import uuid
from collections.abc import Mapping
from datetime import UTC, date, datetime
from typing import Any

from django.db import models

from web.records.tables import SKIPPED


class RowRefused(ValueError):
    """A row that is none of its table: which column, and why."""


_JSON: Mapping[Any, str] = {dict: "object", list: "array"}
"""What a column of JSON that begins empty holds, by what it begins as."""


def columns_of(model: type[Any]) -> list["models.Field[Any, Any]"]:
    """The columns an archive holds of a table."""
    return [field for field in model._meta.concrete_fields if field.attname not in SKIPPED]


def data_of(row: Any) -> dict[str, Any]:
    """A row by its columns: ids as text, times ISO 8601 in UTC, days ISO, bytes base64."""
    return {field.attname: _plain(field.value_from_object(row)) for field in columns_of(type(row))}


def _plain(value: Any) -> Any:
    if isinstance(value, datetime):
        return value.astimezone(UTC).isoformat()
    if isinstance(value, date):
        return value.isoformat()
    if isinstance(value, uuid.UUID):
        return str(value)
    if isinstance(value, bytes | memoryview):
        return base64.b64encode(bytes(value)).decode("ascii")
    return value


def row_of(model: type[Any], data: Any) -> Any:
    """A row of a table, not yet saved; RowRefused for a missing or unknown column and for a value its column cannot
    hold."""
    columns = {field.attname: field for field in columns_of(model)}
    if not isinstance(data, Mapping):
        raise RowRefused("a row is an object in braces")
    if unknown := set(data) - set(columns):
        raise RowRefused(f"unknown column {sorted(unknown)[0]}")
    if missing := set(columns) - set(data):
        raise RowRefused(f"missing column {sorted(missing)[0]}")
    return model(**{name: _value(columns[name], value) for name, value in data.items()})


def _value(field: "models.Field[Any, Any]", value: Any) -> Any:
    if value is None:
        if not field.null:
            raise RowRefused(f"{field.attname} is empty")
        return None
    if isinstance(field, models.JSONField):
        if field.default in _JSON and not isinstance(value, field.default):
            raise RowRefused(f"{field.attname} is no {_JSON[field.default]}")
        return value
    if field.choices and value not in _choices(field):
        raise RowRefused(f"{field.attname}: {str(value)[:40]} is none of its choices")
    read = _READERS[_sort(field)]
    try:
        found = read(value)
    except (ValueError, TypeError, AttributeError, OverflowError, binascii.Error) as error:
        raise RowRefused(f"{field.attname}: {str(value)[:40]} cannot be read") from error
    most = getattr(field, "max_length", None)
    if isinstance(found, str) and most is not None and len(found) > most:
        raise RowRefused(f"{field.attname} is longer than {most}")
    return found


def _choices(field: "models.Field[Any, Any]") -> list[Any]:
    """What the column may hold; nothing too, where it may be left empty."""
    return [*([""] if field.blank else []), *(key for key, _words in field.flatchoices)]


def _sort(field: "models.Field[Any, Any]") -> str:
    """What kind of value a column holds, as the schema says it too."""
    if field.is_relation or isinstance(field, models.UUIDField):
        return "uuid"
    for kind, name in _SORTS:
        if isinstance(field, kind):
            return name
    raise TypeError(f"{field} is of no known type")


_SORTS: tuple[tuple[type[Any], str], ...] = (
    (models.DateTimeField, "date-time"),
    (models.DateField, "date"),
    (models.BooleanField, "boolean"),
    (models.FloatField, "number"),
    (models.PositiveSmallIntegerField, "small"),
    (models.IntegerField, "integer"),
    (models.BinaryField, "base64"),
    (models.CharField, "text"),
    (models.TextField, "text"),
)


def _whole(value: Any, most: int = 2**31 - 1) -> int:
    if type(value) is not int or not 0 <= value <= most:
        raise ValueError(value)
    return value


def _number(value: Any) -> float:
    if type(value) not in (int, float) or not math.isfinite(value):
        raise ValueError(value)
    return float(value)


def _truth(value: Any) -> bool:
    if type(value) is not bool:
        raise ValueError(value)
    return value


def _text(value: Any) -> str:
    if not isinstance(value, str):
        raise ValueError(value)
    return value


def _time(value: Any) -> datetime:
    at = datetime.fromisoformat(value)
    if at.tzinfo is None:
        raise ValueError(value)
    return at


_READERS: Mapping[str, Any] = {
    "uuid": uuid.UUID,
    "date-time": _time,
    "date": date.fromisoformat,
    "boolean": _truth,
    "number": _number,
    "small": lambda value: _whole(value, 32_767),
    "integer": _whole,
    "base64": lambda value: base64.b64decode(value, validate=True),
    "text": _text,
}


def schema_of(model: type[Any]) -> dict[str, Any]:
    """The JSON Schema of a row of a table."""
    properties = {field.attname: _schema(field) for field in columns_of(model)}
    return {
        "type": "object",
        "properties": properties,
        "required": list(properties),
        "additionalProperties": False,
    }


def _schema(field: "models.Field[Any, Any]") -> dict[str, Any]:
    if isinstance(field, models.JSONField):
        if field.default not in _JSON:
            return {}
        kind = _JSON[field.default]
        return {"type": [kind, "null"] if field.null else kind}
    sort = _sort(field)
    said: dict[str, Any] = {"type": "string"}
    if sort in ("uuid", "date-time", "date"):
        said["format"] = sort
    elif sort == "base64":
        said["contentEncoding"] = "base64"
    elif sort in ("boolean", "number"):
        said["type"] = sort
    elif sort in ("small", "integer"):
        said |= {"type": "integer", "minimum": 0}
    elif getattr(field, "max_length", None):
        said["maxLength"] = field.max_length
    if field.choices:
        said["enum"] = _choices(field)
    if field.null:
        said["type"] = [said["type"], "null"]
        if "enum" in said:
            said["enum"] = [*said["enum"], None]
    return said
