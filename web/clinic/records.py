"""Bases of every stored record: UUID keys, a clinic on every row of client data."""

import uuid
from typing import Self

from django.db import models


class Record(models.Model):
    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)

    class Meta:
        abstract = True


class ClinicQuerySet(models.QuerySet):
    def for_clinic(self, clinic) -> Self:
        """No clinic means no rows, never all rows."""
        return self.filter(clinic=clinic) if clinic else self.none()


class ClinicRecord(Record):
    clinic = models.ForeignKey("clinic.Clinic", on_delete=models.PROTECT, related_name="+")

    objects = ClinicQuerySet.as_manager()

    class Meta:
        abstract = True
