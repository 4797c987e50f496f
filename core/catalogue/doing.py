"""How a task is done: measured as one of the kinds, by the clock, by counting, or only said."""

from core.kinds.registry import kinds

TIMED = "timed"
"""Done for some time, by the clock."""
COUNTED = "counted"
"""Done a number of times, by the client's tap."""
ADVICE = "advice"
"""Said, never a step."""
_UNMEASURED = (TIMED, COUNTED)


def task_kinds() -> tuple[str, ...]:
    """Every way a task can be done."""
    return (*kinds(), *_UNMEASURED, ADVICE)


def measured_kind(kind: str) -> str | None:
    """How its sound is measured; None for what is only timed, counted or said."""
    return kind if kind in kinds() else None


def can_take(kind: str, form: str) -> bool:
    """Whether a step of that kind may ask for a target of that form (`Asks.form`)."""
    if kind in _UNMEASURED:
        return form == kind
    return kind in kinds() and (form in kinds()[kind].forms or done_as(kind, form) != kind)


def done_as(kind: str, form: str) -> str:
    """How a task of that kind is done and measured where its target has that form."""
    if form in _UNMEASURED:
        return form
    for name, other in kinds().items():
        if form in other.forms and kind in other.within:
            return name
    return kind


def fitter_of(kind: str, family: str) -> str:
    """The fitter of a task of that kind and family (A–K) that no school sets."""
    if kind not in kinds():
        return TIMED if kind == TIMED else COUNTED
    found = kinds()[kind]
    return found.fitted_in.get(family, found.fitted)
