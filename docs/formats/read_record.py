"""Reads a client's record with nothing but Python itself: `python3 read_record.py record.zip`.

Checks every table against the manifest, then prints who it is, what is prescribed, what was held. Free to copy.
"""

import hashlib
import json
import sys
import zipfile


def read(path):
    """The manifest and the tables of an archive, proved by their digests."""
    with zipfile.ZipFile(path) as archive:
        manifest = json.loads(archive.read("manifest.json"))
        if manifest["format"] != "still-reed/record/3":
            sys.exit(f"not a record of a format that is known here: {manifest['format']}")
        tables = {}
        for name, told in manifest["tables"].items():
            data = archive.read(told["file"])
            if hashlib.sha256(data).hexdigest() != told["sha256"]:
                sys.exit(f"{told['file']} was altered or damaged")
            tables[name] = json.loads(data)
    return manifest, tables


def lines(manifest, tables):
    yield f"{tables['client'][0]['name']}, from {manifest['clinic']['name']}"
    for version in tables["program_versions"]:
        routines = version["content"]["routines"]
        steps = [step["name"] for routine in routines for step in routine["steps"]]
        yield f"version {version['number']} since {version['active_from']}: {', '.join(steps)}"
    for session in sorted(tables["home_sessions"], key=lambda one: one["started_at"]):
        own = [a for a in tables["attempts"] if a["home_session_id"] == session["id"]]
        held = [f"{a['seconds']:g} s" for a in own if a["seconds"] is not None]
        yield f"{session['practice_day']} {session['outcome']}: {', '.join(held) or 'no seconds'}"


if __name__ == "__main__":
    print("\n".join(lines(*read(sys.argv[1]))))
