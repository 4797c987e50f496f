"""A stage of a taper in words, from its numbers."""

from core.program.dosing import TaperStage
from core.reason import Reason, says

_STAGE = says("taper_stage", "{attempts}, {often}")
_ONE = says("taper_one_attempt", "one attempt")()
_ATTEMPTS = says("taper_attempts", "{count} attempts")
_ONCE = {
    1: says("taper_once_a_day", "once a day")(),
    2: says("taper_every_other_day", "every other day")(),
    7: says("taper_once_a_week", "once a week")(),
}
_TIMES = {
    1: says("taper_times_a_day", "{times} times a day"),
    2: says("taper_times_every_other_day", "{times} times every other day"),
    7: says("taper_times_a_week", "{times} times a week"),
}
_EVERY = says("taper_every", "every {days} days")
_TIMES_EVERY = says("taper_times_every", "{times} times every {days} days")


def stage_words(stage: TaperStage) -> Reason:
    """How many attempts at a target, and how often: "one attempt, every other day"."""
    count = stage.repetitions
    attempts = _ONE if count == 1 else _ATTEMPTS(count=count)
    return _STAGE(attempts=attempts, often=_often(stage.sessions_a_day, stage.every_days))


def _often(times: int, days: int) -> Reason:
    if times == 1:
        return _ONCE.get(days) or _EVERY(days=days)
    return _TIMES[days](times=times) if days in _TIMES else _TIMES_EVERY(times=times, days=days)
