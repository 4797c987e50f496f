"""Limits of the record's numbers, said by forms and checked again by the database."""

from collections.abc import Mapping

from django import forms
from django.db.models import CheckConstraint, Q
from django.utils.translation import gettext as _

from core.reference.limits import Limit


def bounded(name: str, limits: Mapping[str, Limit], *fields: str) -> CheckConstraint:
    """A constraint of that name: each of the fields is not known or within its limits."""
    holds = Q()
    for field in fields:
        limit = limits[field]
        holds &= Q(**{field: None}) | Q(**{f"{field}__gte": limit.low, f"{field}__lte": limit.high})
    return CheckConstraint(name=name, condition=holds)


def refuse_beyond(form: forms.BaseForm, limits: Mapping[str, Limit]) -> None:
    """An error in words at each field of a cleaned form that lies beyond its limits."""
    for field, limit in limits.items():
        came = form.cleaned_data.get(field)
        if came is not None and not limit.low <= came <= limit.high:
            words = _("Between %(low)g and %(high)g %(unit)s.")
            values = {
                "low": limit.low,
                "high": limit.high,
                "unit": _(limit.unit) if limit.unit else "",
            }
            form.add_error(field, (words % values).replace(" .", "."))
