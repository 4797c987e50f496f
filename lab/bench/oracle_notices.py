"""Whether what a proposal says agrees with the program it says it about.

A part of the oracle: it reads the sentences by their codes and the program as data, and uses no code of the product.
"""

from collections.abc import Callable, Iterator

from lab.bench.oracle_minutes import Data
from lab.bench.oracle_words import (
    DRINKING,
    LOUD,
    NECK,
    PRESSING,
    SOFT_AND_CLOSED,
    SPEAKING_ONLY,
    STRAWS,
    VOICELESS,
    WATER_TASKS,
)

MOST_TO_REMEMBER = 3


def of_notices(_client: Data, proposal: Data) -> Iterator[str]:
    """Yield every notice or reason that the program contradicts."""
    program = proposal["program"]
    for said in (*proposal["notices"], *program["reasons"]):
        claim = _CLAIMS.get(said["code"])
        if claim is not None and not claim(said.get("params", {}), proposal):
            yield f"contradicted by its program: {said['code']}"


def _steps(proposal: Data) -> list[Data]:
    routines = proposal["program"]["routines"]
    short = [one["short_day"] for one in routines if one["short_day"]]
    return [*(step for one in routines for step in one["steps"]), *short]


def _tasks(proposal: Data) -> set[str]:
    return {step["task"] for step in _steps(proposal)}


def _voiced(step: Data) -> bool:
    target = step["target"]
    air = target["kind"] == "blow" or (target["kind"] == "timed" and target["air"])
    return step["task"] not in VOICELESS and not (step["task"] in SOFT_AND_CLOSED and air)


def _nothing_voiced(_values: Data, proposal: Data) -> bool:
    return not any(map(_voiced, _steps(proposal)))


def _soft_and_closed(_values: Data, proposal: Data) -> bool:
    return all(step["task"] in SOFT_AND_CLOSED for step in _steps(proposal) if _voiced(step))


def _dry(_values: Data, proposal: Data) -> bool:
    return not _tasks(proposal) & (WATER_TASKS | DRINKING)


def _open_airway(_values: Data, proposal: Data) -> bool:
    return not _tasks(proposal) & (WATER_TASKS | STRAWS | PRESSING | NECK)


def _speaking_only(_values: Data, proposal: Data) -> bool:
    return all(step["task"] in SPEAKING_ONLY for step in _steps(proposal) if _voiced(step))


def _not_strong(_values: Data, proposal: Data) -> bool:
    return not _tasks(proposal) & LOUD and not any(step["level"] for step in _steps(proposal))


def _few_steps(values: Data, proposal: Data) -> bool:
    most = float(values.get("most", MOST_TO_REMEMBER))
    routines = proposal["program"]["routines"]
    return all(sum(map(_voiced, routine["steps"])) <= most for routine in routines)


def _patterns_once(_values: Data, proposal: Data) -> bool:
    for routine in proposal["program"]["routines"]:
        patterned = any(step["target"]["kind"] == "pattern" for step in routine["steps"])
        if patterned and routine["dose"]["sessions_a_day"] > 1:
            return False
    return True


def _has_occluded(_values: Data, proposal: Data) -> bool:
    return bool(_tasks(proposal) & SOFT_AND_CLOSED)


_CLAIMS: dict[str, Callable[[Data, Data], bool]] = {
    "found_folds_unreleased": _nothing_voiced,
    "found_folds_unexamined": _nothing_voiced,
    "found_cold_unasked": _nothing_voiced,
    "found_laryngitis_cold": _soft_and_closed,
    "found_laryngitis_hoarser": _soft_and_closed,
    "found_laryngitis_new": _soft_and_closed,
    "event_called_off": _soft_and_closed,
    "found_botulinum_recent": _dry,
    "found_swallowing_unasked": _dry,
    "found_tracheostomy": _open_airway,
    "found_no_larynx": _speaking_only,
    "found_folds_gentle": _not_strong,
    "found_no_voice": _not_strong,
    "stop_when_tired": _not_strong,
    "memory": _few_steps,
    "voiced_steps_cut": _few_steps,
    "patterns_once_a_day": _patterns_once,
    "semi_occluded_added": _has_occluded,
}
