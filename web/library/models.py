"""Tasks and reading material a clinic wrote, and shipped tasks it does not use."""

import pghistory
from django.db import models
from django.utils.translation import gettext_lazy as _

from core.catalogue.materials import Turn
from core.catalogue.tasks import Task, checked_task
from web.clinic.models import User
from web.clinic.records import ClinicRecord, reading


@pghistory.track()
class ClinicTask(ClinicRecord):
    """A task of the clinic; `content` is what a task file holds of it, `key` never changes."""

    key = models.CharField(max_length=60)
    family = models.CharField(max_length=1)
    adapted_from = models.CharField(max_length=60, blank=True)
    content = models.JSONField()
    changed_at = models.DateTimeField()
    changed_by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["clinic", "key"], name="clinic_task_key_once"),
        ]

    @property
    def task(self) -> Task:
        """Unreadable where its content is no task."""
        with reading(self):
            return checked_task(self.family, self.key, self.content)


@pghistory.track()
class HiddenTask(ClinicRecord):
    """Whether the clinic does without a task; it stays in the catalogue and can be used again."""

    key = models.CharField(max_length=60)
    hidden = models.BooleanField(default=True)
    changed_at = models.DateTimeField()
    changed_by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["clinic", "key"], name="hidden_task_once"),
        ]


@pghistory.track()
class OwnMaterial(ClinicRecord):
    """Something to read or say that the clinic wrote; one that was taken away is shown no more."""

    sort = models.CharField(_("sort"), max_length=30)
    name = models.CharField(_("name"), max_length=60)
    level = models.PositiveSmallIntegerField(_("level"))
    lines = models.JSONField()
    at = models.DateTimeField()
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    taken_away_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.CheckConstraint(name="material_level", condition=models.Q(level__range=(1, 3))),
        ]

    @property
    def turn(self) -> Turn:
        return Turn(name=self.name, level=self.level, lines=tuple(self.lines))
