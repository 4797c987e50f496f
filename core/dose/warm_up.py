"""A warm-up for the minutes there are: which steps of the program, how often, in the right order.

Only steps of the active version at their rung, never more often than prescribed, never at full power. The order
and the shares are common practice of the field, no source claims them (clinical default).
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from core.dose.minutes import length_of
from core.program.step import Phase, Step
from core.reason import Reason, says

MINUTES = (5, 10, 15, 20, 30)
"""What can be asked for; more than 45 is too much of any warm-up."""
_ORDER = (
    Phase.RELEASE,
    Phase.BREATH,
    Phase.SEMI_OCCLUDED,
    Phase.VOICE,
    Phase.RESONANCE,
    Phase.RANGE,
    Phase.CARRY_OVER,
)


class Purpose(StrEnum):
    SPEAKING = "speaking"
    SINGING = "singing"


class VoiceToday(StrEnum):
    """How the voice is before the warm-up; one that is newly hoarse is no case for it."""

    FRESH = "fresh"
    THICK = "thick"
    TIRED = "tired"


_STRONG = says("warm_up_strong", "{name}: not at full power before an event")
_NO_RANGE = says("warm_up_no_range", "{name}: for singing only")
_TIRED = says("warm_up_tired", "{name}: not with a thick or tired voice")
_TOO_LONG = says("warm_up_too_long", "{name}: does not fit into {minutes} minutes")
_ALL = says("warm_up_all", "this is all of your program: {minutes:.0f} minutes")


@dataclass(frozen=True, slots=True, kw_only=True)
class WarmUp:
    """parts: step ids with their repetitions, in order; minutes: how long it takes; trimmed: what is not in
    it and why."""

    wanted: int
    purpose: Purpose
    voice: VoiceToday
    parts: tuple[tuple[str, int], ...]
    minutes: float
    trimmed: tuple[Reason, ...]


def warm_up(steps: Iterable[Step], *, minutes: int, purpose: Purpose, voice: VoiceToday) -> WarmUp:
    """A warm-up of at most so many minutes from the steps that may be done now."""
    trimmed: list[Reason] = []
    able: list[Step] = []
    for step in sorted(
        (one for one in steps if one.phase in _ORDER), key=lambda one: _ORDER.index(one.phase)
    ):
        why = _against(step, purpose, voice)
        if any(step.task == other.task for other in able):
            continue
        if why is None:
            able.append(step)
        else:
            trimmed.append(why)
    able, long = _fitted(able, minutes)
    trimmed += [_TOO_LONG(name=step.name, minutes=minutes) for step in long]
    lasts = length_of(able).minutes
    if able and not long and lasts < minutes * 0.8:
        trimmed.append(_ALL(minutes=max(lasts, 1)))
    return WarmUp(
        wanted=minutes,
        purpose=purpose,
        voice=voice,
        parts=tuple((step.step_id, step.repetitions) for step in able),
        minutes=lasts,
        trimmed=tuple(trimmed),
    )


def _against(step: Step, purpose: Purpose, voice: VoiceToday) -> Reason | None:
    if step.level is not None:
        return _STRONG(name=step.name)
    if step.phase is Phase.RANGE and purpose is Purpose.SPEAKING:
        return _NO_RANGE(name=step.name)
    if step.phase in (Phase.RANGE, Phase.VOICE) and voice is not VoiceToday.FRESH:
        return _TIRED(name=step.name)
    return None


def _fitted(steps: Sequence[Step], minutes: int) -> tuple[list[Step], list[Step]]:
    """The steps less often, then fewer of them, until they fit; the longest first, the semi-occluded one
    never: it is what a warm-up is about."""
    able = list(steps)
    gone: list[Step] = []
    while length_of(able).minutes > minutes:
        often = [step for step in able if step.repetitions > 1]
        if often:
            most = max(often, key=_minutes)
            able[able.index(most)] = replace(most, repetitions=most.repetitions - 1)
            continue
        others = [step for step in able if step.phase is not Phase.SEMI_OCCLUDED]
        if not others:
            break
        longest = max(others, key=_minutes)
        able.remove(longest)
        gone.append(longest)
    return able, gone


def _minutes(step: Step) -> float:
    return length_of((step,)).minutes
