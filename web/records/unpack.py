"""An archive is read and proved before a row of it is taken: shape, sizes, digests, whose it is."""

import hashlib
import re
import zipfile
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import datetime
from typing import IO, Any
from uuid import UUID

from django.utils.translation import gettext as _

from core.formats.json_input import NotPlain, read_json
from core.formats.packed import DAMAGED, TooLarge, member_of
from web.clinic.models import User
from web.records.former import READ, as_today, has_table
from web.records.pack import installation, is_signed_here
from web.records.rows import RowRefused, columns_of, row_of
from web.records.tables import TABLES

MOST_PACKED = 300_000_000
MOST_UNPACKED = 600_000_000
_MOST_MEMBER = 250_000_000
_MOST_MEMBERS = 300
_MOST_PEOPLE = 2_000
_NAME = re.compile(
    r"(record|csv|history)/[a-z_]{1,60}\.(json|csv)|manifest\.json|schema\.json|README\.txt"
)


class ArchiveRefused(ValueError):
    """An archive that is not taken in, in words."""

    def __init__(self, words: str) -> None:
        self.words = words
        super().__init__(words)


@dataclass(frozen=True)
class UnpackedRecord:
    """What an archive holds: rows by table, not yet saved, and where it comes from."""

    tables: Mapping[str, list[Any]]
    people: Mapping[UUID, str]
    installation: str
    ours: bool
    clinic_id: str
    clinic_name: str
    made_at: datetime
    sha256: str

    @property
    def client(self) -> Any:
        return self.tables["client"][0]

    @property
    def rows(self) -> int:
        return sum(map(len, self.tables.values()))


@contextmanager
def open_archive(file: IO[bytes]) -> Iterator[zipfile.ZipFile]:
    """A zip archive; ArchiveRefused where it is none, or is found damaged while it is read."""
    try:
        with zipfile.ZipFile(file) as archive:
            yield archive
    except DAMAGED as error:
        raise ArchiveRefused(_("This is no archive that can be read, or it is damaged.")) from error


def read_record(file: IO[bytes]) -> UnpackedRecord:
    """The record of an archive; ArchiveRefused, in words, for everything that is not whole and of a known format."""
    with open_archive(file) as archive:
        return _read(archive)


def _read(archive: zipfile.ZipFile) -> UnpackedRecord:
    members = archive.infolist()
    if len(members) > _MOST_MEMBERS or sum(one.file_size for one in members) > MOST_UNPACKED:
        raise ArchiveRefused(_("The archive unfolds to more than a record can be."))
    names = [one.filename for one in members]
    if len(set(names)) != len(names) or not all(map(_NAME.fullmatch, names)):
        raise ArchiveRefused(_("There are files in it that no record has."))
    text = file_in(archive, "manifest.json")
    manifest = _manifest(text)
    known = {name for name in TABLES if has_table(manifest["format"], name)}
    tables = {name: _table(archive, manifest, name) if name in known else [] for name in TABLES}
    if set(manifest["tables"]) != known:
        raise ArchiveRefused(_("Its tables are not those of this format."))
    if len(tables["client"]) != 1 or str(tables["client"][0].pk) != manifest["client"]["id"]:
        raise ArchiveRefused(_("It is not the record of one client."))
    ours, people = is_ours(manifest), people_of(manifest)
    _check_links(tables, people)
    return UnpackedRecord(
        tables=tables,
        people=people,
        installation=manifest["installation"],
        ours=ours,
        clinic_id=manifest["clinic"]["id"],
        clinic_name=manifest["clinic"]["name"][:120],
        made_at=datetime.fromisoformat(manifest["made_at"]),
        sha256=hashlib.sha256(text).hexdigest(),
    )


def is_ours(manifest: Mapping[str, Any]) -> bool:
    """Whether this installation made it; ArchiveRefused where it did, and something was altered since."""
    ours = manifest["installation"] == installation()
    if ours and not is_signed_here(manifest):
        raise ArchiveRefused(_("It was altered after it was made here."))
    return ours


