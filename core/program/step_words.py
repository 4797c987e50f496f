"""What a step asks for and why, in the clinician's words."""

from core.catalogue.words import NAMED_RUNGS
from core.program.lengths import length_words
from core.program.step import Step
from core.reason import Reason, says

_LAST_RUNG = says("last_rung", "its last rung, {asked}: {why}")


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
    if step.grade is not None and step.grade.growth in NAMED_RUNGS:
        parts.append(step.grade.words[step.rung])
    return "; ".join(dict.fromkeys(parts))


def whys_of(step: Step) -> tuple[Reason, ...]:
    """Why the step is there and why each of its targets is as it is."""
    found = [step.because, *step.target.reasons]
    for part in (step.level, step.tube):
        if part is not None:
            found.append(part.because)
    if step.grade is not None:
        found.append(_LAST_RUNG(asked=step.grade.words[-1], why=step.grade.because))
    return tuple(dict.fromkeys(why for why in found if why is not None))
