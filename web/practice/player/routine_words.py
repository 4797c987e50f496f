"""Routines and times of day in the client's words."""

from django.utils.functional import Promise
from django.utils.translation import gettext_lazy as _

from core.program.dosing import When
from core.program.routine import Routine, RoutineKind

_ROUTINES: dict[RoutineKind, Promise] = {
    RoutineKind.PRACTICE: _("Home practice"),
    RoutineKind.RELEASE: _("Loosening"),
    RoutineKind.BREATH: _("Breathing"),
    RoutineKind.SEMI_OCCLUDED: _("Straws and hums"),
    RoutineKind.LADDER: _("Held notes"),
    RoutineKind.LOUDNESS: _("Strong voice"),
    RoutineKind.RANGE: _("High and low"),
    RoutineKind.RESONANCE: _("An easy, clear sound"),
    RoutineKind.PITCH: _("Speaking pitch"),
    RoutineKind.CLEAR_SPEECH: _("Clear speech"),
    RoutineKind.CARRY_OVER: _("Into your day"),
    RoutineKind.RESET: _("Reset"),
    RoutineKind.WARM_UP: _("Warm-up"),
    RoutineKind.COOL_DOWN: _("Cool-down"),
}
_WHEN: dict[When, Promise | str] = {
    When.ANY: "",
    When.MORNING: _("in the morning"),
    When.EVENING: _("in the evening"),
    When.WORKING_HOURS: _("every few hours while you work"),
    When.BEFORE_USE: _("before you use your voice a lot"),
    When.AFTER_USE: _("after you have used your voice a lot"),
}


def routine_words(routine: Routine) -> str:
    """The name of a routine; a second one of the same kind carries its number."""
    return routine.called(str(_ROUTINES[routine.kind]))


def when_words(routine: Routine) -> str:
    """Where in the day it lies; "" for any time."""
    return str(_WHEN[routine.dose.when])
