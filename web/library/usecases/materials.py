"""Add and remove the clinic's own texts. Each is one transaction."""

from django.db import transaction

from web.clinic.models import Clinic, User
from web.library.materials import MOST_OF_A_CLINIC, own_rows
from web.library.models import OwnMaterial


@transaction.atomic
def add_material(clinic: Clinic, *, by: User, now, **fields) -> OwnMaterial | None:
    """Add one; None where the clinic has as many as can be kept."""
    Clinic.objects.select_for_update().get(pk=clinic.pk)
    if own_rows(clinic.pk).count() >= MOST_OF_A_CLINIC:
        return None
    return OwnMaterial.objects.create(clinic=clinic, by=by, at=now, **fields)


@transaction.atomic
def take_away(clinic: Clinic, material_id, *, now) -> bool:
    """No longer shown, harmless when repeated; False where the clinic has no such material."""
    rows = OwnMaterial.objects.for_clinic(clinic).filter(pk=material_id)
    rows.filter(taken_away_at=None).update(taken_away_at=now)
    return rows.exists()
