"""Changes a clinician makes to what a step asks for; each gives a new program."""

from dataclasses import replace
from typing import Any

from core.editing.step_settings import BY_HAND, nudged, with_setting
from core.errors import PlanError
from core.notes.note import Note
from core.program.program import Program
from core.program.rungs import checked_hold
from core.program.targets import Pattern

_LINES = ("asked", "assumed", "left_out")


def move_hold(
    program: Program, step_id: str, place: int, *, semitones: int = 0, seconds: float = 0.0
) -> Program:
    """Move one hold of a step sideways (semitones) and up or down (seconds).

    The note may leave the comfortable range (`problems` says so); seconds outside 0.5–90 and
    notes outside 60–1000 Hz raise.
    """
    step = program.step(step_id)
    if not 0 <= place < len(step.holds):
        raise PlanError("hold_unknown", place=place, holds=len(step.holds))
    hold = step.holds[place]
    moved = replace(
        hold,
        note=hold.note.up(semitones),
        seconds=round(2 * checked_hold(hold.seconds + seconds)) / 2,
        because=BY_HAND,
    )
    holds = (*step.holds[:place], moved, *step.holds[place + 1 :])
    return program.with_step(step.with_holds(holds))


def with_repetitions(program: Program, step_id: str, repetitions: int) -> Program:
    """Another number of repetitions, 1–10."""
    return program.with_step(replace(program.step(step_id), repetitions=repetitions))


def with_rest(program: Program, step_id: str, rest_s: float) -> Program:
    """Another rest after each attempt, 0–300 s."""
    return program.with_step(replace(program.step(step_id), rest_s=rest_s))


def set_by_hand(program: Program, step_id: str, key: str, text: str) -> Program:
    """One setting of a step (`core.editing.step_settings.settings_of`) to what was typed.

    `problems` says what lies outside the range or above what was shown. PlanError("setting_unknown"),
    ("setting_unreadable"), ("target_out_of_limits") and those of targets; NoteError of notes.
    """
    return program.with_step(with_setting(program.step(step_id), key, text))


def as_proposed(program: Program, proposed: Program, step_id: str) -> Program:
    """The step as it was proposed, in its present place; PlanError("step_unknown") where it was not."""
    program.step(step_id)
    return program.with_step(proposed.step(step_id))


def with_key(program: Program, step_id: str, name: str) -> Program:
    """A key of a pattern turned on or off: keys run from the first down to the lowest, then up to the highest.
    PlanError("setting_unknown") for no pattern, ("last_key_stays")."""
    step, toggled = program.step(step_id), Note.named(name)
    if not isinstance(step.target, Pattern):
        raise PlanError("setting_unknown", setting="keys")
    start, keys = step.target.keys[0].number, {*step.target.keys} ^ {toggled}
    if not keys:
        raise PlanError("last_key_stays")
    first = min(keys, key=lambda key: abs(key.number - start))
    down = sorted((key for key in keys if key <= first), reverse=True)
    up = sorted(key for key in keys if key > first)
    return set_by_hand(program, step_id, "keys", " ".join(map(str, (*down, *up))))


def dealt_with(program: Program, part: str, place: int) -> Program:
    """Remove one line of what was left out, assumed or still to be asked, because the clinician has dealt with it.
    PlanError("place_unknown")."""
    lines = getattr(program, part) if part in _LINES else ()
    if not 0 <= place < len(lines):
        raise PlanError("place_unknown", came=place, high=len(lines))
    left: dict[str, Any] = {part: (*lines[:place], *lines[place + 1 :])}
    return replace(program, **left)


def nudge(program: Program, step_id: str, key: str, by: int) -> Program:
    """One setting some places of its grid, or semitones, further, no further than its limits."""
    return program.with_step(nudged(program.step(step_id), key, by))
