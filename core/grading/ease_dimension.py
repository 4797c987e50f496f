"""Eases the dimension that failed where that is not the rung: the level, the depth of the water, the bore of the tube.

A level that falls short is set 2 dB lower. A tube in water is set 1 cm less deep, then replaced by a wider one; only
after that does its form go back a rung.
"""

from collections.abc import Sequence

from core.catalogue.tasks import shipped_tasks
from core.editing.step_settings import with_setting
from core.grading.act import Dimension
from core.grading.history import PastSession, StepDone
from core.grading.rule import StepRule
from core.grading.rule_match import Own, failing
from core.program.step import Step, Tube
from core.reference.values import (
    LEVEL_CLIMB,
    TUBE_BORE_EASED,
    TUBE_DEPTH_EASED,
    TUBE_SHALLOWEST,
)

_SETTINGS = {
    Dimension.LEVEL: "level.over_db",
    Dimension.DEPTH: "tube.depth_cm",
    Dimension.BORE: "tube.bore_mm",
}


def dimension_of(
    step: Step, rule: StepRule, sessions: Sequence[tuple[PastSession, StepDone]], own: Own
) -> tuple[Dimension, float] | None:
    """The dimension to ease and its new value (dB over the client's conversation, cm or mm); None = ease the rung."""
    if step.tube is not None and step.tube.depth_cm > 0:
        return _of_tube(step.task, step.tube)
    level = step.level
    if level is None or level.over_db is None or level.over_db <= 0 or rule.ease is None:
        return None
    if step.grade is not None and step.grade.growth == "decibels":
        return None
    looked = sessions[-rule.ease.of :]
    first_failing = [
        failed[0] for _sitting, done in looked if (failed := failing(rule.ease, done, own))
    ]
    if 2 * first_failing.count("over_aim") <= len(first_failing):
        return None
    return Dimension.LEVEL, max(level.over_db - LEVEL_CLIMB.number, 0.0)


def _of_tube(task_key: str, tube: Tube) -> tuple[Dimension, float] | None:
    shallowest_cm = TUBE_SHALLOWEST.number
    if tube.depth_cm > shallowest_cm:
        return Dimension.DEPTH, max(tube.depth_cm - TUBE_DEPTH_EASED.number, shallowest_cm)
    task = shipped_tasks().get(task_key)
    widest = next((one.high for one in task.settings if one.name == "bore"), 0.0) if task else 0.0
    wider = min(tube.bore_mm + TUBE_BORE_EASED.number, widest)
    return (Dimension.BORE, wider) if wider > tube.bore_mm else None


def lightened(step: Step, dimension: Dimension, to: float) -> Step:
    """Set that dimension of a step to a new value; PlanError where the step does not have it."""
    return with_setting(step, _SETTINGS[dimension], f"{to:g}")
