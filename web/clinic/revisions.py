"""Two who edit the same: what was shown goes along with a form, so that nobody's change is overwritten unseen."""

from collections.abc import Mapping
from datetime import date
from typing import Any

from django import forms
from django.core import signing
from django.db.models import Model
from django.utils.translation import gettext as _

_SALT = "still-reed.revision"


def shown(values: Mapping[str, Any]) -> str:
    """The values a form begins with, signed, to be sent back with it."""
    return signing.dumps(
        {name: _plain(value) for name, value in values.items()}, salt=_SALT, compress=True
    )


def met(form: forms.BaseForm, came: str, now: Mapping[str, Any]) -> bool:
    """Whether a cleaned form may be kept over what stands now; came: what was shown with it.

    A field that its writer left alone takes what a colleague has set meanwhile. One that both changed is
    an error at the field, with what stands now; sent again from there it is kept. A form that came without
    what was shown (of a page of a former version) is kept as it came."""
    try:
        then: Mapping[str, Any] = signing.loads(came, salt=_SALT)
    except (signing.BadSignature, TypeError):
        return True
    apart = []
    for name, stands in now.items():
        if name not in form.cleaned_data:
            continue
        mine, theirs = _plain(form.cleaned_data[name]), _plain(stands)
        before = then.get(name)
        if theirs in (mine, before):
            continue
        if mine == before:
            form.cleaned_data[name] = stands
            if isinstance(form, forms.BaseModelForm):
                setattr(form.instance, name, stands)
        else:
            apart.append((name, stands))
    for name, stands in apart:
        words = _(
            "A colleague changed this meanwhile; now it is: %(now)s. Save again to keep yours."
        )
        form.add_error(name, words % {"now": _said(form, name, stands)})
    return not apart


def _said(form: forms.BaseForm, name: str, value: Any) -> str:
    if value in (None, "", [], ()):
        return _("empty")
    choices = dict(getattr(form.fields[name], "choices", ()) or ())
    if isinstance(value, list | tuple | set | frozenset):
        return ", ".join(str(choices.get(one, one)) for one in sorted(map(str, value)))
    if isinstance(value, bool):
        return _("yes") if value else _("no")
    return str(choices.get(value, value)) if not isinstance(value, Model) else str(value)


def _plain(value: Any) -> Any:
    """A value as it is compared: of the form, of the database, or sent and come back."""
    if isinstance(value, Model):
        return str(value.pk)
    if isinstance(value, bool) or value is None:
        return value or None
    if isinstance(value, int | float):
        return float(value)
    if isinstance(value, date):
        return value.isoformat()
    if isinstance(value, list | tuple | set | frozenset):
        return sorted(str(one) for one in value) or None
    text = str(value).strip().replace("\r\n", "\n")
    return text or None
