"""Runs a module of ours inside the environment."""

import os
import subprocess

from ops.environment import PYTHON
from ops.phases import ROOT


def run_inside(module: str, arguments: list[str], env: dict[str, str] | None = None) -> int:
    """`python -m module` with the project on the path; gives its exit code."""
    whole = {**os.environ, "PYTHONPATH": str(ROOT), **(env or {})}
    command = [str(PYTHON), "-m", module, *arguments]
    return subprocess.run(command, env=whole, check=False).returncode
