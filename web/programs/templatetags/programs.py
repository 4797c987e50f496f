"""Filters of the Bench: what a step asks for and why, in the clinician's words."""

from django import template

from core.plans.dosing import When
from core.plans.routine_words import WHEN_WORDS
from core.plans.step import Step
from core.plans.step_words import asks_words, whys_of
from web.programs.presenting import presented_choices

register = template.Library()


@register.filter
def set_by_hand(step) -> bool:
    """Whether seconds, a depth or a level of this step can be set by hand."""
    in_water = step.tube is not None and step.tube.deepest_cm
    return bool(
        step.target.set_by_hand or in_water or (step.level and step.level.over_db is not None)
    )


@register.filter
def presented(step: Step):
    """How it is presented at home, as it can be set."""
    return presented_choices(step)


@register.filter
def asks(step: Step) -> str:
    return asks_words(step)


@register.filter
def when(code: When) -> str:
    """A time of day in the clinician's words."""
    return WHEN_WORDS[code]


@register.filter
def whys(step: Step) -> str:
    sentences = map(str, whys_of(step))
    return " ".join(f"{why[:1].upper()}{why[1:]}." for why in sentences)


@register.filter
def thousands(value: float) -> str:
    """A large number with its thousands apart: 31 900, rounded to hundreds."""
    return f"{round(value, -2):,.0f}".replace(",", " ")
