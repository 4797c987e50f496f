"""The words of a rung that is a number, wherever it comes from: a fitter, or the clinician's hand."""

from collections.abc import Sequence

from core.catalogue.words import Growth
from core.program.step import Grade
from core.program.targets.common import seconds_of
from core.reason import Reason

_WORDS = {
    Growth.SECONDS: "{value:g} s",
    Growth.DECIBELS: "+ {value:g} dB",
    Growth.TEMPO: "{value:g} beats/min",
}


def number_words(growth: Growth, value: float, *, unit: str = "times") -> str:
    """Seconds, decibels, beats a minute, or how many of `unit`."""
    pattern = _WORDS.get(growth)
    return pattern.format(value=value) if pattern else f"{value:g} {unit}"


def beats_words(beats: float, tempo_bpm: float) -> str:
    """Beats of a breath out at a tempo, with their seconds."""
    return f"out {beats:g} beats = {seconds_of(beats, tempo_bpm):.1f} s"


def number_grade(
    key: str,
    growth: Growth,
    rungs: Sequence[float],
    *,
    because: Reason,
    goal: float | None = None,
    shown: float | None = None,
    unit: str = "times",
) -> Grade:
    """Build a grade whose rungs are plain numbers in the unit of `growth`. Raises PlanError as `Grade` does."""
    return Grade(
        key=key,
        growth=growth,
        rungs=tuple(rungs),
        words=tuple(number_words(growth, value, unit=unit) for value in rungs),
        goal=goal,
        because=because,
        shown=shown,
    )
