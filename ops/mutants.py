"""`./reed test mutants`: changes the rules one by one and counts which changes the tests notice."""

import json
import shutil
import subprocess
from collections import Counter
from collections.abc import Mapping

from ops import environment
from ops.environment import PYTHON
from ops.phases import ROOT, RUN, PhaseFailed, phase

PLACE = RUN / "mutants"
WANTED_PERCENT = 90.0
RULES = {
    "safety": ("core/safety/*.py",),
    "grading": ("core/grading/*.py",),
    "dose": ("core/dose/*.py",),
    "fitting": (
        *("core/fitting/fit_*.py", "core/fitting/fitted.py", "core/program/rungs.py"),
        *("core/fitting/pitches.py", "core/fitting/hold_goals.py", "core/fitting/capability.py"),
        *(
            "core/editing/change_rung.py",
            "core/fitting/back_pressure.py",
            "core/fitting/baseline_arithmetic.py",
        ),
        *("core/program/program.py", "core/proposing/doses.py", "core/proposing/fit_minutes.py"),
        *("core/proposing/trim.py", "core/proposing/routines.py"),
    ),
}
TESTS = (
    "acting",
    "aims",
    "between",
    "calendar",
    "capability",
    "catalogue",
    "circumstances",
    "conditions",
    "change",
    "course",
    "course_said",
    "decisions",
    "decisions_course",
    "decisions_families",
    "decisions_said",
    "dose",
    "dry_run",
    "legs",
    "warm_up",
    "errors",
    "fitting",
    "former_formats",
    "gate",
    "history_files",
    "in_session",
    "limits",
    "meets",
    "note_targets",
    "proposing",
    "reach",
    "routines",
    "rule_table",
    "rules",
    "schools",
    "season",
    "session_results",
    "stop",
    "strain",
    "sustained",
    "targets",
)
_SLOW = " and ".join(
    f"not {name}"
    for name in (
        "hundreds_of_made_up",
        "a_whole_year_across",
        "every_session_done",
        "no_note_lies_outside",
        "newer_than_what_would_open",
        "hardly_a_flat_course",
        "a_fifth_of_a_second_a_week",
        "order_of_arrival",
        "three_thousand_sessions",
    )
)
"""Tests over hundreds of cases: others notice what they notice, sooner."""
_KILLED = (1, 3)
_TIMED_OUT = (36, 24, 152, 255, -24)
_UNTESTED = (5, 33)


def run(arguments: list[str]) -> int:
    """0 where at least nine of ten changes are noticed in every part, or in those named; survivors
    stand in a file."""
    unknown = [name for name in arguments if name not in RULES]
    if unknown:
        raise PhaseFailed(f"no part {unknown[0]!r}; there are {', '.join(RULES)}")
    parts = {name: RULES[name] for name in arguments or RULES}
    environment.ensure_python("bench")
    with phase("a copy to change"):
        _copy(parts)
    with phase("mutants"), (PLACE / "mutmut.log").open("w") as log:
        command = [str(PYTHON), "-m", "mutmut", "run", "--max-children", "2"]
        subprocess.run(command, cwd=PLACE, stdout=log, stderr=log, check=False)
    return _report(parts)


def _copy(parts: Mapping[str, tuple[str, ...]]) -> None:
    shutil.rmtree(PLACE, ignore_errors=True)
    left_out = shutil.ignore_patterns(
        ".run", ".git", ".venv", "node_modules", "__pycache__", "former", "generated"
    )
    shutil.copytree(ROOT, PLACE, ignore=left_out)
    tests = [f"tests/core/test_{name}.py" for name in TESTS]
    present = [name for name in tests if (PLACE / name).exists()]
    own = {
        "source_paths": ["core/"],
        "only_mutate": [one for patterns in parts.values() for one in patterns],
        "also_copy": ["core", "lab", "web", "ops", "tests", "docs", "pyproject.toml"],
        "pytest_add_cli_args_test_selection": present,
        "timeout_multiplier": 4.0,
        "pytest_add_cli_args": ["-k", _SLOW],
    }
    lines = [f"{name} = {json.dumps(value)}" for name, value in own.items()]
    with (PLACE / "pyproject.toml").open("a") as file:
        file.write("\n[tool.mutmut]\n" + "\n".join(lines) + "\n")


def _report(parts: Mapping[str, tuple[str, ...]]) -> int:
    enough = True
    survivors = []
    for part, patterns in parts.items():
        found: Counter[str] = Counter()
        for path in sorted({p for pattern in patterns for p in PLACE.glob(pattern)}):
            meta = PLACE / "mutants" / f"{path.relative_to(PLACE)}.meta"
            if not meta.exists():
                continue
            codes = json.loads(meta.read_text())["exit_code_by_key"]
            found.update(map(_called, codes.values()))
            survivors += [key for key, code in codes.items() if _called(code) != "killed"]
        total = sum(found.values())
        percent = 100 * found["killed"] / total if total else 0.0
        enough &= percent >= WANTED_PERCENT
        others = ", ".join(f"{n} {name}" for name, n in found.items() if name != "killed")
        print(f"{part:<9}{found['killed']:>5} of {total:>5} killed, {percent:5.1f} %  ({others})")
    (PLACE / "survivors.txt").write_text("\n".join(survivors) + "\n")
    print(
        f"Survivors: {PLACE / 'survivors.txt'}; one: .venv/bin/python -m mutmut show NAME in {PLACE}"
    )
    return 0 if enough else 1


def _called(code: int | None) -> str:
    if code in _KILLED or code in _TIMED_OUT:
        return "killed"
    if code in _UNTESTED:
        return "untested"
    return "survived" if code == 0 else "not judged"
