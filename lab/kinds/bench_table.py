"""How true and how costly a kind is measured: seeded sounds of known truth, one line a figure."""

import time
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from core.kinds.aim import AttemptTarget
from core.kinds.live import measure_sound
from core.sound.figures import Figures
from core.sound.reading import Sound
from lab.simulate.tasks import SimulatedSound
from lab.simulate.voice import Sung, Voice

HEAD = "| task | error of | median | 95 % | worst | CPU s per s |\n" + "|---" * 6 + "|"


def seeded_voice(random: np.random.Generator, seed: int, **fields: Any) -> Voice:
    """A voice of any pitch, length, level and room, less what the kind sets itself."""
    return Voice(
        **{
            "f0_hz": float(random.uniform(90, 320)),
            "seconds": float(random.uniform(3, 9)),
            "level_db": float(random.uniform(-36, -20)),
            "noise_db": float(random.uniform(-75, -60)),
            "seed": seed,
            **fields,
        }
    )


@dataclass
class Spent:
    """CPU seconds and seconds of sound so far, and every distance from the truth by its name."""

    task: str
    cpu_s: float = 0.0
    sound_s: float = 0.0
    errors: dict[str, list[float]] = field(default_factory=dict)

    def measure(
        self, played: SimulatedSound | Sung, target: AttemptTarget | None = None
    ) -> Figures:
        """The figures of a sound; what it cost is added up."""
        began = time.process_time()
        found = measure_sound(Sound(played.samples, played.rate_hz), self.task, target=target)
        self.cpu_s += time.process_time() - began
        self.sound_s += len(played.samples) / played.rate_hz
        return found

    def add(self, name: str, error: float) -> None:
        """One distance from the truth, in the unit its name tells."""
        self.errors.setdefault(name, []).append(abs(error))

    def rows(self, called: str) -> list[str]:
        """Middle, 95 % and worst of each, as lines of a table with HEAD."""
        cost = f"{self.cpu_s / self.sound_s:.4f}"
        return [
            f"| {called} | {name} | {np.median(found):.2f} | {np.percentile(found, 95):.2f} "
            f"| {max(found):.2f} | {cost} |"
            for name, found in self.errors.items()
        ]


def length_error_s(found: Figures, played: SimulatedSound | Sung) -> float:
    """How much too long the sound was taken for, s."""
    return (found.hold_s or 0.0) - (played.offset_s - played.onset_s)
