"""Save the clinic's settings."""

from collections.abc import Callable

from django.db import transaction
from django.forms import ModelForm

from web.clinic.models import Clinic


@transaction.atomic
def save_clinic(clinic: Clinic, *, edited: Callable[[Clinic], ModelForm]) -> ModelForm:
    """Save the form's values on the locked clinic row; nothing if the form is not valid."""
    form = edited(Clinic.objects.select_for_update().get(pk=clinic.pk))
    if form.is_valid():
        form.save()
    return form
