"""What is decided and kept on the Client page, as it is typed."""

from typing import Any
from urllib.parse import urlencode

from django import forms
from django.http import QueryDict

from core.grading.need import Need


class DecisionForm(forms.Form):
    key = forms.CharField(max_length=1200)
    after = forms.IntegerField(min_value=1, max_value=100_000)
    accept = forms.ChoiceField(choices=[("yes", "yes"), ("no", "no")])
    rung = forms.IntegerField(min_value=0, max_value=60, required=False)
    reason = forms.CharField(max_length=500, required=False)
    due_on = forms.DateField(required=False)


_KNOWN = {"yes": True, "no": False, "": None}


class VisitForm(forms.Form):
    """goal_held, corrects: yes, no or not said."""

    day = forms.DateField()
    next_on = forms.DateField(required=False)
    goal_held = forms.ChoiceField(choices=[(one, one) for one in _KNOWN], required=False)
    corrects = forms.ChoiceField(choices=[(one, one) for one in _KNOWN], required=False)
    note = forms.CharField(max_length=500, required=False)

    @property
    def values(self) -> dict[str, Any]:
        """As the record keeps them."""
        said = {name: _KNOWN[self.cleaned_data[name]] for name in ("goal_held", "corrects")}
        return {**self.cleaned_data, **said}


class PutOffForm(forms.Form):
    """until empty: in Rounds again."""

    until = forms.DateField(required=False)
    reason = forms.CharField(max_length=300, required=False)


class RoundsForm:
    """What is asked of Rounds in the address; what is odd counts as not asked."""

    def __init__(self, asked: QueryDict) -> None:
        self.whole = asked.get("whose") == "all"
        self.find = asked.get("find", "").replace("\0", "").strip()[:80]
        self.need = _need(asked.get("need", ""))
        self.put_off = asked.get("put_off") == "yes"
        self.page = _page(asked.get("page", ""))

    def address(self, **changes: object) -> str:
        """The query of the same list with these changed; a change begins at the first page."""
        asked = {
            "whose": "all" if self.whole else "",
            "find": self.find,
            "need": "" if self.need is None else int(self.need),
            "put_off": "yes" if self.put_off else "",
            **changes,
        }
        return "?" + urlencode({name: value for name, value in asked.items() if value != ""})

    @property
    def other_whose(self) -> str:
        return self.address(whose="" if self.whole else "all", need="")

    @property
    def every_need(self) -> str:
        return self.address(need="")

    @property
    def other_put_off(self) -> str:
        return self.address(put_off="" if self.put_off else "yes", need="")


def _need(came: str) -> Need | None:
    known = {str(int(need)): need for need in Need}
    return known.get(came)


def _page(came: str) -> int:
    return int(came) if came.isascii() and came.isdecimal() and len(came) < 6 else 1


class NumberForm(forms.Form):
    """A number of the rules; value empty: the one it was before."""

    act = forms.ChoiceField(choices=[("try", "try"), ("set", "set")])
    path = forms.CharField(max_length=120)
    value = forms.FloatField(required=False, min_value=-1000, max_value=1000)
    reason = forms.CharField(max_length=300, required=False)
