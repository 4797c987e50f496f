"""How true and how costly the measuring of every kind is: one line a figure."""

from core.kinds.registry import kinds
from lab.kinds.bench_table import HEAD
from lab.kinds.registry import simulated


def print_tasks(count: int) -> None:
    """Middle, 95 % and worst distance from the truth of so many attempts of each kind."""
    print(f"\n{HEAD}")
    for task in kinds():
        print("\n".join(simulated(task).bench_rows(count)), flush=True)
