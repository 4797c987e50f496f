"""One row a client for Rounds, kept up to date by whatever changes it."""

from django.db import models

from web.clients.models import Client
from web.clinic.records import ClinicRecord


class CaseloadRow(ClinicRecord):
    """The facts of `web.review.facts`; none depends on the day, what does is computed when read.

    ready_from, ready_until: the days on which the ladder may climb, if nothing is practised meanwhile.
    """

    client = models.OneToOneField(Client, on_delete=models.PROTECT, related_name="caseload_row")
    stop_sign = models.CharField(max_length=16, blank=True)
    stop_sign_on = models.DateField(null=True)
    set_aside = models.PositiveIntegerField(default=0)
    has_baseline = models.BooleanField(default=False)
    active_since = models.DateField(null=True)
    last_session = models.DateField(null=True)
    last_gain = models.DateField(null=True)
    ready_from = models.DateField(null=True)
    ready_until = models.DateField(null=True)
    stretches = models.JSONField(default=list)
    recent = models.JSONField(default=list)
    screening = models.JSONField(null=True)
    link_made_at = models.DateTimeField(null=True)
    rung_s = models.FloatField(null=True)
    goal_s = models.FloatField(null=True)
