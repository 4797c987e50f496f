"""What a target asks for in the client's words: a line for Today, and what one attempt is called."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from core.program.step import Step
from web.design.speaking import in_their_words
from web.design.templatetags.reed import compact


@dataclass(frozen=True, slots=True, kw_only=True)
class TargetWords:
    """line: of a step, for the Today page; label: of its attempt at a place, in the player."""

    line: Callable[[Step], str]
    label: Callable[[Step, int], str]


def step_words(step: Step) -> str:
    """One line for the Today page: "hold for 6.5 seconds, 5 notes"."""
    return _WORDS[step.target.kind].line(step)


def attempt_label(step: Step, place: int) -> str:
    """What the player calls one attempt."""
    return _WORDS[step.target.kind].label(step, place)


def _of(place: int, places: int) -> dict[str, int]:
    return {"place": place + 1, "places": places}


def _sounds(step: Step) -> list[str]:
    """The sounds of a step that has another for each of its holds; none for the others."""
    sounds = in_their_words(step.sound).split(", ")
    return sounds if len(sounds) == step.target.attempts > 1 else []


def _holds(step: Step) -> str:
    target: Any = step.target
    seconds = compact(target.holds[0].seconds)
    if _sounds(step):
        said = {"seconds": seconds, "sounds": in_their_words(step.sound)}
        return _("hold for %(seconds)s seconds: %(sounds)s") % said
    if len(target.holds) > 1:
        values = {"seconds": seconds, "notes": len(target.holds)}
        return _("hold for %(seconds)s seconds, %(notes)s notes") % values
    return _("hold for %(s)s seconds") % {"s": seconds}


def _one_hold(step: Step, place: int) -> str:
    places = step.target.attempts
    if sounds := _sounds(step):
        return f"“{sounds[place]}”, " + _("%(place)s of %(places)s") % _of(place, places)
    return _("Note %(place)s of %(places)s") % _of(place, places) if places > 1 else _("One note")


def _glide(_step: Step) -> str:
    return _("slide")


def _one_glide(step: Step, _place: int) -> str:
    target: Any = step.target
    if target.times > 1:
        return _("%(times)s rises in one breath") % {"times": target.times}
    return _("Up and down") if target.back else _("Slide")


def _blow(step: Step) -> str:
    return _("let the air go for %(s)s seconds") % {"s": compact(step.target.seconds)}


def _one_blow(step: Step, _place: int) -> str:
    target: Any = step.target
    return _("Soft, stronger, soft") if target.swell else _("Steady air")


def _join(_step: Step) -> str:
    return _("from a hiss to a buzz")


def _one_join(_step: Step, _place: int) -> str:
    return _("Hiss, then buzz")


def _pattern(step: Step) -> str:
    target: Any = step.target
    if target.tune:
        words = ngettext("a short tune", "a short tune, %(count)s times", target.attempts)
    else:
        words = ngettext(
            "a short group of notes", "%(count)s short groups of notes", target.attempts
        )
    return words % {"count": target.attempts}


def _one_group(step: Step, place: int) -> str:
    target: Any = step.target
    if target.tune:
        return f"“{in_their_words(target.tune)}”, " + _("%(place)s of %(places)s") % _of(
            place, target.attempts
        )
    return _("Group %(place)s of %(places)s") % _of(place, step.target.attempts)


def _pace(step: Step) -> str:
    return _("%(count)s slow breaths") % {"count": step.target.attempts}


def _one_breath(step: Step, place: int) -> str:
    return _("Breath %(place)s of %(places)s") % _of(place, step.target.attempts)


def _phrases(step: Step) -> str:
    target: Any = step.target
    return _("%(count)s phrases near your tone") % {"count": target.count}


def _some_phrases(step: Step, place: int) -> str:
    return _("Phrases, %(place)s of %(places)s") % _of(place, step.target.attempts)


def _duration(step: Step) -> str:
    seconds = step.target.seconds
    if seconds < 100:
        return _("for %(s)s seconds") % {"s": compact(seconds)}
    return _("for about %(min)s minutes") % {"min": compact(round(seconds / 60, 1))}


def _one_piece(step: Step, place: int) -> str:
    places = step.target.attempts
    return _("Part %(place)s of %(places)s") % _of(place, places) if places > 1 else _("Speak")


def _one_time(step: Step, _place: int) -> str:
    target: Any = step.target
    return _("First one side, then the other") if target.sides > 1 else _("By the clock")


def _counted(step: Step) -> str:
    target: Any = step.target
    return _("%(count)s times") % {"count": target.count}


def _one_count(step: Step, _place: int) -> str:
    return _counted(step)


_WORDS = {
    "holds": TargetWords(line=_holds, label=_one_hold),
    "glide": TargetWords(line=_glide, label=_one_glide),
    "blow": TargetWords(line=_blow, label=_one_blow),
    "join": TargetWords(line=_join, label=_one_join),
    "pattern": TargetWords(line=_pattern, label=_one_group),
    "pace": TargetWords(line=_pace, label=_one_breath),
    "phrases": TargetWords(line=_phrases, label=_some_phrases),
    "speech": TargetWords(line=_duration, label=_one_piece),
    "timed": TargetWords(line=_duration, label=_one_time),
    "counted": TargetWords(line=_counted, label=_one_count),
}
