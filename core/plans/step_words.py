"""What a step asks for and why, in the clinician's words."""

from core.catalogue.words import Growth
from core.plans.lengths import length_words
from core.plans.step import Step

_TOLD_BY_THE_TARGET = (Growth.TEMPO, Growth.BEATS_OUT)


def asks_words(step: Step) -> str:
    """One line: notes, seconds, counts, level, tube."""
    parts = [step.target.said(step.sound)]
    if step.level is not None and step.level.over_db is not None:
        parts.append(f"+ {step.level.over_db:g} dB over the own conversation")
    elif step.level is not None:
        parts.append(f"effort {step.level.effort_low}–{step.level.effort_high} of 10")
    if step.tube is not None:
        tube = step.tube
        where = f"{length_words(tube.depth_cm)} deep" if tube.depth_cm else "in air"
        parts.append(
            f"tube {tube.bore_mm:g} mm × {tube.length_cm:g} cm {where}, "
            f"{tube.back_pressure_cmh2o:g} cmH₂O"
        )
    if step.cue and not (step.grade and step.grade.growth in _TOLD_BY_THE_TARGET):
        parts.append(step.cue)
    return "; ".join(dict.fromkeys(parts))


def whys_of(step: Step) -> tuple[str, ...]:
    """Why the step is there and why each of its targets is as it is."""
    found = [step.because, *step.target.reasons]
    for part in (step.level, step.tube):
        if part is not None:
            found.append(part.because)
    if step.grade is not None:
        found.append(f"its last rung, {step.grade.words[-1]}: {step.grade.because}")
    return tuple(dict.fromkeys(why for why in found if why))
