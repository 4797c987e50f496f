"""What a single attempt of a step asks for: one note, one key, one breath, one piece of speech."""

from dataclasses import dataclass

from core.errors import PlanError
from core.notes.note import Note
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
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Asked:
    """One attempt: seconds, the note it begins on, where a glide ends, the measured target as text
    (`core.kinds.registry.target_of` reads it), how many are counted."""

    seconds: float
    note: Note | None = None
    end: Note | None = None
    aim: str = ""
    count: int | None = None


def asked_of(step: Step, place: int) -> Asked:
    """The attempt at one place of a step, from 0; PlanError("place_unknown")."""
    target = step.target
    if not 0 <= place < target.attempts:
        raise PlanError("place_unknown", place=place, places=target.attempts)
    match target:
        case Holds():
            hold = target.holds[place]
            return Asked(seconds=hold.seconds, note=hold.note, aim=hold.note.name)
        case GlidePath():
            return Asked(seconds=target.seconds, note=target.start, end=target.end)
        case Blow():
            return Asked(seconds=target.seconds)
        case Join():
            return Asked(seconds=target.seconds, note=target.note)
        case Pattern():
            key = target.keys[place]
            seconds = len(target.degrees) * 60 / target.tempo_bpm
            names = " ".join(note.name for note in target.in_key(key))
            return Asked(seconds=seconds, note=key, aim=names)
        case Pace():
            aim = f"in {target.in_s:g} out {target.out_s:g}"
            return Asked(seconds=target.in_s + target.out_s, aim=aim)
        case Speech():
            return Asked(seconds=target.seconds / target.attempts)
        case Timed():
            return Asked(seconds=target.seconds)
        case Counted():
            return Asked(seconds=target.seconds, note=target.note, count=target.count)


def rest_after(step: Step, place: int) -> float:
    """Seconds of rest after the attempt at that place: the keys of a pattern, the breaths of a pace
    and the pieces of a text run on; between held notes there is a rest."""
    runs_on = isinstance(step.target, Pattern | Pace | Speech)
    return 0.0 if runs_on and place + 1 < step.target.attempts else step.rest_s
