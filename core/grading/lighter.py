"""In which dimension a step is eased, where it is not its rung: level, depth of the water, bore of the tube.

The dimension that fails is eased. A level that falls short is asked for 2 dB lower; a tube in water stands
1 cm less deep, then is a wider one, before its form goes back.
"""

from collections.abc import Sequence

from core.catalogue.tasks import shipped_tasks
from core.grading.act import Dimension
from core.grading.history import Sitting, StepDone
from core.grading.meets import Own, failing
from core.grading.rule import StepRule
from core.plans.by_hand import with_setting
from core.plans.step import Step
from core.reference.values import LEVEL_CLIMB

_OF_LEVEL = frozenset({"over_aim"})
_SHALLOWEST_CM = 1.0
_DEPTH_STEP_CM = 1.0
_BORE_STEP_MM = 2.0


def dimension_of(
    step: Step, rule: StepRule, sessions: Sequence[tuple[Sitting, StepDone]], own: Own
) -> tuple[Dimension, float] | None:
    """What is eased instead of the rung, and to what (dB over the own talk, cm, mm); None = the rung."""
    if step.tube is not None and step.tube.depth_cm > 0:
        return _of_tube(step)
    level = step.level
    if level is None or level.over_db is None or level.over_db <= 0 or rule.ease is None:
        return None
    if step.grade is not None and step.grade.growth == "decibels":
        return None
    failed = {"level": 0, "other": 0}
    for _sitting, done in sessions[-rule.ease.of :]:
        for figure in failing(rule.ease, done, own)[:1]:
            failed["level" if figure in _OF_LEVEL else "other"] += 1
    if failed["level"] <= failed["other"]:
        return None
    return Dimension.LEVEL, max(level.over_db - LEVEL_CLIMB.number, 0.0)


def _of_tube(step: Step) -> tuple[Dimension, float] | None:
    tube = step.tube
    if tube is None:
        return None
    if tube.depth_cm > _SHALLOWEST_CM:
        return Dimension.DEPTH, max(tube.depth_cm - _DEPTH_STEP_CM, _SHALLOWEST_CM)
    task = shipped_tasks().get(step.task)
    widest = next((one.high for one in task.settings if one.name == "bore"), 0.0) if task else 0.0
    wider = min(tube.bore_mm + _BORE_STEP_MM, widest)
    return (Dimension.BORE, wider) if wider > tube.bore_mm else None


def lightened(step: Step, dimension: Dimension, to: float) -> Step:
    """The step with that dimension eased; PlanError where it has none."""
    if dimension is Dimension.LEVEL:
        return with_setting(step, "level.over_db", f"{to:g}")
    if dimension is Dimension.DEPTH:
        return with_setting(step, "tube.depth_cm", f"{to:g}")
    return with_setting(step, "tube.bore_mm", f"{to:g}")
