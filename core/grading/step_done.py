"""A step of a home session as the rules read it: how the figures come from its attempts."""

from collections.abc import Mapping, Sequence

from core.grading.history import StepDone, Trial
from core.grading.in_session import in_session
from core.kinds.in_session import TriedAttempt
from core.program.step import Step
from core.program.targets import Speech

_CENTS = 100.0


def step_done(
    step: Step, tries: Sequence[TriedAttempt], said: Mapping[str, float], *, device: str = ""
) -> StepDone:
    """A step of a home session as the rules read it: each attempt by the figures its kind has of a
    session of that attempt alone, and those of the whole; device: what it was heard with."""
    figures = _of(step, tries)
    trials = tuple(_trial(step, tried) for tried in tries)
    heard = [trial for trial in trials if trial.heard]
    gaps = [gap for trial in heard if (gap := trial.figures.get("gaps")) is not None]
    if gaps:
        figures["gaps_each"] = sum(gaps) / len(gaps)
    broken = [found for trial in heard if (found := _broken(trial)) is not None]
    if broken:
        figures["broken_keys"] = 100.0 * sum(broken) / len(broken)
    asked_s = sum(tried.target_s for tried in tries)
    if isinstance(step.target, Speech) and asked_s:
        seconds = [tried.seconds for tried in tries]
        known = [one for one in seconds if one is not None]
        figures["spoken"] = 100.0 * sum(known) / asked_s if len(known) == len(seconds) else None
    return StepDone(
        step_id=step.step_id,
        rung=step.rung,
        asked=step.attempts,
        notes=step.target.attempts,
        trials=trials,
        figures=figures,
        said=said,
        device=device,
    )


def _trial(step: Step, tried: TriedAttempt) -> Trial:
    figures = _of(step, [tried])
    if tried.over_db is not None and tried.aimed_db is not None:
        figures["over_aim"] = tried.over_db - tried.aimed_db
    known = tried.known
    if known is not None and known.pitch_error_cents is not None:
        figures["off_note"] = known.pitch_error_cents / _CENTS
    return Trial(
        note=f"{tried.place} {tried.note}".strip(),
        heard=tried.figures is not None,
        figures={
            code: None if value is None else round(value, 6) for code, value in figures.items()
        },
    )


def _of(step: Step, tries: Sequence[TriedAttempt]) -> dict[str, float | None]:
    """Figures by code; of those of each note the one of this attempt's. What is done by the clock
    is `done` by its time."""
    found: dict[str, float | None] = {}
    for one in in_session(step, tries):
        if not one.of or len(tries) == 1:
            found[one.code] = one.value
    asked_s = sum(tried.target_s for tried in tries)
    if "done_s" in found and found["done_s"] is not None and asked_s:
        found["done"] = 100.0 * found["done_s"] / asked_s
    return found


def _broken(trial: Trial) -> bool | None:
    """Whether a key of a pattern broke: a note of it is missing (its silences are breaths); None where
    it is not known."""
    missing = trial.figures.get("missing")
    return None if missing is None else missing > 0
