"""Drafts and immutable versions of a client's program."""

from functools import cached_property

import pghistory
from django.db import models
from django.utils.translation import gettext_lazy as _

from core.formats.program_file import program_of
from core.plans.program import Program
from web.clients.models import Client, ClientRecord
from web.clinic.models import User
from web.clinic.records import reading


class Went(models.TextChoices):
    BETTER = "better", _("better")
    SAME = "same", _("same")
    WORSE = "worse", _("worse")


@pghistory.track()
class Draft(ClientRecord):
    """The program on the Bench; `past` holds earlier contents for undo, newest last."""

    client = models.OneToOneField(Client, on_delete=models.PROTECT, related_name="+")
    content = models.JSONField()
    revision = models.PositiveIntegerField(default=1)
    past = models.JSONField(default=list)
    changed_at = models.DateTimeField()
    changed_by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")

    @property
    def program(self) -> Program:
        """Unreadable where its content is no program of a known format."""
        with reading(self):
            return program_of(self.content)


class ProgramVersion(ClientRecord):
    """What was prescribed from a day on; never changed."""

    insert_only = True

    number = models.PositiveIntegerField()
    content = models.JSONField()
    activated_at = models.DateTimeField()
    active_from = models.DateField()
    activated_by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    written_reason = models.CharField(max_length=500, blank=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["client", "number"], name="version_number_once"),
        ]

    @cached_property
    def program(self) -> Program:
        """Unreadable where its content is no program of a known format."""
        with reading(self):
            return program_of(self.content)


class TriedTask(ClientRecord):
    """How a task went when it was tried in the visit; the newest of each task counts."""

    insert_only = True

    task = models.CharField(max_length=60)
    went = models.CharField(max_length=6, choices=Went)
    at = models.DateTimeField()
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
