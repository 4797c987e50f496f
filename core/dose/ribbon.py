"""One home session from its first second to its last: doing, rests, reference tones, step by step."""

from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum

from core.program.routine import Routine
from core.program.step import Step
from core.reference.values import TONE_AND_BREATH_SECONDS


class Passing(StrEnum):
    """What fills a stretch of a session: voice; partly voice (talk, counted work); work without voice; a reference
    tone and a breath; a rest."""

    VOICED = "voiced"
    PARTLY = "partly_voiced"
    UNVOICED = "unvoiced"
    TONE = "tone"
    REST = "rest"


@dataclass(frozen=True, slots=True)
class RibbonStretch:
    """One stretch of a session, s from its beginning."""

    step_id: str
    passing: Passing
    begins_s: float
    seconds: float

    @property
    def ends_s(self) -> float:
        return self.begins_s + self.seconds


def ribbon_of(routine: Routine) -> tuple[RibbonStretch, ...]:
    """The stretches of one sitting in order, without a gap; together as long as `session_length` says."""
    found: list[RibbonStretch] = []
    at = 0.0
    for step in routine.steps:
        for passing, seconds in _stretches(step):
            if seconds > 0:
                found.append(RibbonStretch(step.step_id, passing, at, seconds))
                at += seconds
    while found and found[-1].passing is Passing.REST:
        found.pop()
    return tuple(found)


def _stretches(step: Step) -> Iterator[tuple[Passing, float]]:
    each_s = step.active_s / step.starts
    for _start in range(step.starts):
        if step.prepared:
            yield Passing.TONE, TONE_AND_BREATH_SECONDS.number
        yield from _doing(step, each_s)
        yield Passing.REST, step.rest_s


def _doing(step: Step, each_s: float) -> Iterator[tuple[Passing, float]]:
    if not step.voiced:
        yield Passing.UNVOICED, each_s
    elif step.target.partly_voiced:
        yield Passing.PARTLY, each_s
    else:
        voiced_s = step.voiced_s / step.starts
        yield Passing.UNVOICED, each_s - voiced_s
        yield Passing.VOICED, voiced_s
