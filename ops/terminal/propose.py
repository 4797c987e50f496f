"""`./reed propose CLIENT.json`: a program with its reasons, as text or JSON; `--jobs`: of many."""

import argparse
import json
import sys
import uuid
from collections.abc import Callable
from pathlib import Path
from typing import Any

from core.errors import CoreError
from core.fitting.schools import schools
from core.fitting.why_words import why_words
from core.formats.program_file import program_schema
from core.formats.reading import FileRefused
from core.grading.history_file import history_schema
from core.proposing.client_file import client_schema, read_client
from core.proposing.propose import propose
from core.proposing.report import proposal_data, proposal_text


def main(arguments: list[str] | None = None) -> int:
    """Print the proposal; exit code 2 with every problem said where there is none."""
    parser = argparse.ArgumentParser(
        prog="./reed propose", description="A program from what is known of a client."
    )
    parser.add_argument("client", nargs="?", type=Path, help="CLIENT.json, docs/prescribing.md")
    parser.add_argument("--json", action="store_true", help="as JSON")
    parser.add_argument("--jobs", type=Path, help="FILE.jsonl: a client a line, a JSON line each")
    parser.add_argument("--schools", action="store_true", help="list the schools and their choices")
    parser.add_argument("--publish", type=Path, help="write the JSON Schemas into a folder")
    parser.add_argument("--seed", type=int, help="step ids from a seed, so that runs compare")
    given = parser.parse_args(arguments)
    if given.schools:
        print(schools_text())
        return 0
    if given.publish is not None:
        return _publish(given.publish)
    if given.jobs is not None:
        return _jobs(given.jobs, given.seed)
    if given.client is None:
        parser.error("name a client file, or --schools")
    try:
        request = read_client(given.client.read_text(encoding="utf-8-sig"))
        found = propose(request, new_step_id=_ids(given.seed))
        said = proposal_data(found, request) if given.json else proposal_text(found, request)
    except FileRefused as refused:
        return _refused([str(problem) for problem in refused.problems])
    except CoreError as error:
        asked = error.params.get("asked") or []
        return _refused([f"No program: {why_words(error)}.", *map(str, asked)])
    except (OSError, UnicodeDecodeError) as error:
        return _refused([f"{given.client} cannot be read: {error}"])
    print(json.dumps(said, ensure_ascii=False, indent=2) if given.json else said)
    return 0


def _jobs(file: Path, seed: int | None) -> int:
    """A JSON line for every client: the proposal, or an error with code and messages. Exit code 2
    only where the file itself cannot be read."""
    new_id = _ids(seed)
    try:
        with file.open(encoding="utf-8-sig") as lines:
            for number, line in enumerate(lines, 1):
                if line.strip():
                    print(json.dumps({"line": number, **_job(line, new_id)}, ensure_ascii=False))
    except (OSError, UnicodeDecodeError) as error:
        return _refused([f"{file} cannot be read: {error}"])
    return 0


def _job(line: str, new_id: Callable[[], str]) -> dict[str, Any]:
    try:
        request = read_client(line)
        return {"error": None, **proposal_data(propose(request, new_step_id=new_id), request)}
    except FileRefused as refused:
        messages = [str(problem) for problem in refused.problems]
        return {"error": {"code": "file_refused", "messages": messages}}
    except CoreError as error:
        asked = error.params.get("asked") or []
        messages = [f"No program: {why_words(error)}.", *map(str, asked)]
        return {"error": {"code": error.code, "messages": messages}}


def _ids(seed: int | None) -> Callable[[], str]:
    if seed is None:
        return lambda: str(uuid.uuid4())
    numbers = iter(range(10**6))
    space = uuid.uuid5(uuid.NAMESPACE_OID, str(seed))
    return lambda: str(uuid.uuid5(space, str(next(numbers))))


def _publish(folder: Path) -> int:
    schemas = {
        "program": program_schema(),
        "client": client_schema(),
        "history": history_schema(),
    }
    for name, schema in schemas.items():
        text = json.dumps(schema, indent=2, ensure_ascii=False)
        (folder / f"{name}.schema.json").write_text(f"{text}\n", encoding="utf-8")
    return 0


def _refused(lines: list[str]) -> int:
    print("\n".join(lines), file=sys.stderr)
    return 2


def schools_text() -> str:
    """Every school with its words and choices."""
    lines = []
    for school in schools().values():
        lines += [f"{school.key}: {school.name}", f"  {school.words}"]
        for choice in school.choices:
            lines += [
                f"  {choice.key}={key}{' (default)' if key == choice.default else ''}: {words}"
                for key, words in choice.options.items()
            ]
    return "\n".join(lines)


if __name__ == "__main__":
    sys.exit(main())
