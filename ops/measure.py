"""`./reed measure`: hands over to the core's own command inside the environment."""

import os
import subprocess

from ops import environment
from ops.phases import ROOT


def run(arguments: list[str]) -> int:
    """Measure; exit code 2 if any file could not be measured."""
    environment.ensure_python()
    command = [str(environment.PYTHON), "-m", "core.sound.command", *arguments]
    env = {**os.environ, "PYTHONPATH": str(ROOT)}
    return subprocess.run(command, env=env, check=False).returncode
