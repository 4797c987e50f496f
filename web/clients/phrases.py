"""The client's own phrases: read, and written as one line each."""

from django import forms
from django.db import transaction
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy, ngettext

from web.clients.models import Client, OwnPhrases
from web.clinic.models import User

ASKED_FOR = 10
"""So many are asked for, so that none is worn out in a week (clinical default)."""
MOST = 60
LONGEST = 120


def own_phrases(client_id) -> list[str]:
    """The newest list; empty where none was ever written."""
    newest = OwnPhrases.objects.filter(client_id=client_id).order_by("-at", "pk")
    return newest.values_list("phrases", flat=True).first() or []


class PhrasesForm(forms.Form):
    """One phrase a line; a phrase that stands twice counts once."""

    phrases = forms.CharField(
        label=gettext_lazy("One phrase a line"),
        required=False,
        max_length=MOST * (LONGEST + 2),
        widget=forms.Textarea(attrs={"rows": 10, "maxlength": MOST * (LONGEST + 2)}),
    )

    def clean_phrases(self) -> list[str]:
        lines = [" ".join(line.split()) for line in self.cleaned_data["phrases"].splitlines()]
        phrases = list(dict.fromkeys(filter(None, lines)))
        if len(phrases) > MOST:
            words = _("That is %(came)s phrases; at most %(most)s.")
            raise forms.ValidationError(words % {"came": len(phrases), "most": MOST})
        if long := [phrase for phrase in phrases if len(phrase) > LONGEST]:
            words = _("“%(begin)s …” is longer than %(most)s characters.")
            raise forms.ValidationError(words % {"begin": long[0][:30], "most": LONGEST})
        return phrases


@transaction.atomic
def keep_phrases(client: Client, phrases: list[str], *, by: User, now) -> bool:
    """Keep a new list beside the former ones; False where it is the same."""
    if own_phrases(client.pk) == phrases:
        return False
    OwnPhrases.objects.create(
        clinic_id=client.clinic_id, client=client, phrases=phrases, by=by, at=now
    )
    return True


def kept_words(phrases: list[str]) -> str:
    """How many there are, and how many more are asked for."""
    count = ngettext("%(n)s phrase kept.", "%(n)s phrases kept.", len(phrases)) % {
        "n": len(phrases)
    }
    if len(phrases) >= ASKED_FOR:
        return count
    return f"{count} " + _("Ask for at least %(n)s.") % {"n": ASKED_FOR}
