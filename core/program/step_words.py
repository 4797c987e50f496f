"""What a step asks for and why, in the clinician's words."""

from core.catalogue.words import NAMED_RUNGS
from core.program.lengths import length_words
from core.program.step import Step
from core.reason import Reason, says, table_reason

_OVER_TALK = says("asks_over_talk", "+ {db:g} dB over the own conversation")
_EFFORT = says("asks_effort", "effort {low}–{high} of 10")
_IN_AIR = says("asks_in_air", "in air")()
_DEEP = says("asks_depth", "{length} deep")
_TUBE = says(
    "asks_tube", "tube {bore_mm:g} mm × {length_cm:g} cm {where}, {pressure_cmh2o:g} cmH₂O"
)
_LAST_RUNG = says("last_rung", "its last rung, {asked}: {why}")


def asks_words(step: Step) -> str:
    """One line: notes, seconds, counts, level, tube."""
    parts = [step.target.said(step.sound)]
    if step.level is not None and step.level.over_db is not None:
        parts.append(str(_OVER_TALK(db=step.level.over_db)))
    elif step.level is not None:
        low, high = step.level.effort_low or 0, step.level.effort_high or 0
        parts.append(str(_EFFORT(low=low, high=high)))
    if step.tube is not None:
        tube = step.tube
        asked = _TUBE(
            bore_mm=tube.bore_mm,
            length_cm=tube.length_cm,
            where=_DEEP(length=length_words(tube.depth_cm)) if tube.depth_cm else _IN_AIR,
            pressure_cmh2o=tube.back_pressure_cmh2o,
        )
        parts.append(str(asked))
    if step.grade is not None and step.grade.growth in NAMED_RUNGS:
        parts.append(str(table_reason("rung", step.grade.words[step.rung])))
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
