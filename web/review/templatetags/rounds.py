"""Addresses within Rounds."""

from django import template

from web.review.forms import RoundsForm

register = template.Library()


@register.simple_tag
def only_need(asked: RoundsForm, need: int) -> str:
    """The first page of those with that need."""
    return asked.address(need=need)


@register.simple_tag
def page_of(asked: RoundsForm, page: int) -> str:
    """Another page of the same list."""
    return asked.address(page=page)
