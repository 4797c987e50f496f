"""Drafts and immutable versions of a client's program."""

from collections.abc import Mapping
from functools import cached_property
from typing import Any

import pghistory
from django.db import models
from django.utils.translation import gettext_lazy as _

from core.formats.program_file import program_of
from core.program.program import Program
from core.proposing.outline import Outline, read_outline
from web.clients.models import Client, ClientRecord
from web.clinic.models import User
from web.clinic.records import ClinicRecord, reading


class Went(models.TextChoices):
    BETTER = "better", _("better")
    SAME = "same", _("same")
    WORSE = "worse", _("worse")


@pghistory.track()
class Draft(ClientRecord):
    """The program on the Bench. base: what it began as (a proposal, a file, a version); past and future: how to
    go back and forth again (JSON Patch, RFC 6902, over `state`), newest last."""

    client = models.OneToOneField(Client, on_delete=models.PROTECT, related_name="+")
    content = models.JSONField()
    revision = models.PositiveIntegerField(default=1)
    base = models.JSONField(null=True)
    past = models.JSONField(default=list)
    future = models.JSONField(default=list)
    changed_at = models.DateTimeField()
    changed_by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")

    @property
    def program(self) -> Program:
        """Unreadable where its content is no program of a known format."""
        with reading(self):
            return program_of(self.content)

    @property
    def began_as(self) -> Program | None:
        """What the draft began as; None where that is not known. Unreadable as `program`."""
        with reading(self):
            return program_of(self.base) if self.base is not None else None

    @property
    def state(self) -> dict[str, Any]:
        """What undo brings back."""
        return {"content": self.content, "base": self.base}

    def go_to(self, state: Mapping[str, Any], *, by: User, now) -> None:
        """Take up a state as the next revision."""
        self.content, self.base = state["content"], state["base"]
        self.revision += 1
        self.changed_at, self.changed_by = now, by


class ProgramVersion(ClientRecord):
    """What was prescribed from a day on; never changed. taken_in_on: the day a version came with a record from another
    installation; it was practiced there, and here nothing of it is before it was activated anew."""

    insert_only = True

    number = models.PositiveIntegerField()
    content = models.JSONField()
    activated_at = models.DateTimeField()
    active_from = models.DateField()
    activated_by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    written_reason = models.CharField(max_length=500, blank=True)
    taken_in_on = models.DateField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["client", "number"], name="version_number_once"),
        ]

    @property
    def imported(self) -> bool:
        """Whether it came with a record from another installation and was not activated here."""
        return self.taken_in_on is not None

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


@pghistory.track()
class ProgramTemplate(ClinicRecord):
    """An outline of a program that the clinic keeps for any client; one that was taken away is offered no more."""

    name = models.CharField(max_length=60)
    content = models.JSONField()
    at = models.DateTimeField()
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    taken_away_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["clinic", "name"],
                condition=models.Q(taken_away_at=None),
                name="template_name_once",
            ),
        ]

    @property
    def outline(self) -> Outline:
        """Unreadable where its content is no outline of a known format."""
        with reading(self):
            return read_outline(self.content)
