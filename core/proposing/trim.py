"""Cuts a home session to the minutes there are: repetitions first, then the steps that matter least."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from core.dose.minutes import minutes_by_step
from core.program.step import Phase, Step
from core.program.targets import StepTarget
from core.reason import Reason, says

_SHORTER = says("cut_shorter", "{step}: shorter, to keep to the minutes.")
_FEWER = says("cut_repetitions", "{step}: fewer repetitions, to keep to the minutes.")
LEFT_OUT = says("cut_step", "{step}: left out, to keep to the minutes.")


@dataclass(frozen=True, slots=True)
class Weighed:
    """A step and whether its school makes no sense without it."""

    step: Step
    essential: bool


def trimmed(
    weighed: Sequence[Weighed],
    most_min: float,
    *,
    counts: Callable[[Step], bool] = lambda _step: True,
) -> tuple[list[Weighed], list[Reason]]:
    """The steps that fit into so many minutes, and what was cut.

    counts: which steps the limit is about. First repetitions above one of the inessential, from
    the last; then inessential steps from the last; then repetitions of the essential; then
    essential steps from the last, all but one.
    """
    left, said = list(weighed), list[Reason]()
    cuts = (_fewer(essential=False), _without(essential=False), _fewer(essential=True))
    for cut in (*cuts, _without(essential=True)):
        while minutes_that_count(left, counts) > most_min:
            cut_now = cut(left, counts)
            if cut_now is None:
                break
            said.append(cut_now)
    return left, list(dict.fromkeys(said))


def shortened(
    weighed: Sequence[Weighed], most_min: float, *, counts: Callable[[Step], bool]
) -> tuple[list[Weighed], list[Reason]]:
    """What is done by the clock, spoken or counted made shorter, where cutting was not enough."""
    left, said = list(weighed), list[Reason]()
    for place, one in enumerate(left):
        over = minutes_that_count(left, counts) - most_min
        if over <= 0 or not counts(one.step):
            continue
        shorter = _shorter(one.step, over * 60)
        if shorter is not None:
            left[place] = replace(one, step=replace(one.step, target=shorter))
            said.append(_SHORTER(step=one.step.name))
    return left, said


def shortened_phase(
    weighed: Sequence[Weighed], most_min: float, phase: Phase
) -> tuple[list[Weighed], list[Reason]]:
    """The steps with fewer repetitions of one phase, and then fewer of its steps, as far as the minutes
    of the whole need it; one of them stays."""
    left, said = list(weighed), list[Reason]()
    while minutes_that_count(left, lambda _step: True) > most_min:
        own = [place for place, one in enumerate(left) if one.step.phase is phase]
        often = [place for place in own if left[place].step.repetitions > 1]
        if often:
            place = max(often, key=lambda at: left[at].step.repetitions)
            step = left[place].step
            fewer = replace(step, repetitions=step.repetitions - 1)
            left[place] = replace(left[place], step=fewer)
            said.append(_FEWER(step=step.name))
        elif len(own) > 1:
            said.append(LEFT_OUT(step=left.pop(own[-1]).step.name))
        else:
            break
    return left, list(dict.fromkeys(said))


def _shorter(step: Step, over_s: float) -> StepTarget | None:
    return step.target.shorter(
        over_s / step.repetitions,
        graded=step.grade is not None,
        rungs_are_targets=bool(step.grade and step.grade.targets),
    )


def minutes_that_count(weighed: Sequence[Weighed], counts: Callable[[Step], bool]) -> float:
    """Minutes of the steps a limit is about, each with the rest after it."""
    steps = [one.step for one in weighed]
    by_step = minutes_by_step(steps)
    return sum(m for step, m in zip(steps, by_step, strict=True) if counts(step))


_Cut = Callable[[list[Weighed], Callable[[Step], bool]], Reason | None]


def _fewer(*, essential: bool) -> _Cut:
    def cut(left: list[Weighed], counts: Callable[[Step], bool]) -> Reason | None:
        for place in range(len(left) - 1, -1, -1):
            one = left[place]
            if one.essential is essential and one.step.repetitions > 1 and counts(one.step):
                fewer = replace(one.step, repetitions=one.step.repetitions - 1)
                left[place] = replace(one, step=fewer)
                return _FEWER(step=one.step.name)
        return None

    return cut


def _without(*, essential: bool) -> _Cut:
    def cut(left: list[Weighed], counts: Callable[[Step], bool]) -> Reason | None:
        for place in range(len(left) - 1, -1, -1):
            one = left[place]
            if one.essential is essential and counts(one.step) and len(left) > 1:
                del left[place]
                return LEFT_OUT(step=one.step.name)
        return None

    return cut
