"""How true and how costly the measuring of every kind is: one line a figure."""

from core.kinds.judging import HEAD
from core.kinds.registry import kinds


def print_tasks(count: int) -> None:
    """Middle, 95 % and worst distance from the truth of so many attempts of each kind."""
    print(f"\n{HEAD}")
    for kind in kinds().values():
        print("\n".join(kind.judged(count)), flush=True)
