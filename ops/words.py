"""`./reed words`: hands over to the command inside the environment."""

from ops import environment
from ops.inside import run_inside


def run(arguments: list[str]) -> int:
    """Write what the pages say as templates for translators."""
    environment.ensure_python("dev")
    return run_inside("ops.terminal.words", arguments)
