"""Simulated attempts and benchmark rows of each kind of measured task, by name."""

import importlib
from typing import Protocol, cast

import numpy as np

from core.kinds.registry import kind_of
from lab.kinds.attempt import SimulatedAttempt
from lab.simulate.voice import Voice


class SimulatedKind(Protocol):
    """What `lab.kinds.<folder>` holds for the kind of that folder."""

    def perform(self, voice: Voice, attempt: SimulatedAttempt) -> np.ndarray:
        """Samples at 16 kHz of a simulated attempt."""

    def bench_rows(self, count: int) -> list[str]:
        """Rows of the benchmark: seeded sounds of known truth, measured so many times."""


def simulated(task: str) -> SimulatedKind:
    """Raises SoundError("task_unknown") for an unknown name."""
    return cast(SimulatedKind, importlib.import_module(f"lab.kinds.{kind_of(task).name}"))
