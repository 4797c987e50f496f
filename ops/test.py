"""`./reed test`: every check in one go, on a machine where nothing was started."""

import os
import subprocess
import sys
from pathlib import Path

from ops import bench, mutants
from ops.environment import PYTHON, VENV
from ops.phases import ROOT, RUN, PhaseFailed, phase
from ops.postgres import APPLICATION, FAST_AND_LOOSE, OWNER, Cluster
from ops.start import prepare
from ops.test_database import template_of

PYTHON_FOLDERS = ["core", "lab", "ops", "web", "tests", "reed"]
CHECKS = {
    "lint": ["ruff", "check", *PYTHON_FOLDERS],
    "format": ["ruff", "format", "--check", *PYTHON_FOLDERS],
    "types": ["mypy"],
    "import rules": ["lint-imports"],
    "templates": ["djlint", "web", "--lint", "--quiet"],
    "scripts": [str(ROOT / "node_modules" / ".bin" / "eslint"), "."],
    "scripts, their types": [str(ROOT / "node_modules" / ".bin" / "tsc"), "-p", "."],
    "scripts, what they do": ["node", "--test", "tests/js/"],
}
SERVERS = ["tests/ops"]
UNITS = ["tests/web", "tests/core"]
BROWSER = ["tests/browser/test_faults.py", "tests/browser"]
"""The longest file runs first. Started last, it would keep one process busy while the other waits."""
LONG = ["tests/long"]
LONG_FAULTS = ["--faults", "26", "--seed", "1"]
BESIDE = ["-n", str((os.cpu_count() or 1) + 1), "--no-loadscope-reorder"]
"""One process more than the machine has cores, for tests that wait; each file in one process, in the order given."""


def run(arguments: list[str]) -> int:
    """With arguments: only pytest, with these; `mutants [PART …]`: how many changed rules the
    tests notice; `--fast`: everything but the servers and the browser; `long`: what takes hours.
    Without: everything but `long`."""
    if arguments[:1] == ["mutants"]:
        return mutants.run(arguments[1:])
    if arguments == ["long"]:
        return _long()
    fast = arguments == ["--fast"]
    prepare("dev")
    cluster = Cluster(RUN / "pg-test", FAST_AND_LOOSE)
    with phase("test database"):
        cluster.start()
    try:
        env = {
            **os.environ,
            "PATH": f"{VENV / 'bin'}:{os.environ['PATH']}",
            "DJANGO_SETTINGS_MODULE": "web.config.settings.test",
            "REED_DATABASE_URL": cluster.url(OWNER),
            "REED_APPLICATION_ROLE": APPLICATION,
            "REED_SECRET_KEY": "only-for-tests-" + "0" * 40,
        }
        env["REED_TEST_TEMPLATE"] = template_of(cluster, env)
        if arguments and not fast:
            return _pytest(arguments, env)
        for name, command in CHECKS.items():
            with phase(name):
                _check(command, env)
        if fast:
            return _pytest([*UNITS, *BESIDE], env)
        ended = [_pytest([*part, *BESIDE], env) for part in ([*SERVERS, *UNITS], BROWSER)]
        return next(filter(None, ended), 0)
    finally:
        cluster.stop()


def _long() -> int:
    """Install on a fresh clone, each kind of fault once, and every mutated rule. A failure does not stop the rest."""
    ended = [run([*LONG, "-s"]), bench.run(["faults", *LONG_FAULTS]), mutants.run([])]
    return next(filter(None, ended), 0)


def _check(command: list[str], env: dict[str, str]) -> None:
    done = subprocess.run(
        [str(_program(command[0])), *command[1:]],
        cwd=ROOT,
        env=env,
        text=True,
        capture_output=True,
        check=False,
    )
    if done.returncode:
        raise PhaseFailed(f"{' '.join(command)}\n{done.stdout}{done.stderr}")


def _program(name: str) -> Path | str:
    """The environment's own program of that name, or the machine's."""
    own = VENV / "bin" / name
    return own if own.exists() else name


def _pytest(arguments: list[str], env: dict[str, str]) -> int:
    sys.stderr.flush()
    command = [str(PYTHON), "-m", "pytest", *arguments]
    return subprocess.run(command, cwd=ROOT, env=env, check=False).returncode
