"""What a clinic wrote to be read or said: read with what is shipped, added, taken away."""

from collections.abc import Mapping

from django import forms
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from core.catalogue.materials import Turn, sorts
from web.library.models import OwnMaterial

MOST_LINES = 8
LONGEST_LINE = 300
MOST_OF_A_CLINIC = 200

OwnTurns = Mapping[str, tuple[Turn, ...]]
"""The clinic's own by the sort, newest first."""


def own_rows(clinic_id):
    """Everything of a clinic that was not taken away, newest first."""
    rows = OwnMaterial.objects.filter(clinic_id=clinic_id, taken_away_at=None)
    return rows.order_by("sort", "-at", "pk")


def own_turns(clinic_id) -> OwnTurns:
    found: dict[str, tuple[Turn, ...]] = {}
    for row in own_rows(clinic_id):
        found[row.sort] = (*found.get(row.sort, ()), row.turn)
    return found


class MaterialForm(forms.Form):
    """One turn: its lines one below the other."""

    sort = forms.ChoiceField(
        label=gettext_lazy("What it is"),
        choices=lambda: [(key, one.title) for key, one in sorts().items() if key != "maps"],
    )
    name = forms.CharField(label=gettext_lazy("Name"), max_length=60)
    level = forms.TypedChoiceField(
        label=gettext_lazy("How hard"),
        coerce=int,
        choices=[
            (1, gettext_lazy("1, easy")),
            (2, gettext_lazy("2, middle")),
            (3, gettext_lazy("3, hard")),
        ],
    )
    lines = forms.CharField(
        label=gettext_lazy("Lines, one below the other"),
        max_length=MOST_LINES * (LONGEST_LINE + 2),
        widget=forms.Textarea(attrs={"rows": 6}),
    )

    def clean_lines(self) -> list[str]:
        lines = [" ".join(line.split()) for line in self.cleaned_data["lines"].splitlines()]
        lines = [line for line in lines if line]
        if not 1 <= len(lines) <= MOST_LINES or max(map(len, lines)) > LONGEST_LINE:
            words = _("One to %(most)s lines of up to %(longest)s characters.")
            raise forms.ValidationError(words % {"most": MOST_LINES, "longest": LONGEST_LINE})
        return lines
