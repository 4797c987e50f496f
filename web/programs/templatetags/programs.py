"""Filters of the Bench: what a step asks for and why, in the clinician's words."""

from django import template

from core.program.dosing import When
from core.program.routine_words import WHEN_WORDS
from core.program.step_words import asks_words, whys_of
from core.program.taper_words import stage_words

register = template.Library()


@register.filter
def asks(step) -> str:
    return asks_words(step)


register.filter("stage_words", stage_words)


@register.filter
def when(code: When) -> str:
    """A time of day in the clinician's words."""
    return str(WHEN_WORDS[code])


@register.filter
def whys(step) -> str:
    sentences = map(str, whys_of(step))
    return " ".join(f"{why[:1].upper()}{why[1:]}." for why in sentences)


@register.filter
def thousands(value: float) -> str:
    """A large number with its thousands apart: 31 900, rounded to hundreds."""
    return f"{round(value, -2):,.0f}".replace(",", " ")
