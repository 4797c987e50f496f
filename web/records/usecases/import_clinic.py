"""Import a whole clinic, all or nothing."""

from datetime import datetime
from typing import Any

from django.db import IntegrityError, transaction
from django.utils.translation import gettext as _

from web.clinic.models import Clinic, User
from web.library.models import ClinicTask, HiddenTask
from web.programs.models import ProgramTemplate
from web.records.unpack import (
    ArchiveRefused,
)
from web.records.usecases.import_record import import_record, name_people
from web.records.whole_clinic import OWN, WholeClinic
from web.review.models import RuleNumber


@transaction.atomic
def import_clinic(whole: WholeClinic, clinic: Clinic, *, by: User, now: datetime) -> int:
    """Every record, or none; the clinic's own tasks, material, templates and rules where it has none of that kind and
    name yet. How many records."""
    name_people(whole.people)
    try:
        for name, model in OWN.items():
            for row in whole.own[name]:
                row.clinic_id = clinic.pk
                if not model._default_manager.filter(pk=row.pk).exists() and not _has(row, clinic):
                    with transaction.atomic():
                        row.save(force_insert=True)
    except IntegrityError as error:
        raise ArchiveRefused(_("A row of it holds what cannot be kept.")) from error
    for record in whole.records():
        import_record(record, clinic, by=by, now=now)
    return len(whole.digests)


def _has(row: Any, clinic: Clinic) -> bool:
    """Whether the clinic has one of that key or name, which stays."""
    own = type(row)._default_manager.filter(clinic=clinic)
    if isinstance(row, ClinicTask | HiddenTask):
        return bool(own.filter(key=row.key).exists())
    if isinstance(row, ProgramTemplate):
        return bool(own.filter(name=row.name, taken_away_at=None).exists())
    return isinstance(row, RuleNumber) and bool(own.filter(client=None, path=row.path).exists())
