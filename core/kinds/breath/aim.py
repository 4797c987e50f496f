"""The pace of a breath as a target: "in 2.4 out 4.8"."""

import re
from dataclasses import dataclass

from core.errors import SoundError
from core.kinds.aim import NUMBER, unreadable

_PACE = re.compile(rf"in {NUMBER} out {NUMBER}")


@dataclass(frozen=True, slots=True, kw_only=True)
class PaceTarget:
    """A breath in of `in_s` and out of `out_s`, seconds, 0.5–60."""

    in_s: float
    out_s: float

    def __post_init__(self) -> None:
        for seconds in (self.in_s, self.out_s):
            if not 0.5 <= seconds <= 60:
                raise SoundError("pace_out_of_limits", seconds=seconds, low=0.5, high=60)

    @property
    def name(self) -> str:
        return f"in {self.in_s:g} out {self.out_s:g}"


def read_aim(text: str) -> PaceTarget:
    """The pace of that text; SoundError("target_unreadable") or ("pace_out_of_limits")."""
    found = _PACE.fullmatch(text.strip())
    if found is None:
        raise unreadable("breath", text)
    return PaceTarget(in_s=float(found[1]), out_s=float(found[2]))
