"""All records of a clinic in one archive, written while it is sent, and taken in again."""

import hashlib
import io
import json
import re
import tempfile
import zipfile
from collections.abc import Callable, Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import datetime
from typing import IO, Any
from uuid import UUID

from django.utils.translation import gettext as _

from core.formats.json_input import NotPlain, read_json
from web.clients.models import Client
from web.clinic.models import Clinic, User
from web.library.models import ClinicTask, HiddenTask, OwnMaterial
from web.programs.models import ProgramTemplate
from web.records.pack import installation, people_in, signature_of, write_record
from web.records.rows import RowRefused, data_of, row_of
from web.records.unpack import (
    ArchiveRefused,
    UnpackedRecord,
    file_in,
    is_ours,
    open_archive,
    people_of,
    read_record,
)
from web.review.models import RuleNumber

FORMAT = "still-reed/clinic/1"
Told = Callable[[int, int], None]
"""How far it is: so many of so many records."""
OWN: Mapping[str, type[Any]] = {
    "tasks": ClinicTask,
    "hidden_tasks": HiddenTask,
    "materials": OwnMaterial,
    "templates": ProgramTemplate,
    "rule_numbers": RuleNumber,
}
"""What a clinic's own work is, besides its records; settings and staff stay with the clinic."""
_MOST_MANIFEST = 50_000_000
_MOST_RECORDS = 20_000
_NAME = re.compile(r"records/[0-9a-f-]{36}\.zip|clinic\.json|README\.txt")
_README = """All records of a clinic. records/ holds an archive of each client, each whole by itself (see its README);
clinic.json the clinic's own tasks, reading material, templates and rules, and a SHA-256 of every record.
Who signs in, and the settings of the clinic, are not in it.

These records support, and do not replace, care by licensed clinicians. They hold what clients have told in confidence:
local law says who may keep them, and for how long.
"""


class _Sink(io.RawIOBase):
    """Takes what the archive writes, piece by piece; nothing is gone back to."""

    def __init__(self) -> None:
        self._pieces: list[bytes] = []

    def writable(self) -> bool:
        return True

    def write(self, data: Any) -> int:
        self._pieces.append(bytes(data))
        return len(data)

    def taken(self) -> bytes:
        """What was written since the last time."""
        found, self._pieces = b"".join(self._pieces), []
        return found


def clinic_in_pieces(clinic: Clinic, *, now: datetime, told: Told) -> Iterator[bytes]:
    """The archive, a piece for each record: no more than one of them is held at a time."""
    sink = _Sink()
    ids = list(Client.objects.for_clinic(clinic).order_by("pk").values_list("pk", flat=True))
    records = {}
    with zipfile.ZipFile(sink, "w", zipfile.ZIP_STORED) as archive:
        for done, pk in enumerate(ids, start=1):
            client = Client.objects.select_related("clinic").filter(pk=pk).first()
            if client is not None:  # erased meanwhile
                data = _record(client, now)
                archive.writestr(f"records/{pk}.zip", data)
                records[str(pk)] = hashlib.sha256(data).hexdigest()
            told(done, len(ids))
            yield sink.taken()
        archive.writestr("clinic.json", json.dumps(_manifest(clinic, records, now), indent=1))
        archive.writestr("README.txt", _README)
    yield sink.taken()


def _record(client: Client, now: datetime) -> bytes:
    with tempfile.SpooledTemporaryFile(max_size=8_000_000) as out:
        write_record(client, out, now=now)
        out.seek(0)
        return out.read()


def _manifest(clinic: Clinic, records: Mapping[str, str], now: datetime) -> dict[str, Any]:
    own = {name: list(_own_rows(model, clinic)) for name, model in OWN.items()}
    people = set().union(*(people_in(model, own[name]) for name, model in OWN.items()))
    manifest: dict[str, Any] = {
        "format": FORMAT,
        "made_at": now.isoformat(),
        "installation": installation(),
        "clinic": {"id": str(clinic.pk), "name": clinic.name},
        "people": {str(one.pk): one.name for one in User.objects.filter(pk__in=people)},
        "own": {name: [data_of(row) for row in rows] for name, rows in own.items()},
        "records": dict(records),
    }
    manifest["signature"] = signature_of(manifest)
    return manifest


def _own_rows(model: type[Any], clinic: Clinic) -> Any:
    rows = model._default_manager.filter(clinic=clinic).order_by("pk")
    return rows.filter(client=None) if model is RuleNumber else rows


