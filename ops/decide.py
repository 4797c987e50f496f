"""`./reed decide`: hands over to the command inside the environment."""

from ops import environment
from ops.inside import run_inside


def run(arguments: list[str]) -> int:
    """Decide; exit code 2 where a file cannot be read or is refused."""
    environment.ensure_python()
    return run_inside("ops.terminal.decide", arguments)
