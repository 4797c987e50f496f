"""Filters every template may use."""

import re

from django import template
from django.utils.html import format_html
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _

from web.design import dates
from web.design.numbers import number_text
from web.design.speaking import in_their_words

register = template.Library()
for _day in (
    dates.long_day,
    dates.medium_day,
    dates.month_day,
    dates.short_day,
    dates.weekday,
    dates.long_weekday,
    dates.full_day,
    dates.weekday_numbers,
    dates.short_moment,
    dates.medium_moment,
    dates.long_moment,
    dates.clock_time,
):
    register.filter(_day.__name__, _day, expects_localtime=True)


def _missing(value) -> bool:
    """No number: None, or the empty text a template makes of an attribute of nothing."""
    return value is None or value == ""


register.filter("translated", in_their_words)


@register.filter
def seconds(value, places: int = 1) -> str:
    """Seconds with unit, or words when there is no number."""
    if _missing(value):
        return _("not measurable")
    return f"{number_text(float(value), f'.{places}f')} s"


@register.filter
def signed(value, unit: str = "") -> str:
    """A number with its sign and unit; a dash when there is none."""
    if _missing(value):
        return "–"
    return f"{number_text(float(value), '+.1f')} {unit}".strip()


@register.filter
def plain(value, unit: str = "") -> str:
    """A number with one decimal and its unit; a dash when there is none."""
    return "–" if _missing(value) else f"{number_text(float(value), '.1f')} {unit}".strip()


@register.filter
def fine(value, unit: str = "") -> str:
    """A number with two decimals and its unit; a dash when there is none."""
    return "–" if _missing(value) else f"{number_text(float(value), '.2f')} {unit}".strip()


@register.filter
def compact(value) -> str:
    """A number without needless zeros: 6.5, 7."""
    return "–" if _missing(value) else number_text(float(value))


@register.filter
def tel(number: str) -> SafeString:
    """A telephone number as a link that calls it; empty for none."""
    if not number:
        return SafeString("")
    dialed = re.sub(r"[^\d+*#]", "", number)
    return format_html(
        '<a class="tel whitespace-nowrap" href="tel:{}"><strong>{}</strong></a>', dialed, number
    )


@register.inclusion_tag("design/field.html")
def field(bound_field):
    """A form field with label, control and its errors beside it."""
    return {"field": bound_field}
