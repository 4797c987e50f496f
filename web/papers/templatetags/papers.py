"""Words for the cells of a sheet and the names of routines."""

from django import template
from django.utils.translation import gettext as _

from core.plans.routine import Routine
from core.sheets.rows import SheetColumn
from web.practice.routine_words import routine_words

register = template.Library()


@register.filter
def cell_words(name: str) -> str:
    """Which day and home session a cell stands in: "Mon 15 Jun, 1"."""
    column = SheetColumn.named(name.rpartition("|")[2])
    return _("%(day)s, home session %(turn)s") % {
        "day": f"{column.day:%a %-d %b}",
        "turn": column.turn,
    }


@register.filter
def routine_name(routine: Routine) -> str:
    return routine_words(routine)
