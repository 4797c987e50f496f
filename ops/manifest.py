"""What stands beside a backup: how it can be known again, and how many rows of which table are in it."""

import collections
import hashlib
import json
import subprocess
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from ops.phases import PhaseFailed
from ops.postgres import tool_at

FORMAT = "still-reed-backup/1"
_PIECE = 1 << 20


def beside(file: Path) -> Path:
    """Where the manifest of an archive lies."""
    return file.with_name(file.name + ".manifest.json")


def written(file: Path) -> Path:
    """Read the archive itself and write its manifest, readable by its owner only."""
    data = {
        "format": FORMAT,
        "made_at": datetime.now(UTC).isoformat(timespec="seconds"),
        "bytes": file.stat().st_size,
        "sha256": digest_of(file),
        "rows": rows_in(file),
    }
    path = beside(file)
    path.touch(mode=0o600)
    path.write_text(json.dumps(data, indent=1) + "\n", encoding="utf-8")
    return path


def checked(file: Path) -> dict[str, int]:
    """The rows by table that an archive promises; PhaseFailed where it has no manifest or is not what it was."""
    path = beside(file)
    try:
        said: dict[str, Any] = json.loads(path.read_text(encoding="utf-8"))
        rows = {str(table): int(count) for table, count in said["rows"].items()}
        known = (said["format"], int(said["bytes"]), str(said["sha256"]))
    except FileNotFoundError as error:
        raise PhaseFailed(
            f"{path.name} is not there: what the archive was cannot be checked. Copy it beside the archive."
        ) from error
    except (OSError, ValueError, KeyError, TypeError, AttributeError) as error:
        raise PhaseFailed(f"{path.name} cannot be read as a manifest of a backup.") from error
    if known[0] != FORMAT:
        raise PhaseFailed(f"{path.name} is of the format {known[0]!r}; {FORMAT!r} is read here.")
    if (file.stat().st_size, digest_of(file)) != known[1:]:
        raise PhaseFailed(
            f"{file} is not what was backed up: its digest differs from its manifest."
        )
    return rows


def digest_of(file: Path) -> str:
    """SHA-256 of a file, hexadecimal."""
    whole = hashlib.sha256()
    with file.open("rb") as opened:
        while piece := opened.read(_PIECE):
            whole.update(piece)
    return whole.hexdigest()


def rows_in(file: Path) -> dict[str, int]:
    """How many rows of which table an archive holds, counted in the archive, not in the database."""
    command = [tool_at("pg_restore"), "--data-only", "--file=-", str(file.resolve())]
    found: dict[str, int] = collections.defaultdict(int)
    table = None
    with subprocess.Popen(
        command, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True, encoding="utf-8"
    ) as reading:
        for line in reading.stdout or ():
            if table is None:
                if line.startswith("COPY public."):
                    table = line.split(" ", 2)[1].removeprefix("public.").strip('"')
                    found[table] += 0
            elif line.rstrip("\n") == "\\.":
                table = None
            else:
                found[table] += 1
    if reading.returncode:
        raise PhaseFailed(f"{file} cannot be read as an archive.")
    return dict(sorted(found.items()))
