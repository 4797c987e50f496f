"""Every write to the clinic's catalogue, each in one transaction."""

from typing import Any

from django.db import transaction
from django.utils.translation import gettext as _

from core.catalogue.doing import ADVICE
from core.catalogue.tasks import checked_task, shipped_tasks
from web.clinic.models import Clinic, User
from web.clinic.refusal import UsecaseRefused
from web.library.models import ClinicTask, HiddenTask
from web.library.queries import catalogue_of


@transaction.atomic
def save_task(
    clinic: Clinic,
    *,
    key: str,
    family: str,
    content: dict[str, Any],
    adapted_from: str,
    by: User,
    now,
) -> ClinicTask:
    """Write a new task or change one of the clinic's own; PlanError("task_broken") with the reason.

    A shipped task is never changed: its key is refused.
    """
    if key in shipped_tasks():
        raise UsecaseRefused(_("Shipped tasks stay as they are: adapt it under another name."))
    task = checked_task(family, key, content)
    known = catalogue_of(clinic)
    for other in task.substitutes:
        if other not in known or other == key:
            raise UsecaseRefused(_("The substitute “%(key)s” is no other task.") % {"key": other})
    if task.kind == ADVICE:
        raise UsecaseRefused(_("Advice is not a task that can be added here."))
    row = ClinicTask.objects.select_for_update().filter(clinic=clinic, key=key).first()
    if row is None:
        row = ClinicTask(clinic=clinic, key=key, adapted_from=adapted_from)
    row.family, row.content = family, content
    row.changed_at, row.changed_by = now, by
    row.save()
    return row


@transaction.atomic
def set_hidden(clinic: Clinic, key: str, *, hidden: bool, by: User, now) -> None:
    """Do without a task in the proposals of this clinic, or use it again; twice changes nothing."""
    if key not in catalogue_of(clinic):
        raise UsecaseRefused(_("There is no such task."))
    HiddenTask.objects.update_or_create(
        clinic=clinic,
        key=key,
        defaults={"hidden": hidden, "changed_at": now, "changed_by": by},
    )
