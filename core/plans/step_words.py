"""What a step asks for and why, in the clinician's words."""

from core.catalogue.words import Growth
from core.plans.lengths import length_words
from core.plans.step import Step
from core.plans.targets import (
    Blow,
    Counted,
    GlidePath,
    Holds,
    Join,
    Pace,
    Pattern,
    Speech,
    Timed,
    reasons_of,
)

_TOLD_BY_THE_TARGET = (Growth.TEMPO, Growth.BEATS_OUT)


def asks_words(step: Step) -> str:
    """One line: notes, seconds, counts, level, tube."""
    parts = [_target_words(step)]
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
    found = [step.because, *reasons_of(step.target)]
    for part in (step.level, step.tube):
        if part is not None:
            found.append(part.because)
    if step.grade is not None:
        found.append(f"its last rung, {step.grade.words[-1]}: {step.grade.because}")
    return tuple(dict.fromkeys(why for why in found if why))


def _target_words(step: Step) -> str:
    target = step.target
    match target:
        case Holds():
            seconds = list(dict.fromkeys(f"{hold.seconds:g}" for hold in target.holds))
            swell = ", swell" if target.swell else ""
            notes = " ".join(hold.note.name for hold in target.holds)
            return f"“{step.sound}” {notes}, {'/'.join(seconds)} s{swell}"
        case GlidePath():
            more = " and back" if target.back else ""
            more += f", {target.times} rises in one breath" if target.times > 1 else ""
            return f"“{step.sound}” {target.start}→{target.end}{more}, {target.seconds:g} s"
        case Blow():
            return f"{target.seconds:g} s of air{', swell' if target.swell else ''}"
        case Join():
            return f"hiss {target.hiss_s:g} s, buzz {target.buzz_s:g} s on {target.note}"
        case Pattern():
            degrees = " ".join(map(str, target.degrees))
            keys = f"{target.keys[0]} ↓ {min(target.keys)} ↑ {max(target.keys)}"
            return (
                f"{degrees} in {len(target.keys)} keys, {keys}, {target.tempo_bpm:g} beats/min, "
                f"{target.seconds:.0f} s"
            )
        case Pace():
            puff = ", last puff" if target.last_puff else ""
            return (
                f"in {target.beats_in}, out {target.beats_out} beats at {target.tempo_bpm:g}/min = "
                f"{target.in_s:.1f} / {target.out_s:.1f} s, {target.breaths} breaths{puff}"
            )
        case Speech():
            return f"“{step.sound}” {target.seconds:g} s"
        case Timed():
            sides = " a side" if target.sides > 1 else ""
            return f"{target.seconds_a_side:g} s{sides}"
        case Counted():
            near = f" near {target.note}" if target.note else ""
            beat = f", {target.tempo_bpm:g} beats/min" if target.tempo_bpm else ""
            return f"{target.count} {target.unit}{near}{beat}"
