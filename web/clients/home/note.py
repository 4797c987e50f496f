"""The clinician's note on the client's Today."""

from django import forms
from django.utils.translation import gettext_lazy

from web.clients.models import NoteHome


class NoteForm(forms.ModelForm):
    """Plain words, 400 characters at most; empty takes the note away."""

    class Meta:
        model = NoteHome
        fields = ("words",)
        labels = {"words": gettext_lazy("Note on the client's Today")}
        widgets = {"words": forms.Textarea(attrs={"rows": 3})}


def note_home(client_id) -> NoteHome | None:
    """The note that stands; None where there is none."""
    rows = NoteHome.objects.filter(client_id=client_id).select_related("by")
    newest = rows.order_by("-at", "pk").first()
    return newest if newest and newest.words else None
