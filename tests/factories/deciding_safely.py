"""What `tests/core/test_deciding_safely.py` and others make and look at."""

from core.grading.act import Act
from core.grading.history import Decided
from tests.core.histories import (
    ago,
    sitting,
    soft,
    the_cook,
)

COOK, POWER = the_cook()


DAYS = (6, 5, 4, 3, 2, 1, 1)


def fine(*days, program=COOK, power=POWER, **more):
    return [sitting(program, ago(day), soft(power, 5), **more) for day in days]


def answered(act, days, step=""):
    return Decided(act=Act(act), day=ago(days), step_id=step)
