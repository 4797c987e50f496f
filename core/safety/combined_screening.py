"""What stands of several screenings: a red flag stays until something opened it, asked again or not."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Any

from core.safety.condition import Condition
from core.safety.screening import RedFlag, Screening


@dataclass(frozen=True, slots=True, kw_only=True)
class OneScreening:
    """One screening as it was asked; mistaken: red flags of earlier ones that were noted in error."""

    screening: Screening
    mistaken: frozenset[RedFlag] = frozenset()


def standing(asked: Sequence[OneScreening]) -> Screening | None:
    """The newest screening with what still stands of those before it; oldest first, None for none.

    A red flag that was open when it was asked again stays with its day though nobody ticked it,
    unless it was noted in error. Examinations, clearances and releases of earlier screenings count
    on: the newest of each. A surgery of the folds told again is the one that was first told, unless
    another day is given.
    """
    now: Screening | None = None
    for one in asked:
        now = one.screening if now is None else _after(now, one)
    return now


def _after(before: Screening, one: OneScreening) -> Screening:
    new = one.screening
    noted = {flag: new.noted(flag) for flag in new.red_flags}
    for flag in before.open_flags(new.asked_on):
        if flag not in one.mistaken:
            noted.setdefault(flag, before.noted(flag))
    unasked = new.unasked - set(noted)
    cleared = max((before, new), key=lambda s: s.cleared_on or s.cleared_from or date.min)
    return replace(
        new,
        red_flags=frozenset(noted),
        unasked=unasked,
        noted_on=noted,
        cleared_on=cleared.cleared_on,
        cleared_from=cleared.cleared_from,
        larynx_examined_on=_newest(before.larynx_examined_on, new.larynx_examined_on),
        released_on=_newest(before.released_on, new.released_on),
        folds_operated_on=new.folds_operated_on or _operated_on(before, new),
        looked_at_on=_newest(before.looked_at_on, new.looked_at_on),
        **_of_surgeon(before, new),
        usual_voice_since=_newest(before.usual_voice_since, new.usual_voice_since),
        botulinum_on=_newest(before.botulinum_on, new.botulinum_on),
        paralysis_since=_newest(before.paralysis_since, new.paralysis_since),
        throat_operated_on=_newest(before.throat_operated_on, new.throat_operated_on),
        movement_examined_on=_newest(before.movement_examined_on, new.movement_examined_on),
        tone_heard=before.tone_heard if new.tone_heard is None else new.tone_heard,
    )


def _of_surgeon(before: Screening, new: Screening) -> dict[str, Any]:
    """What the newest release allows, and the surgeon's date, where a new surgery did not outdate it."""
    if new.released_on is not None:
        return {"surgeons_date": new.surgeons_date or before.surgeons_date}
    again = new.folds_operated_on is not None and new.folds_operated_on != before.folds_operated_on
    return {
        "release": before.release,
        "surgeons_date": new.surgeons_date or (None if again else before.surgeons_date),
    }


def _operated_on(before: Screening, new: Screening) -> date | None:
    """The day that stands of a surgery of the folds told before and again."""
    told_again = Condition.FOLD_SURGERY in before.conditions & new.conditions
    return before.operated_on if told_again else None


def _newest(first: date | None, second: date | None) -> date | None:
    return max((day for day in (first, second) if day is not None), default=None)
