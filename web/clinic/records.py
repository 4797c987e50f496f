"""Bases of every stored record: UUID keys, a clinic on every row of client data."""

import logging
import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Self

from django.db import models
from django.utils.translation import gettext as _
from pydantic import ValidationError

from core.errors import CoreError

_LOG = logging.getLogger(__name__)


class StoredRow(models.Model):
    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)

    class Meta:
        abstract = True


class ClinicQuerySet(models.QuerySet):
    def for_clinic(self, clinic) -> Self:
        """No clinic means no rows, never all rows."""
        return self.filter(clinic=clinic) if clinic else self.none()


class ClinicRecord(StoredRow):
    clinic = models.ForeignKey("clinic.Clinic", on_delete=models.PROTECT, related_name="+")

    objects = ClinicQuerySet.as_manager()

    class Meta:
        abstract = True


class Unreadable(Exception):
    """A stored row that cannot be read as what it is: damaged, or of a version nobody has. It is shown with its id
    in the place of what it would have said."""

    def __init__(self, row: models.Model) -> None:
        self.what, self.id = str(row._meta.verbose_name), row.pk
        super().__init__(f"{row._meta.db_table} {row.pk} cannot be read")

    @property
    def words(self) -> str:
        """For whoever runs the site, with what to look for."""
        said = _(
            "A part of this record cannot be read: %(what)s %(id)s. Tell whoever runs the site."
        )
        return said % {"what": self.what, "id": self.id}


@contextmanager
def reading(row: models.Model) -> Iterator[None]:
    """While what a row holds is parsed into the core's own types: Unreadable where it is not what it should
    be, logged with its traceback. Only errors of parsing are caught; an error of the code is one."""
    try:
        yield
    except (CoreError, ValidationError) as error:
        bad = Unreadable(row)
        _LOG.error("%s", bad, exc_info=True)
        raise bad from error
