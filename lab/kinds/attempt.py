"""Parameters of a simulated attempt."""

from dataclasses import dataclass

from core.kinds.aim import AttemptTarget


@dataclass(frozen=True, slots=True, kw_only=True)
class SimulatedAttempt:
    """seconds: total length; aim: target; hiss_s: length of the hiss before the buzz, None = half; late: factor by
    which the breath out is too long; size: the speaker, "man", "woman" or "child"."""

    seconds: float
    aim: AttemptTarget | None = None
    hiss_s: float | None = None
    late: float = 1.0
    size: str = "woman"
