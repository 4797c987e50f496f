"""The hold-goal schools of the sustained notes: how long a hold shall become, and why."""

from dataclasses import dataclass
from enum import StrEnum

from core.errors import PlanError
from core.fitting.baseline_arithmetic import airflow_goal_s
from core.fitting.fit_breath import MEASURE_S
from core.fitting.fitted import MEASURE_PHONATION
from core.fitting.known import Fitting
from core.program.rungs import rungs_from
from core.reason import Reason, says
from core.reference.limits import Limit
from core.reference.values import HOLD_LONGEST

_NO_NUMBER = says(
    "goal_steady",
    "no number: as long as it is steady ({seconds:g} s only reckoned for the dose)",
)
_PROBE = says(
    "measure_probes",
    "Probe soft holds on the bottom, middle and top note of the set, two tries each.",
)
_STAND_IN = says(
    "probes_assumed",
    "{seconds:.1f} s stands for the soft-hold probes: 60 % of the best phonation time; a strong "
    "“ah” does not predict a soft hold.",
)
_TYPED = says("goal_typed", "set by the clinician")
_OWN_S = says("goal_own_s", "the client's own longest /s/")
_MEASURE_CAPACITY = says(
    "measure_capacity", "Measure the vital capacity, or note height and sex at birth (lungs)."
)
_AIRFLOW = says("goal_airflow", "airflow goal: {source} {volume_ml:.0f} mL ÷ 80 mL/s")
_OWN_SHARE = says(
    "goal_share", "{percent:.0f} % of the client's own best phonation time {best_s:g} s"
)
_TIME_LADDER = says("goal_time_ladder", "fixed time ladder {rungs_s:list} s")

_SHARE = Limit(0.3, 2, "of the best phonation time")
TIME_LADDER_S = (5.0, 8.0, 10.0, 12.0, 15.0, 20.0, 25.0, 30.0)
TIME_LADDER_CHILDREN_S = (3.0, 5.0, 8.0, 10.0, 12.0, 15.0)


class HoldGoal(StrEnum):
    """share: a share of the own best; airflow: phonated volume or vital capacity ÷ 80 mL/s;
    own_s: the own longest /s/; time: a fixed time ladder; steady: no number; typed: set by hand."""

    SHARE = "share"
    AIRFLOW = "airflow"
    OWN_S = "own_s"
    TIME = "time"
    STEADY = "steady"
    TYPED = "typed"


@dataclass(frozen=True, slots=True, kw_only=True)
class Goal:
    """Seconds of the goal with its reason and the rungs up to it; seconds None = no number."""

    seconds: float | None
    because: Reason
    rungs_s: tuple[float, ...]


def hold_goal(fitting: Fitting) -> Goal:
    """The goal of the chosen school with its rungs.

    The first rung always comes from the probes (`rungs_from`). Without probes 60 % of the best
    phonation time stands for them, and that is said; a strong "ah" does not predict a soft hold.
    Raises PlanError("probes_missing"), ("goal_missing") with what to measure in `fitting.asked`.
    """
    school = HoldGoal(fitting.options.get("goal", HoldGoal.OWN_S))
    probes = _probes(fitting)
    if school is HoldGoal.TIME:
        return _time_ladder(fitting, probes)
    seconds, because = _seconds(school, fitting)
    if school is not HoldGoal.TYPED:
        seconds = min(seconds, HOLD_LONGEST.number)
    rungs = rungs_from(probes, seconds, most_first_s=fitting.most_first_s)
    if school is HoldGoal.STEADY:
        return Goal(seconds=None, because=_NO_NUMBER(seconds=rungs[0]), rungs_s=rungs[:1])
    return Goal(seconds=seconds, because=because, rungs_s=rungs)


def _probes(fitting: Fitting) -> tuple[float, ...]:
    known = fitting.baseline
    if known.probes_s:
        return known.probes_s
    fitting.ask(_PROBE())
    if known.best_phonation_s is None:
        raise PlanError("probes_missing")
    stand_in = 0.6 * known.best_phonation_s
    fitting.assume(_STAND_IN(seconds=stand_in))
    return (max(stand_in, 0.5),)


def _seconds(school: HoldGoal, fitting: Fitting) -> tuple[float, Reason]:
    known = fitting.baseline
    if school is HoldGoal.TYPED:
        typed = fitting.options.get("goal_s", "")
        try:
            return float(typed), _TYPED()
        except ValueError as error:
            raise PlanError("goal_missing") from error
    if school is HoldGoal.OWN_S:
        if known.best_s_s is None:
            fitting.ask(MEASURE_S())
            raise PlanError("goal_missing")
        return known.best_s_s, _OWN_S()
    if school is HoldGoal.AIRFLOW:
        if known.capacity is None:
            fitting.ask(_MEASURE_CAPACITY())
            raise PlanError("goal_missing")
        volume_ml, source = known.capacity.ml, known.capacity.source
        return airflow_goal_s(volume_ml), _AIRFLOW(source=source, volume_ml=volume_ml)
    if known.best_phonation_s is None:
        fitting.ask(MEASURE_PHONATION())
        raise PlanError("goal_missing")
    if school is HoldGoal.STEADY:
        return known.best_phonation_s, _NO_NUMBER(seconds=known.best_phonation_s)
    share = float(fitting.options.get("share", "1"))
    best = known.best_phonation_s
    return _SHARE.check("share of the own best", share) * best, _OWN_SHARE(
        percent=100 * share, best_s=best
    )


def _time_ladder(fitting: Fitting, probes: tuple[float, ...]) -> Goal:
    ladder = TIME_LADDER_CHILDREN_S if fitting.baseline.minor else TIME_LADDER_S
    longest = HOLD_LONGEST.number
    first = rungs_from(probes, longest, most_first_s=fitting.most_first_s)[0]
    within = [seconds for seconds in ladder if seconds <= first]
    start = within[-1] if within else first
    rungs = (start, *(seconds for seconds in ladder if seconds > start))
    return Goal(seconds=rungs[-1], because=_TIME_LADDER(rungs_s=rungs), rungs_s=rungs)