def people_of(manifest: Mapping[str, Any]) -> dict[UUID, str]:
    """Names by id of everybody of the staff it names; ArchiveRefused for what is no such list."""
    try:
        if len(manifest["people"]) > _MOST_PEOPLE:
            raise ValueError("people")
        return {UUID(key): str(name)[:120] for key, name in manifest["people"].items()}
    except (KeyError, TypeError, ValueError, AttributeError) as error:
        raise ArchiveRefused(_("Its manifest cannot be read.")) from error


def _manifest(text: bytes) -> dict[str, Any]:
    """The manifest by its shape."""
    try:
        data = read_json(text)
        if not isinstance(data, dict) or data.get("format") not in READ:
            came = data.get("format") if isinstance(data, dict) else None
            words = _("Its format is %(came)s; this release reads %(known)s.")
            raise ArchiveRefused(words % {"came": str(came)[:60], "known": ", ".join(READ)})
        for part in ("clinic", "client"):
            UUID(data[part]["id"])
            if not isinstance(data[part]["name"], str):
                raise ValueError(part)
        if datetime.fromisoformat(data["made_at"]).tzinfo is None:
            raise ValueError("made_at")
        if not re.fullmatch(r"[0-9a-f]{32}", data["installation"]):
            raise ValueError("installation")
        for one in data["tables"].values():
            if not isinstance(one["sha256"], str):
                raise ValueError("sha256")
    except ArchiveRefused:
        raise
    except (NotPlain, KeyError, TypeError, ValueError, AttributeError) as error:
        raise ArchiveRefused(_("Its manifest cannot be read.")) from error
    return data


def file_in(archive: zipfile.ZipFile, name: str, *, most: int = _MOST_MEMBER) -> bytes:
    """A file of the archive, never more of it than may be; ArchiveRefused."""
    try:
        return member_of(archive, name, most=most)
    except KeyError as error:
        words = _("%(name)s is missing in it.") % {"name": name}
        raise ArchiveRefused(words) from error
    except TooLarge as error:
        raise ArchiveRefused(_("The archive unfolds to more than a record can be.")) from error


def _table(archive: zipfile.ZipFile, manifest: Mapping[str, Any], name: str) -> list[Any]:
    told = manifest["tables"].get(name)
    if told is None:
        raise ArchiveRefused(_("Its tables are not those of this format."))
    text = file_in(archive, f"record/{name}.json")
    if hashlib.sha256(text).hexdigest() != told["sha256"]:
        words = _("%(name)s was altered or damaged: it is not what the manifest says.")
        raise ArchiveRefused(words % {"name": f"record/{name}.json"})
    try:
        data = read_json(text)
    except NotPlain as error:
        words = _("%(name)s, line %(line)s: %(why)s.")
        told_words = words % {"name": name, "line": error.line, "why": error.words}
        raise ArchiveRefused(told_words) from error
    if not isinstance(data, list) or len(data) != told.get("rows"):
        words = _("%(name)s has another number of rows than the manifest says.")
        raise ArchiveRefused(words % {"name": name})
    found = []
    for number, row in enumerate(data, start=1):
        try:
            found.append(row_of(TABLES[name], as_today(manifest["format"], name, row)))
        except RowRefused as error:
            words = _("%(name)s, row %(number)s: %(why)s.")
            said = words % {"name": name, "number": number, "why": error}
            raise ArchiveRefused(said) from error
    return found


def _check_links(tables: Mapping[str, list[Any]], people: Mapping[UUID, str]) -> None:
    """Every row points at rows of this very archive, or at somebody it names: nothing reaches into another record."""
    by_model: dict[Any, set[Any]] = {
        TABLES[name]: {row.pk for row in rows} for name, rows in tables.items()
    }
    for name, rows in tables.items():
        links = [field for field in columns_of(TABLES[name]) if field.is_relation]
        for field in links:
            known = people if field.related_model is User else by_model[field.related_model]
            for row in rows:
                to = getattr(row, field.attname)
                if to is not None and to not in known:
                    words = _("%(name)s: %(column)s points at what is not in the archive.")
                    said = words % {"name": name, "column": field.attname}
                    raise ArchiveRefused(said)
