"""The names of routines on a sheet."""

from django import template

from core.program.routine import Routine
from web.practice.player.routine_words import routine_words

register = template.Library()


@register.filter
def routine_name(routine: Routine) -> str:
    return routine_words(routine)
