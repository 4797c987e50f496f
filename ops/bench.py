"""`./reed bench`: accuracy and cost of the measuring on known-truth sounds."""

from ops import environment
from ops.inside import run_inside


def run(arguments: list[str]) -> int:
    """Print the benchmark's table."""
    environment.ensure_python()
    return run_inside("core.bench.measure", arguments)
