"""The clinic's own settings are saved."""

from collections.abc import Callable

from django.db import transaction
from django.forms import ModelForm

from web.clinic.models import Clinic


@transaction.atomic
def save_clinic(clinic: Clinic, *, edited: Callable[[Clinic], ModelForm]) -> ModelForm:
    """Save what a form makes of the clinic as it is under the lock; nothing where the form is not valid."""
    form = edited(Clinic.objects.select_for_update().get(pk=clinic.pk))
    if form.is_valid():
        form.save()
    return form
