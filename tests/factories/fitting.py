"""What `tests/core/test_targets.py` and others make and look at."""

from core.catalogue.tasks import shipped_tasks
from core.fitting.fitted import StepSpec
from core.fitting.known import Fitting
from core.program.step import Phase
from core.reason import written
from tests.core.fitted import baseline

TASKS = shipped_tasks()


def fitting(**known):
    return Fitting(baseline=baseline(**known))


def line(task, **params):
    return StepSpec(
        task=task,
        fit="",
        phase=Phase.BREATH,
        repetitions=1,
        rest_s=0,
        essential=True,
        because=written("for a test"),
        params=params,
    )
