"""A client's record as an archive: JSON and CSV of every table, how they are built, a manifest that proves them."""

import csv
import hashlib
import io
import json
import zipfile
from collections.abc import Iterable, Mapping
from datetime import datetime
from typing import IO, Any

from django.db import transaction
from django.utils.crypto import constant_time_compare, salted_hmac

from core.formats.spreadsheet import as_words
from web.clients.models import Client
from web.clinic.models import AccessEvent, User
from web.records.former import READ
from web.records.rows import columns_of, data_of, schema_of
from web.records.tables import LEFT_OUT, TABLES, history_tables, rows_of

FORMAT = READ[-1]
SCHEMA_ID = FORMAT
_SALT = "web.records.manifest"


def installation() -> str:
    """Which installation this is: the same for as long as its secret key is."""
    return salted_hmac(_SALT, "installation", algorithm="sha256").hexdigest()[:32]


def signature_of(manifest: Mapping[str, Any]) -> str:
    """What only this installation can write under a manifest."""
    told = {key: value for key, value in manifest.items() if key != "signature"}
    text = json.dumps(told, sort_keys=True, ensure_ascii=False)
    return salted_hmac(_SALT, text, algorithm="sha256").hexdigest()


def is_signed_here(manifest: Mapping[str, Any]) -> bool:
    return constant_time_compare(signature_of(manifest), str(manifest.get("signature", "")))


@transaction.atomic
def write_record(client: Client, out: IO[bytes], *, now: datetime) -> None:
    """The archive of a client's record as it stands at one moment."""
    tables: dict[str, Any] = {}
    people: set[Any] = set()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, model in TABLES.items():
            rows = list(rows_of(model, client.pk))
            people |= people_in(model, rows)
            data = [data_of(row) for row in rows]
            tables[name] = _write(archive, f"record/{name}.json", data)
            archive.writestr(f"csv/{name}.csv", _as_csv(model, data))
        history = {}
        told: dict[str, type[Any]] = {**history_tables(), "access": AccessEvent}
        for name, model in told.items():
            rows = list(rows_of(model, client.pk))
            people |= people_in(model, rows)
            history[name] = _write(archive, f"history/{name}.json", [data_of(r) for r in rows])
        manifest: dict[str, Any] = {
            "format": FORMAT,
            "made_at": now.isoformat(),
            "installation": installation(),
            "clinic": {"id": str(client.clinic_id), "name": client.clinic.name},
            "client": {"id": str(client.pk), "name": client.name},
            "people": {str(one.pk): one.name for one in User.objects.filter(pk__in=people)},
            "tables": tables,
            "history": history,
            "left_out": dict(LEFT_OUT),
        }
        manifest["signature"] = signature_of(manifest)
        archive.writestr("manifest.json", _json(manifest))
        archive.writestr("schema.json", _json(record_schema()))
        archive.writestr("README.txt", readme(manifest))


def people_in(model: type[Any], rows: Iterable[Any]) -> set[Any]:
    """Ids of the staff these rows name."""
    names = [
        field.attname
        for field in columns_of(model)
        if field.is_relation and field.related_model is User
    ]
    return {getattr(row, name) for row in rows for name in names} - {None}


def _write(archive: zipfile.ZipFile, name: str, data: list[dict[str, Any]]) -> dict[str, Any]:
    text = _json(data).encode()
    archive.writestr(name, text)
    return {"file": name, "rows": len(data), "sha256": hashlib.sha256(text).hexdigest()}


def _json(data: Any) -> str:
    return json.dumps(data, ensure_ascii=False, indent=1)


def _as_csv(model: type[Any], data: Iterable[Mapping[str, Any]]) -> str:
    """A table for a spreadsheet; words that would be a formula there are told as words."""
    out = io.StringIO(newline="")
    writer = csv.DictWriter(out, [field.attname for field in columns_of(model)])
    writer.writeheader()
    for row in data:
        writer.writerow({name: _cell(value) for name, value in row.items()})
    return out.getvalue()


def _cell(value: Any) -> Any:
    if isinstance(value, dict | list):
        return json.dumps(value, ensure_ascii=False)
    return as_words(value) if isinstance(value, str) else value


def record_schema() -> dict[str, Any]:
    """The JSON Schema (2020-12) of the tables of a record, by the name of the file."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "$id": SCHEMA_ID,
        "title": "Still Reed record: one array of rows for each table",
        "type": "object",
        "properties": {
            name: {"type": "array", "items": schema_of(model)} for name, model in TABLES.items()
        },
        "required": list(TABLES),
        "additionalProperties": False,
    }


def readme(manifest: Mapping[str, Any]) -> str:
    """What is in the archive, for whoever opens it without us."""
    tables = "\n".join(f"  {name}: {one['rows']} rows" for name, one in manifest["tables"].items())
    left_out = "\n".join(f"  {name}: {why}" for name, why in manifest["left_out"].items())
    return f"""The whole record of one client, as {manifest["clinic"]["name"]} held it on {manifest["made_at"]}.

record/     every table as JSON, an array of rows; schema.json says what each column holds
csv/        the same tables for a spreadsheet
history/    how rows changed and who opened the record, as JSON
manifest.json   what is in here, with a SHA-256 of each file; who the people behind the ids are

Ids are UUIDs. Times are ISO 8601 in UTC, days are the client's own. Columns that end in _s are seconds, _hz Hz,
_db dB, _cents cents, _semitones semitones, _cm cm, _ml mL, _min minutes. An empty value (null) is "not known", never 0.
contours: pitch in 1/50 Hz (0 = none) and level in 1/100 dB, one 16-bit little-endian integer every 10 ms,
compressed with zlib, as base64.
program_versions.content is a program of its own published format (docs/formats/program.schema.json).

Tables
{tables}

Left out, and why
{left_out}

This record supports, and does not replace, care by a licensed clinician. It holds what a client has told in confidence:
local law says who may keep it, and for how long.
"""