@dataclass(frozen=True)
class WholeClinic:
    """An archive of a clinic, every record of it proved once: its own rows not yet saved, who is named in these."""

    archive: zipfile.ZipFile
    digests: Mapping[str, str]
    own: Mapping[str, list[Any]]
    people: Mapping[UUID, str]

    def records(self) -> Iterator[UnpackedRecord]:
        """Each record, read when it is asked for: no two of them are held at a time."""
        for key, digest in self.digests.items():
            with self.archive.open(f"records/{key}.zip") as member, _spooled(member, digest) as one:
                yield _proved(one, key)


def is_whole_clinic(file: IO[bytes]) -> bool:
    """Whether an archive says it is one of a clinic; the file is at its beginning again."""
    try:
        with open_archive(file) as archive:
            return "clinic.json" in archive.namelist()
    except ArchiveRefused:
        return False
    finally:
        file.seek(0)


@contextmanager
def read_clinic(file: IO[bytes], *, told: Told) -> Iterator[WholeClinic]:
    """The clinic of an archive, once every record was proved; ArchiveRefused where a single one is not. The file stays
    open while it is used."""
    with open_archive(file) as archive:
        members = archive.infolist()
        names = [one.filename for one in members]
        odd = len(set(names)) != len(names) or not all(map(_NAME.fullmatch, names))
        if odd or len(names) > _MOST_RECORDS:
            raise ArchiveRefused(_("There are files in it that no clinic has."))
        if any(one.compress_type != zipfile.ZIP_STORED for one in members):
            # a record is packed already: what unfolds once more is none of ours, and could unfold without end
            raise ArchiveRefused(_("The archive unfolds to more than a record can be."))
        manifest = _read_manifest(file_in(archive, "clinic.json", most=_MOST_MANIFEST))
        if {f"records/{key}.zip" for key in manifest["records"]} != {
            name for name in names if name.startswith("records/")
        }:
            raise ArchiveRefused(_("Its records are not those its list names."))
        people = people_of(manifest)
        whole = WholeClinic(archive, manifest["records"], _read_own(manifest, people), people)
        for done, _record in enumerate(whole.records(), start=1):
            told(done, len(whole.digests))
        yield whole


def _read_manifest(text: bytes) -> dict[str, Any]:
    try:
        data = read_json(text)
        if not isinstance(data, dict) or data.get("format") != FORMAT:
            raise ArchiveRefused(_("Its format is not known."))
        for key, digest in data["records"].items():
            UUID(key)
            if not isinstance(digest, str):
                raise ValueError(key)
        if set(data["own"]) != set(OWN):
            raise ValueError("own")
        is_ours(data)
    except ArchiveRefused:
        raise
    except (NotPlain, KeyError, TypeError, ValueError, AttributeError) as error:
        raise ArchiveRefused(_("Its manifest cannot be read.")) from error
    return data


def _spooled(member: IO[bytes], digest: str) -> Any:
    """A record of the archive as a file of its own, if it is what the list says."""
    held = tempfile.SpooledTemporaryFile(max_size=8_000_000)  # noqa: SIM115  (the caller closes it)
    found = hashlib.sha256()
    while piece := member.read(1_000_000):
        found.update(piece)
        held.write(piece)
    held.seek(0)
    if found.hexdigest() != digest:
        held.close()
        raise ArchiveRefused(_("A record in it was altered or damaged."))
    return held


def _proved(file: IO[bytes], key: str) -> UnpackedRecord:
    try:
        record = read_record(file)
    except ArchiveRefused as refused:
        words = _("Record %(id)s: %(why)s") % {"id": key, "why": refused.words}
        raise ArchiveRefused(words) from refused
    if str(record.client.pk) != key:
        raise ArchiveRefused(_("Its records are not those its list names."))
    return record


def _read_own(manifest: Mapping[str, Any], people: Mapping[UUID, str]) -> dict[str, list[Any]]:
    found: dict[str, list[Any]] = {}
    for name, model in OWN.items():
        try:
            found[name] = [row_of(model, row) for row in manifest["own"][name]]
        except (RowRefused, TypeError) as error:
            words = _("%(name)s: %(why)s.") % {"name": name, "why": error}
            raise ArchiveRefused(words) from error
        if people_in(model, found[name]) - people.keys():
            raise ArchiveRefused(_("Somebody in it is not named."))
    return found
