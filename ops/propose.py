"""`./reed propose`: hands over to the command inside the environment."""

from ops import environment
from ops.inside import run_inside


def run(arguments: list[str]) -> int:
    """Propose; exit code 2 where the file or the client admits no program."""
    environment.ensure_python()
    return run_inside("ops.terminal.propose", arguments)
