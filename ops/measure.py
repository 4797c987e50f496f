"""`./reed measure`: hands over to the command inside the environment."""

from ops import environment
from ops.inside import run_inside


def run(arguments: list[str]) -> int:
    """Measure; exit code 2 if any file could not be measured."""
    environment.ensure_python()
    return run_inside("ops.terminal.measure", arguments)
