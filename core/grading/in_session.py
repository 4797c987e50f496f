"""The figures of a step in one home session, measured or not."""

from collections.abc import Sequence
from statistics import mean

from core.kinds.in_session import SessionFigure, TriedAttempt, figure
from core.kinds.registry import kind_of
from core.program.step import Step


def in_session(step: Step, tries: Sequence[TriedAttempt]) -> tuple[SessionFigure, ...]:
    """The figures of its kind; of what is counted `done`: how much of what was asked for, %; of what
    is done by the clock `done_s`, s. `place`: the rung by its number where the place is what climbs."""
    if step.measured is not None:
        return kind_of(step.measured).in_session(tries)
    if any(tried.count_asked for tried in tries):
        return (figure("done", tries, _done, mean),)
    return (figure("done_s", tries, lambda tried: tried.seconds, sum),)


def _done(tried: TriedAttempt) -> float | None:
    if tried.count is None or not tried.count_asked:
        return None
    return 100.0 * tried.count / tried.count_asked
