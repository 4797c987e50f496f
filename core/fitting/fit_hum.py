"""Fit long level hums on a comfortable note, growing toward the client's maximum phonation time."""

from core.catalogue.tasks import Task
from core.catalogue.words import Growth
from core.fitting.fitted import Fitted, StepSpec, fitter, inner_range, reachable_s
from core.fitting.known import Fitting
from core.program.rung_words import number_grade
from core.program.rungs import floored, rungs_from
from core.program.targets import Holds, HoldTarget
from core.reason import says

_HUMMED = says("hummed_on", "{note}, a comfortable note; {why}")
_TO_THE_END = says("hum_to_the_end", "up to the best phonation time {best_s:g} s")


@fitter
def long_hum(fitting: Fitting, task: Task, _spec: StepSpec) -> Fitted:
    """Fit the speaking note, kept inside the range. The first hum lasts up to 80 % of the maximum phonation time; the
    goal is all of it. Without a phonation time the hum stays short."""
    low, high = inner_range(fitting)
    note = min(max(fitting.speaking_note(), low), high)
    first_s, why = reachable_s(fitting, task.setting("seconds").default)
    best_s = fitting.baseline.best_phonation_s
    grade = None
    if best_s is not None:
        goal_s = max(min(floored(best_s), task.setting("seconds").high), first_s)
        rungs = rungs_from((first_s,), goal_s, most_first_s=first_s)
        first_s = rungs[0]
        grade = number_grade(
            task.key,
            Growth.SECONDS,
            rungs,
            goal=goal_s,
            because=_TO_THE_END(best_s=best_s),
            shown=best_s,
        )
    hold = HoldTarget(note=note, seconds=first_s, because=_HUMMED(note=note.name, why=why))
    return Fitted(target=Holds(holds=(hold,)), grade=grade)
