"""That a record came from an archive."""

from django.db import models

from web.clients.models import ClientRecord
from web.clinic.models import User


class TakenIn(ClientRecord):
    """A record that was taken in: from which installation and clinic, made when. in_force: whether its program went on
    as it was (an archive of this very clinic), else it waits on the Bench."""

    insert_only = True

    installation = models.CharField(max_length=64)
    clinic_name = models.CharField(max_length=120)
    made_at = models.DateTimeField()
    sha256 = models.CharField(max_length=64)
    rows = models.PositiveIntegerField()
    in_force = models.BooleanField()
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()
