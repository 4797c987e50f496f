"""What was given out on paper or as a file, and sheets that are being typed back."""

from django.db import models
from django.db.models import Q
from django.utils.translation import gettext_lazy as _

from web.clients.models import ClientRecord
from web.clinic.models import User
from web.programs.models import ProgramVersion


class IssuedKind(models.TextChoices):
    HANDOUT = "handout", _("handout")
    SHEET = "sheet", _("practice sheet")
    CALENDAR = "calendar", _("calendar")
    REPORT = "report", _("report")
    WORDS = "words", _("words to say")


class Issued(ClientRecord):
    """An edition of a paper or a file for one client. digest: SHA-256 of what it prints, its number and day aside;
    the same content is the same edition. content: what a later one has to know of it (days of a sheet, ids of a
    calendar's events, what of the record a report holds)."""

    insert_only = True

    kind = models.CharField(max_length=8, choices=IssuedKind)
    part = models.CharField(max_length=60, blank=True)
    edition = models.PositiveIntegerField()
    digest = models.CharField(max_length=64)
    content = models.JSONField(default=dict)
    version = models.ForeignKey(
        ProgramVersion, on_delete=models.PROTECT, null=True, related_name="+"
    )
    by = models.ForeignKey(User, on_delete=models.PROTECT, null=True, related_name="+")
    at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["client", "kind", "part", "edition"], name="edition_once"
            ),
        ]


class SheetDraft(ClientRecord):
    """A sheet or a file on its way into the record, as one clinician typed it; gone once it is logged. typed: the
    cells by name; csv: a file's text, which waits to be logged knowingly."""

    taken_away = True

    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    version = models.ForeignKey(
        ProgramVersion, on_delete=models.PROTECT, null=True, related_name="+"
    )
    routine = models.CharField(max_length=40, blank=True)
    first = models.DateField(null=True)
    typed = models.JSONField(default=dict)
    csv = models.BinaryField(null=True)
    at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["client", "by", "version", "routine", "first"],
                condition=Q(csv=None),
                name="one_draft_a_sheet",
            ),
            models.UniqueConstraint(
                fields=["client", "by"], condition=~Q(csv=None), name="one_file_at_a_time"
            ),
        ]
