"""What a simulated attempt is asked for."""

from dataclasses import dataclass

from core.kinds.aim import AttemptTarget


@dataclass(frozen=True, slots=True, kw_only=True)
class SimulatedAttempt:
    """seconds: of all of it; aim: its target; hiss_s: the hiss before a buzz, None = half; late: how many
    times the breath out is too long; size: of a speaker, "man", "woman" or "child"."""

    seconds: float
    aim: AttemptTarget | None = None
    hiss_s: float | None = None
    late: float = 1.0
    size: str = "woman"
