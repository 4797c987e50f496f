"""Tasks by the clock and by counting: release, resonance, articulation, carry-over."""

from core.catalogue.tasks import Task
from core.catalogue.words import Growth
from core.fitting.fitted import USUAL, Fitted, StepSpec, cue_grade, fitter, number, purpose_of
from core.fitting.known import FitInputs, Fitting
from core.program.rung_words import number_grade
from core.program.step import Grade
from core.program.targets import Counted, Timed
from core.reason import says
from core.reference.values import WARM_UP_LONGEST, WARM_UP_MINUTES

_SHARE = says("share_of_minutes", "{percent:.0f} % of {minutes:g} minutes")
_FASTER = says("faster", "+ 10 % when 90 % of the consonants are kept")

_TEMPO_STEP = 1.1
_MOST_TEMPOS = 8


@fitter
def timed(fitting: Fitting, task: Task, spec: StepSpec) -> Fitted:
    """Done by the clock; params `sides`, `share` of the minutes of a warm-up."""
    setting = task.setting("seconds")
    sides = int(number(spec, "sides", 1))
    wanted = number(spec, "seconds", setting.default)
    because = USUAL(amount=wanted, unit="s")
    share = number(spec, "share", 0)
    if share:
        minutes = warm_up_minutes(fitting)
        wanted = float(round(setting.limited(share * minutes * 60 / sides)))
        because = _SHARE(percent=100 * share, minutes=minutes)
    target = Timed(seconds_a_side=setting.limited(wanted), sides=sides, because=because)
    grade = cue_grade(fitting, task, because=purpose_of(task))
    return Fitted(target=target, grade=grade)


@fitter
def counted(fitting: Fitting, task: Task, spec: StepSpec) -> Fitted:
    """Done a number of times; params `count`, `seconds_each`, `share` of the minutes."""
    setting = task.setting("count")
    each = number(spec, "seconds_each", 5)
    count = number(spec, "count", setting.default)
    because = USUAL(amount=count, unit=setting.unit)
    share = number(spec, "share", 0)
    if share:
        minutes = warm_up_minutes(fitting)
        count = share * minutes * 60 / each
        because = _SHARE(percent=100 * share, minutes=minutes)
    own = {setting.name: setting for setting in task.settings}
    tempo, breath_on = own.get("tempo"), own.get("breath_on")
    target = Counted(
        count=max(int(setting.limited(count)), 1),
        unit=setting.unit,
        seconds_each=each,
        tempo_bpm=tempo.default if tempo else None,
        breath_on=int(breath_on.default) if breath_on else None,
        because=because,
    )
    grade = cue_grade(fitting, task, because=purpose_of(task))
    if task.grows is Growth.COUNT:
        grade = _count_grade(task, target.count, spec)
    if task.grows is Growth.TEMPO and tempo is not None:
        grade = _tempo_grade(task, tempo.default, tempo.high)
    return Fitted(target=target, grade=grade)


def _count_grade(task: Task, first: int, spec: StepSpec) -> Grade:
    """Counts from the first to `goal` of the school's line: more breaths, or fewer for a balloon."""
    setting = task.setting("count")
    goal = int(setting.limited(number(spec, "goal", first)))
    counts = range(first, goal + (1 if goal >= first else -1), 1 if goal >= first else -1)
    return number_grade(
        task.key,
        Growth.COUNT,
        tuple(float(count) for count in counts),
        goal=float(goal),
        because=purpose_of(task),
        unit=setting.unit,
    )


def _tempo_grade(task: Task, first: float, high: float) -> Grade:
    rungs = [first]
    while len(rungs) < _MOST_TEMPOS and round(rungs[-1] * _TEMPO_STEP) <= high:
        rungs.append(float(round(rungs[-1] * _TEMPO_STEP)))
    return number_grade(task.key, Growth.TEMPO, rungs, goal=rungs[-1], because=_FASTER())


def warm_up_minutes(inputs: FitInputs) -> float:
    """Minutes there are for the warm-up of the day; 20 unless said, at most 45."""
    try:
        return min(max(float(inputs.options.get("minutes", "")), 5.0), WARM_UP_LONGEST.number)
    except ValueError:
        return WARM_UP_MINUTES.number
