"""Care of the voice that goes with a program."""

from collections.abc import Sequence

from core.fitting.schools import School
from core.program.program import Advice
from core.proposing.choose import Chooser

_ALWAYS = ("care_water", "care_sleep", "care_gentle")
_BEFORE_AN_EVENT = ("care_before_event", "care_cool_down", "care_mouth_clicks")
_BEFORE_USE = frozenset({"warm_up", "semi_performer", "cool_down", "range_full"})


def advice_for(chooser: Chooser, chosen: Sequence[School]) -> tuple[Advice, ...]:
    """What this client may be advised; none where the clinic or the client has turned it off."""
    if not chooser.request.limits.mixed_advice:
        return ()
    keys = list(_ALWAYS)
    if any(school.key in _BEFORE_USE for school in chosen):
        keys += _BEFORE_AN_EVENT
    return tuple(
        Advice(
            task=key,
            words=chooser.tasks[key].instruction,
            touches=tuple(sorted(chooser.tasks[key].touches)),
        )
        for key in keys
        if chooser.cannot_do(key) is None
    )
