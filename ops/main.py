"""Finds the sub-command and runs it; failures are said in words, never as a traceback."""

import importlib
import os
import sys

from ops.phases import RUN, PhaseFailed

COMMANDS = {
    "start": "set up what is missing, load the demo once, serve on http://127.0.0.1:8010",
    "test": "lint, types, import rules, templates, scripts, unit, database and browser tests",
    "stop": "stop what `./reed start` left running",
    "shots": "photograph the demo's pages into docs/screenshots",
    "takes": "perform and measure what the demo's practice lacks (--all: half an hour)",
    "measure": "measure sound files: one JSON object a line",
    "decide": "what the rules propose for HISTORY.json, with reasons and numbers",
    "propose": "a program from CLIENT.json, with its reasons",
    "bench": "speed and accuracy of the measuring, and of the fitting",
    "publish": "the schema of a record and an example of every format",
    "words": "what the pages say, as gettext templates for translators",
    "rebuild": "work every line of Rounds out anew from the record",
    "backup": "write everything in the database to FILE",
    "standby": "watch a database and its standby; promote the standby",
    "restore": "replace everything in the database by FILE",
    "help": "this list",
}


def main(arguments: list[str]) -> int:
    """Run one sub-command and give its exit code."""
    name, *rest = arguments or ["help"]
    if name in ("help", "-h", "--help"):
        print("Still Reed\n\n  ./reed COMMAND [OPTIONS]; ./reed COMMAND --help\n")
        print("\n".join(f"  {command:<9}{text}" for command, text in COMMANDS.items()))
        return 0
    if name not in COMMANDS:
        print(f"./reed: no command {name!r}; ./reed help lists them", file=sys.stderr)
        return 2
    _keep_compiled_modules()
    try:
        return int(importlib.import_module(f"ops.{name}").run(rest))
    except PhaseFailed as failure:
        print(f"\n./reed {name}: {failure}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        return 130


def _keep_compiled_modules() -> None:
    """Every process started from here keeps what Python compiled, whatever the machine's environment says:
    compiling all modules at each start costs ten seconds."""
    os.environ.pop("PYTHONDONTWRITEBYTECODE", None)
    os.environ["PYTHONPYCACHEPREFIX"] = str(RUN / "pycache")
