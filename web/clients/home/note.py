"""The clinician's note on the client's Today."""

from django import forms
from django.db import transaction
from django.utils.translation import gettext_lazy

from web.clients.models import Client, NoteHome
from web.clinic.models import User


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


@transaction.atomic
def keep_note(client: Client, words: str, *, by: User, now) -> bool:
    """Keep another note beside the former ones; False where it is the same."""
    stands = note_home(client.pk)
    if words == (stands.words if stands else ""):
        return False
    NoteHome.objects.create(clinic_id=client.clinic_id, client=client, words=words, by=by, at=now)
    return True
