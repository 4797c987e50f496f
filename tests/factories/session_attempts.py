"""What `tests/core/test_in_session.py` and others make and look at."""

import numpy as np

from core.kinds.in_session import TriedAttempt
from core.sound.figures import Contour, Figures, Quality, QualityVerdict

NOTHING = Contour(f0_hz=np.zeros(0), level_db=np.zeros(0))


def heard(task="hold", seconds=7.0, **own):
    usual = {"quality": Quality(QualityVerdict.GOOD), "contour": NOTHING, "target": None}
    return Figures(**usual | {"task": task, "hold_s": seconds} | own)


def tried(place=0, seconds=7.0, task="hold", target_s=7.0, **more):
    sound = {name: more.pop(name) for name in list(more) if name in Figures.__dataclass_fields__}
    figures = more.pop("figures", heard(task, seconds, **sound))
    return TriedAttempt(place=place, seconds=seconds, target_s=target_s, figures=figures, **more)
