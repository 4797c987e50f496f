"""`./reed decide HISTORY.json`: what the rules propose for a client, with reasons and numbers."""

import argparse
import json
import sys
from collections.abc import Iterable, Iterator
from datetime import date
from pathlib import Path
from typing import Any

from core.errors import CoreError
from core.fitting.why_words import why_words
from core.formats.reading import FileRefused
from core.grading.act import Proposal
from core.grading.decide import decisions
from core.grading.history_file import read_history
from core.grading.rule import numbers, rules
from core.program.program import Program
from core.reason import Reason


def main(arguments: list[str] | None = None) -> int:
    """Print what is proposed; exit code 2 with every problem said where a file is refused."""
    parser = argparse.ArgumentParser(
        prog="./reed decide",
        description="What the rules propose for a client; a clinician decides.",
    )
    parser.add_argument("histories", nargs="*", type=Path, help="HISTORY.json, docs/deciding.md")
    parser.add_argument("--json", action="store_true", help="as JSON Lines, one a history")
    parser.add_argument("--jobs", type=Path, help="FILE.jsonl: a history a line, a JSON line each")
    parser.add_argument("--numbers", action="store_true", help="list the numbers of the rules")
    given = parser.parse_args(arguments)
    if given.numbers:
        for path, value in numbers(rules()).items():
            print(f"{path} = {value:g}")
        return 0
    if given.jobs is None and not given.histories:
        parser.error("name a history file, --jobs or --numbers")
    refused = False
    try:
        for name, text in _texts(given.histories, given.jobs):
            found = decided(text)
            refused = refused or found["error"] is not None
            if given.json or given.jobs is not None:
                print(json.dumps({"history": name, **found}, ensure_ascii=False))
            else:
                print("\n".join(_lines(name, found)))
    except (OSError, UnicodeDecodeError) as error:
        print(f"cannot be read: {error}", file=sys.stderr)
        return 2
    return 2 if refused and given.jobs is None else 0


def _texts(files: Iterable[Path], jobs: Path | None) -> Iterator[tuple[str, str]]:
    for file in files:
        yield str(file), file.read_text(encoding="utf-8-sig")
    if jobs is not None:
        with jobs.open(encoding="utf-8-sig") as lines:
            for number, line in enumerate(lines, 1):
                if line.strip():
                    yield f"line {number}", line


def decided(text: str) -> dict[str, Any]:
    """The decisions of one history as plain data, or an error with code and messages."""
    try:
        history, today, own = read_history(text)
        found = decisions(history, today, own)
    except FileRefused as refused:
        messages = [str(problem) for problem in refused.problems]
        return {"error": {"code": "file_refused", "messages": messages}, "decisions": []}
    except CoreError as error:
        return {"error": {"code": error.code, "messages": [why_words(error)]}, "decisions": []}
    return {"error": None, **_data(found, history.program, today)}


def _data(found: Iterable[Proposal], program: Program, today: date) -> dict[str, Any]:
    names = {step.step_id: step.name for step in program.all_steps}
    return {
        "today": today.isoformat(),
        "decisions": [
            {
                "act": one.act.value,
                "steps": [{"step_id": step, "name": names.get(step, "")} for step in one.steps],
                "rung": one.rung,
                "to": _to(one, program),
                "by_clock": one.by_clock,
                "reasons": [_reason(why) for why in one.reasons],
                "against": [_reason(why) for why in one.against],
            }
            for one in found
        ],
    }


def _to(one: Proposal, program: Program) -> str | None:
    grade = program.step(one.steps[0]).grade if one.rung is not None and one.steps else None
    return grade.words[one.rung] if grade is not None and one.rung is not None else None


def _reason(why: Reason) -> dict[str, Any]:
    params = {name: str(v) if isinstance(v, Reason) else v for name, v in why.params.items()}
    return {"code": why.code, "params": params, "words": str(why)}


def _lines(name: str, found: dict[str, Any]) -> Iterator[str]:
    yield name
    if found["error"] is not None:
        yield from (f"  {message}" for message in found["error"]["messages"])
        return
    for one in found["decisions"]:
        about = ", ".join(step["name"] for step in one["steps"])
        to = f" → {one['to']}" if one["to"] else ""
        yield f"  {one['act']}{to}{f' ({about})' if about else ''}"
        yield from (f"    {why['words']}" for why in one["reasons"])
        yield from (f"    against: {why['words']}" for why in one["against"])


if __name__ == "__main__":
    sys.exit(main())
