"""Home sessions, attempts, entries, what was set aside."""

import uuid
from datetime import timedelta

import pghistory
from django.db import models
from django.db.models import F, Q
from django.utils.translation import gettext_lazy as _

from web.clients.models import ClientAccess, ClientRecord
from web.clinic.models import User
from web.measuring.models import Measurement, Taken
from web.programs.models import ProgramVersion

LONGEST_WAY = timedelta(days=400)
"""An attempt reaches the server at most so long after it was made; a ticket lives far shorter."""


USUAL_TALK = uuid.UUID("5c0de000-7a1c-4000-8000-000000000001")
"""In place of a step: counting as one usually talks, the level reference of strong work at home."""


class Outcome(models.TextChoices):
    OPEN = "open", _("open")
    KEPT = "kept", _("kept")
    SHORT = "short", _("short")
    STOPPED = "stopped", _("stopped")


@pghistory.track()
class HomeSession(ClientRecord):
    """One sitting at home. routine: the key of the version's routine it is of. `clock`: "server",
    "estimated" when only the device knew the time, "paper" where nothing but the day is
    known. What was said of the time since the last one, None = not asked: hoarser the morning after, soft high notes
    lost for over a day, pain 0–10."""

    changing = (
        *("ended_at", "outcome", "stop_sign", "stop_cleared_at", "stop_cleared_by_id"),
        *("effort", "discomfort", "hoarser", "soft_high_lost", "pain"),
    )
    """Columns the application may change: how it ended, and what is said of it. The rest is history."""

    version = models.ForeignKey(ProgramVersion, on_delete=models.PROTECT, related_name="+")
    routine = models.CharField(max_length=40, default="practice")
    access = models.ForeignKey(ClientAccess, on_delete=models.PROTECT, null=True, related_name="+")
    started_at = models.DateTimeField()
    practice_day = models.DateField()
    clock = models.CharField(max_length=10, default="server")
    ended_at = models.DateTimeField(null=True)
    outcome = models.CharField(max_length=8, choices=Outcome, default=Outcome.OPEN)
    stop_sign = models.CharField(max_length=16, blank=True)
    stop_cleared_at = models.DateTimeField(null=True)
    stop_cleared_by = models.ForeignKey(User, on_delete=models.PROTECT, null=True, related_name="+")
    effort = models.PositiveSmallIntegerField(null=True)
    discomfort = models.PositiveSmallIntegerField(null=True)
    hoarser = models.BooleanField(null=True)
    soft_high_lost = models.BooleanField(null=True)
    pain = models.PositiveSmallIntegerField(null=True)

    class Meta:
        indexes = [models.Index(fields=["client", "practice_day"], name="sessions_by_day")]
        constraints = [
            models.CheckConstraint(
                name="ratings_0_to_10",
                condition=(Q(effort=None) | Q(effort__lte=10))
                & (Q(discomfort=None) | Q(discomfort__lte=10))
                & (Q(pain=None) | Q(pain__lte=10)),
            ),
        ]


class State(models.TextChoices):
    MEASURED = "measured", _("measured")
    TIMED = "timed", _("timed")
    INTERRUPTED = "interrupted", _("interrupted")


class Attempt(ClientRecord):
    """One try at one target; insert-only. The id comes from the page that made it."""

    insert_only = True
    corrected: bool = False
    left_out: bool = False
    step_name: str = ""
    in_short: str = ""
    number: str = ""

    home_session = models.ForeignKey(HomeSession, on_delete=models.PROTECT, related_name="attempts")
    version = models.ForeignKey(ProgramVersion, on_delete=models.PROTECT, related_name="+")
    step_id = models.UUIDField()
    rung = models.PositiveSmallIntegerField()
    place = models.PositiveSmallIntegerField()
    repetition = models.PositiveSmallIntegerField()
    note = models.CharField(max_length=4, blank=True)
    target_s = models.FloatField()
    count = models.PositiveSmallIntegerField(null=True)
    count_asked = models.PositiveSmallIntegerField(null=True)
    state = models.CharField(max_length=12, choices=State)
    taken = models.CharField(max_length=10, choices=Taken)
    seconds = models.FloatField(null=True)
    measurement = models.ForeignKey(
        Measurement, on_delete=models.PROTECT, null=True, related_name="attempts"
    )
    sha256 = models.CharField(max_length=64)
    started_at = models.DateTimeField()
    clock = models.CharField(max_length=10)
    received_at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["client", "started_at"], name="attempts_by_time")]
        constraints = [
            models.CheckConstraint(
                name="attempt_seconds",
                condition=Q(seconds=None) | Q(seconds__gte=0, seconds__lte=3600),
            ),
            models.CheckConstraint(
                name="attempt_between_session_and_receipt",
                condition=Q(started_at__lte=F("received_at"))
                & Q(started_at__gte=F("received_at") - LONGEST_WAY),
            ),
            models.CheckConstraint(
                name="attempt_count", condition=Q(count=None) | Q(count__lte=120)
            ),
            models.CheckConstraint(
                name="interrupted_has_no_measurement",
                condition=~Q(state="interrupted") | Q(measurement=None),
            ),
        ]


