"""The pitch schools of the sustained-note ladder: which notes are held."""

from dataclasses import dataclass
from enum import StrEnum

from core.errors import NoteError, PlanError
from core.notes.note import Note
from core.notes.range import ComfortableRange, VoiceGroup
from core.reason import Reason, Value, says
from core.reference.values import MARGIN

_STANDARD = says(
    "pitches_standard",
    "standard notes for the voice group {group}, {margin} semitones inside {lowest}–{highest}",
)
_FIVE_NOTES = says("five_notes", "five notes")
_THREE_NOTES = says("only_three_notes", "only three notes")
_BUILT_UP = says("built_up", "{count} built up from the speaking note {speaking}")
_AS_IT_IS = says(
    "pitches_as_it_is", "{count} as it is, {margin} semitones inside {lowest}–{highest}"
)
_AT_STANDARD = says(
    "pitches_at_standard",
    "{count} at the standard pitch, {margin} semitones inside {lowest}–{highest}",
)
_MOVED_DOWN = says(
    "pitches_moved_down",
    "{count} moved {semitones} semitones to lie {margin} semitones inside {lowest}–{highest}; from "
    "{first}, not {wanted}: the highest comfortable note is {highest}",
)
_MOVED_UP = says(
    "pitches_moved_up",
    "{count} moved {semitones} semitones to lie {margin} semitones inside {lowest}–{highest}; from "
    "{first}, not {wanted}: the lowest comfortable note is {lowest}",
)

_FIVE = (0, 2, 4, 5, 7)
_THREE = (0, 2, 4)
_WARM_UP_PLACE = 3


class PitchSchool(StrEnum):
    """standard: the voice group's own notes; shifted: the same moved into the range; speaking:
    built up from the client's own comfortable speaking note."""

    STANDARD = "standard"
    SHIFTED = "shifted"
    SPEAKING = "speaking"


@dataclass(frozen=True, slots=True, kw_only=True)
class PitchSet:
    """Notes to hold, the warm-up note, how far they were moved and why."""

    notes: tuple[Note, ...]
    warm_up: Note
    shift_semitones: int
    margin_semitones: int
    because: Reason


def standard_notes(group: VoiceGroup) -> tuple[Note, ...]:
    """C D E F G of the group's octave."""
    return tuple(group.middle_c.up(step) for step in _FIVE)


def fit_pitches(comfort: ComfortableRange, group: VoiceGroup, school: PitchSchool) -> PitchSet:
    """The notes of a school for this range.

    Standard: the group's own five, only if all lie inside with a margin of 2 semitones or 1.
    Shifted: the same five moved by the fewest semitones so that all lie inside (margin 2, then
    1), then three notes; of two equal shifts the lower. Speaking: likewise, counted from the
    speaking note. Raises PlanError("standard_outside"), ("speaking_missing"), ("range_too_small").
    """
    margins = tuple(range(int(MARGIN.number), 0, -1))
    if school is PitchSchool.STANDARD:
        return _standard(comfort, group, margins)
    root = group.middle_c
    if school is PitchSchool.SPEAKING:
        if comfort.speaking is None:
            raise PlanError("speaking_missing")
        root = comfort.speaking
    for steps in (_FIVE, _THREE):
        for margin in margins:
            shift = _smallest_shift(comfort, root, steps, margin)
            if shift is not None:
                return _moved(comfort, root, school, steps, margin, shift)
    raise PlanError("range_too_small", semitones=comfort.semitones, needed=_THREE[-1] + 2)


def _standard(comfort: ComfortableRange, group: VoiceGroup, margins: tuple[int, ...]) -> PitchSet:
    notes = standard_notes(group)
    for margin in margins:
        if all(comfort.holds(note, margin) for note in notes):
            return PitchSet(
                notes=notes,
                warm_up=notes[_WARM_UP_PLACE],
                shift_semitones=0,
                margin_semitones=margin,
                because=_STANDARD(group=group.value, **_inside(comfort, margin)),
            )
    outside = [note.name for note in notes if not comfort.holds(note, margins[-1])]
    raise PlanError("standard_outside", notes=outside, margin=margins[-1])


def _smallest_shift(
    comfort: ComfortableRange, root: Note, steps: tuple[int, ...], margin: int
) -> int | None:
    lowest = comfort.lowest.number + margin - root.number
    highest = comfort.highest.number - margin - root.number - steps[-1]
    if lowest > highest:
        return None
    return min(range(lowest, highest + 1), key=lambda shift: (abs(shift), shift))


def _moved(
    comfort: ComfortableRange,
    root: Note,
    school: PitchSchool,
    steps: tuple[int, ...],
    margin: int,
    shift: int,
) -> PitchSet:
    try:
        notes = tuple(root.up(step + shift) for step in steps)
    except NoteError as error:
        raise PlanError("range_too_small", semitones=comfort.semitones, needed=6) from error
    return PitchSet(
        notes=notes,
        warm_up=notes[_WARM_UP_PLACE] if len(notes) > _WARM_UP_PLACE else notes[1],
        shift_semitones=shift,
        margin_semitones=margin,
        because=_why_moved(comfort, root, school, steps, margin, shift),
    )


def _why_moved(
    comfort: ComfortableRange,
    root: Note,
    school: PitchSchool,
    steps: tuple[int, ...],
    margin: int,
    shift: int,
) -> Reason:
    count = _FIVE_NOTES() if len(steps) == len(_FIVE) else _THREE_NOTES()
    inside = _inside(comfort, margin)
    if school is PitchSchool.SPEAKING:
        count = _BUILT_UP(count=count, speaking=root.name)
    if not shift:
        as_is = _AS_IT_IS if school is PitchSchool.SPEAKING else _AT_STANDARD
        return as_is(count=count, **inside)
    moved = _MOVED_DOWN if shift < 0 else _MOVED_UP
    semitones = f"{shift:+d}".replace("-", "−")
    first = Note(root.number + shift)
    return moved(count=count, semitones=semitones, first=first.name, wanted=root.name, **inside)


def _inside(comfort: ComfortableRange, margin: int) -> dict[str, Value]:
    lowest, highest = comfort.lowest.name, comfort.highest.name
    return {"margin": margin, "lowest": lowest, "highest": highest}
