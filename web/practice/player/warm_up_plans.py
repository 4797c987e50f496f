"""The warm-ups of a day, worked out beforehand for every choice, so that the page plans without the server."""

from typing import Any

from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from core.dose.warm_up import MINUTES, Purpose, VoiceToday, WarmUp, warm_up
from core.program.routine import Routine, RoutineKind
from core.program.step import Step
from core.reason import Reason
from web.design.speaking import in_their_words

CHOICES = {
    "purpose": [
        (Purpose.SPEAKING.value, gettext_lazy("speaking")),
        (Purpose.SINGING.value, gettext_lazy("singing")),
    ],
    "voice": [
        (VoiceToday.FRESH.value, gettext_lazy("fresh")),
        (VoiceToday.THICK.value, gettext_lazy("thick, not hoarse")),
        (VoiceToday.TIRED.value, gettext_lazy("tired")),
    ],
}
"""What is asked beside the minutes, with the words of each answer."""


def is_planned(routine: Routine) -> bool:
    """Whether a home session of it can be fitted to the day."""
    return routine.kind is RoutineKind.WARM_UP


def plans_of(steps: list[Step]) -> list[dict[str, Any]]:
    """A warm-up for every choice from the steps that may be done now, those of the warm-up first; plain data."""
    return [
        _data(warm_up(steps, minutes=minutes, purpose=purpose, voice=voice))
        for minutes in MINUTES
        for purpose in Purpose
        for voice in VoiceToday
    ]


def _data(plan: WarmUp) -> dict[str, Any]:
    return {
        "wanted": plan.wanted,
        "purpose": plan.purpose.value,
        "voice": plan.voice.value,
        "parts": [{"step_id": step_id, "repetitions": times} for step_id, times in plan.parts],
        "minutes": round(plan.minutes),
        "trimmed": [_words(why) for why in plan.trimmed],
    }


def _words(why: Reason) -> str:
    values = {**why.params, "name": in_their_words(str(why.params.get("name", "")))}
    return {
        "warm_up_strong": _("%(name)s: not at full power before an event."),
        "warm_up_no_range": _("%(name)s: for singing only."),
        "warm_up_tired": _("%(name)s: not with a thick or tired voice."),
        "warm_up_too_long": _("%(name)s: does not fit into %(minutes)s minutes."),
        "warm_up_all": _("That is all of your program: about %(minutes).0f minutes."),
    }[why.code] % values
