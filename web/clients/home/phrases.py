"""The client's own phrases and places: read, and written as one line each."""

from django import forms
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy, ngettext

from web.clients.models import OwnPhrases, OwnPlaces

ASKED_FOR = 10
"""So many are asked for, so that none is worn out in a week (clinical default)."""
MOST = 60
LONGEST = 120
MOST_PLACES, LONGEST_PLACE = 12, 60


def own_phrases(client_id) -> list[str]:
    """The newest list; empty where none was ever written."""
    newest = OwnPhrases.objects.filter(client_id=client_id).order_by("-at", "pk")
    return newest.values_list("phrases", flat=True).first() or []


def own_places(client_id) -> list[str]:
    """The newest list; empty where none was ever written."""
    newest = OwnPlaces.objects.filter(client_id=client_id).order_by("-at", "pk")
    return newest.values_list("places", flat=True).first() or []


class PhrasesForm(forms.Form):
    """One phrase a line; a phrase that stands twice counts once."""

    phrases = forms.CharField(
        label=gettext_lazy("One phrase a line"),
        required=False,
        max_length=MOST * (LONGEST + 2),
        widget=forms.Textarea(attrs={"rows": 10, "maxlength": MOST * (LONGEST + 2)}),
    )

    def clean_phrases(self) -> list[str]:
        phrases = _lines(self.cleaned_data["phrases"], longest=LONGEST)
        if len(phrases) > MOST:
            words = _("That is %(came)s phrases; at most %(most)s.")
            raise forms.ValidationError(words % {"came": len(phrases), "most": MOST})
        return phrases


class PlacesForm(forms.Form):
    """One place a line; a place that stands twice counts once."""

    places = forms.CharField(
        label=gettext_lazy("Where the client really talks, one place a line"),
        required=False,
        max_length=MOST_PLACES * (LONGEST_PLACE + 2),
        widget=forms.Textarea(attrs={"rows": 4, "maxlength": MOST_PLACES * (LONGEST_PLACE + 2)}),
    )

    def clean_places(self) -> list[str]:
        places = _lines(self.cleaned_data["places"], longest=LONGEST_PLACE)
        if len(places) > MOST_PLACES:
            words = _("That is %(came)s places; at most %(most)s.")
            raise forms.ValidationError(words % {"came": len(places), "most": MOST_PLACES})
        return places


def _lines(text: str, *, longest: int) -> list[str]:
    """Lines of one kind each once; ValidationError for one that is too long."""
    lines = [" ".join(line.split()) for line in text.splitlines()]
    found = list(dict.fromkeys(filter(None, lines)))
    if long := [one for one in found if len(one) > longest]:
        words = _("“%(begin)s …” is longer than %(most)s characters.")
        raise forms.ValidationError(words % {"begin": long[0][:30], "most": longest})
    return found


def count_words(phrases: list[str]) -> str:
    """How many there are, and how many more are asked for."""
    count = ngettext("%(n)s phrase kept.", "%(n)s phrases kept.", len(phrases)) % {
        "n": len(phrases)
    }
    if len(phrases) >= ASKED_FOR:
        return count
    return f"{count} " + _("Ask for at least %(n)s.") % {"n": ASKED_FOR}