class Correction(ClientRecord):
    """The ends of a measured hold as a clinician set them by hand; the newest counts.

    The measured value stays as it was. Seconds from the start of the sound.
    """

    insert_only = True

    attempt = models.ForeignKey(Attempt, on_delete=models.PROTECT, related_name="corrections")
    onset_s = models.FloatField()
    offset_s = models.FloatField()
    reason = models.CharField(max_length=300)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        constraints = [
            models.CheckConstraint(
                name="correction_in_order",
                condition=Q(onset_s__gte=0, offset_s__gt=models.F("onset_s"), offset_s__lte=120),
            ),
            models.CheckConstraint(name="correction_has_reason", condition=~Q(reason="")),
        ]

    @property
    def hold_s(self) -> float:
        return self.offset_s - self.onset_s


class RemarkKind(models.TextChoices):
    NOTE = "note", _("note")
    LEAVE_OUT = "leave_out", _("left out")
    COUNT_AGAIN = "count_again", _("counts again")


class Remark(ClientRecord):
    """What a clinician says of a home session, or of one attempt of it: a note, or that it is left out of
    figures, trends and climbs (the newest of these counts). What was kept stays; stop signs, strain, pain
    and practice kept count all the same."""

    insert_only = True

    home_session = models.ForeignKey(HomeSession, on_delete=models.PROTECT, related_name="remarks")
    attempt = models.ForeignKey(
        Attempt, on_delete=models.PROTECT, null=True, related_name="remarks"
    )
    kind = models.CharField(max_length=12, choices=RemarkKind)
    words = models.CharField(max_length=300)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        constraints = [
            models.CheckConstraint(name="remark_has_words", condition=~Q(words="")),
        ]


class Entry(ClientRecord):
    """What the client said in a home session: strain after a step, a stop sign, the finish."""

    insert_only = True

    home_session = models.ForeignKey(HomeSession, on_delete=models.PROTECT, related_name="entries")
    kind = models.CharField(max_length=12)
    step_id = models.UUIDField(null=True)
    value = models.JSONField()
    sha256 = models.CharField(max_length=64)
    at = models.DateTimeField()


class PaperLog(ClientRecord):
    """That home sessions were taken from paper or from a file, by whom; what they say stands in them."""

    insert_only = True
    SHEET, CSV = "sheet", "csv"

    how = models.CharField(max_length=5, choices=[("sheet", "sheet"), ("csv", "CSV file")])
    version = models.ForeignKey(ProgramVersion, on_delete=models.PROTECT, related_name="+")
    first = models.DateField()
    last = models.DateField()
    home_sessions = models.PositiveIntegerField()
    attempts = models.PositiveIntegerField()
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        constraints = [
            models.CheckConstraint(name="paper_days_in_order", condition=Q(last__gte=F("first"))),
        ]


class SetAside(ClientRecord):
    """An upload kept out of the record until the clinician looks: revoked link, or a second body."""

    insert_only = True

    upload_id = models.UUIDField()
    reason = models.CharField(max_length=20)
    sha256 = models.CharField(max_length=64)
    offer = models.JSONField()
    figures = models.JSONField(null=True)
    seconds = models.FloatField(null=True)
    at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["upload_id", "sha256"], name="set_aside_once"),
        ]


class LookedAt(ClientRecord):
    """That a clinician has seen what was set aside."""

    insert_only = True

    set_aside = models.OneToOneField(SetAside, on_delete=models.PROTECT, related_name="looked_at")
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()


class LevelReset(ClientRecord):
    """That a level reference of a device is taken anew: nothing before counts for it."""

    insert_only = True
    SOFT, CONVERSATION = "soft", "conversation"

    device = models.CharField(max_length=200)
    kind = models.CharField(
        max_length=12, choices=[("soft", "soft holds"), ("conversation", "usual talk")]
    )
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()


class HearingConsent(ClientRecord):
    """That a client agrees to being heard by ear, or no longer; the newest counts. by: the clinician in
    whose visit it was said, None = the client on their own page. guardian: who agreed for a minor was
    there. words: what was read."""

    insert_only = True

    agreed = models.BooleanField()
    guardian = models.BooleanField(default=False)
    words = models.JSONField(default=list)
    by = models.ForeignKey(User, on_delete=models.PROTECT, null=True, related_name="+")
    at = models.DateTimeField()


class HeardSound(ClientRecord):
    """The sound of one attempt as FLAC, for the treating clinician; erased after its time and with the
    consent, so it stands in no history and no backup."""

    taken_away = True

    attempt = models.OneToOneField(Attempt, on_delete=models.PROTECT, related_name="heard")
    step_id = models.UUIDField()
    made_at = models.DateTimeField(db_index=True)
    flac = models.BinaryField()
