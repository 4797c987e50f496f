"""Routines and times of day in words for the clinician."""

from core.program.dosing import When
from core.program.routine import Routine, RoutineKind
from core.reason import Reason, says, told_as

ROUTINE_WORDS = told_as(
    "routine",
    {
        RoutineKind.PRACTICE: "Home practice",
        RoutineKind.RELEASE: "Release and posture",
        RoutineKind.BREATH: "Breath",
        RoutineKind.SEMI_OCCLUDED: "Semi-occluded",
        RoutineKind.LADDER: "Ladder",
        RoutineKind.LOUDNESS: "Loudness",
        RoutineKind.RANGE: "Range",
        RoutineKind.RESONANCE: "Resonance and onset",
        RoutineKind.PITCH: "Speaking pitch",
        RoutineKind.CLEAR_SPEECH: "Clear speech",
        RoutineKind.CARRY_OVER: "Carry-over",
        RoutineKind.RESET: "Reset",
        RoutineKind.WARM_UP: "Warm-up",
        RoutineKind.COOL_DOWN: "Cool-down",
    },
)
WHEN_WORDS = told_as(
    "when",
    {
        When.ANY: "any time",
        When.MORNING: "in the morning",
        When.EVENING: "in the evening",
        When.WORKING_HOURS: "through the working hours",
        When.BEFORE_USE: "before the voice is used",
        When.AFTER_USE: "after the voice was used",
    },
)


_NUMBERED = says("routine_numbered", "{name} {number}")


def routine_label(routine: Routine) -> Reason:
    """The name of a routine; a second one of the same kind carries its number."""
    name = ROUTINE_WORDS[routine.kind]
    return _NUMBERED(name=name, number=routine.number) if routine.number else name


def routine_name(routine: Routine) -> str:
    """`routine_label` in the language that is spoken."""
    return str(routine_label(routine))
