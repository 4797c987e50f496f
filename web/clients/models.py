"""Client, screening, baseline, link."""

import secrets
import uuid
from datetime import datetime, timedelta

import pghistory
from django.conf import settings
from django.db import models
from django.db.models import F, Q
from django.utils.translation import gettext_lazy as _

from core.fitting.baseline_arithmetic import LungSex
from core.notes.note import Note
from core.notes.range import ComfortableRange
from core.reference.limits import BASELINE
from core.safety.state import AIRWAY_WORDS, RELEASE_WORDS, VOICE_WORDS
from web.clinic.models import Clinic, User
from web.clinic.record_limits import bounded
from web.clinic.records import ClinicQuerySet, ClinicRecord
from web.measuring.models import Measurement, Taken


class ClientQuerySet(ClinicQuerySet):
    def active(self):
        return self.filter(archived_at=None)

    def past_retention(self, clinic, now):
        """Archived longer ago than the clinic keeps records."""
        limit = now - timedelta(days=365.25 * clinic.retention_years)
        return self.for_clinic(clinic).filter(archived_at__lt=limit)


@pghistory.track()
class Client(ClinicRecord):
    name = models.CharField(_("name"), max_length=120)
    born_on = models.DateField(_("date of birth"))
    voice_group = models.CharField(
        _("voice group"),
        max_length=10,
        choices=[("women", _("women")), ("men", _("men")), ("children", _("children"))],
        help_text=_("Decides the octave of standard notes."),
    )
    time_zone = models.CharField(_("time zone"), max_length=64)
    language = models.CharField(
        _("language of the client's pages"), max_length=12, default=settings.LANGUAGE_CODE
    )
    occupation = models.CharField(_("occupation and voice demands"), max_length=160, blank=True)
    referral = models.CharField(_("reason for referral"), max_length=300, blank=True)
    telephone = models.CharField(_("client's telephone"), max_length=40, blank=True)
    pitch_hidden = models.BooleanField(
        _("hide note names and pitch numbers on the client's pages and papers"), default=False
    )
    clinician = models.ForeignKey(
        User, on_delete=models.PROTECT, related_name="+", verbose_name=_("clinician")
    )
    archived_at = models.DateTimeField(null=True, blank=True)

    objects = ClientQuerySet.as_manager()  # type: ignore[misc]

    def __str__(self) -> str:
        return self.name

    def age_on(self, day) -> int:
        born = self.born_on
        return day.year - born.year - ((day.month, day.day) < (born.month, born.day))


class ClientRecord(ClinicRecord):
    """Every row of client data carries its clinic and its client."""

    client = models.ForeignKey(Client, on_delete=models.PROTECT, related_name="+")

    class Meta:
        abstract = True


class StoredScreening(ClientRecord):
    """One screening as it was answered; the latest counts.

    unasked: red flags nobody asked about. What is empty of voice, airway and cold was not asked; the
    screenings of former releases have no voice and no airway, and asked about every red flag.
    """

    insert_only = True

    at = models.DateTimeField()
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    asked_on = models.DateField()
    larynx_examined_on = models.DateField(null=True, blank=True)
    findings = models.CharField(max_length=300, blank=True)
    red_flags = models.JSONField(default=list)
    flags_noted = models.JSONField(default=dict)
    mistaken = models.JSONField(default=list)
    mistaken_why = models.CharField(max_length=300, blank=True)
    cleared_on = models.DateField(null=True, blank=True)
    cleared_from = models.DateField(null=True, blank=True)
    released_on = models.DateField(null=True, blank=True)
    folds_operated_on = models.DateField(null=True, blank=True)
    looked_at_on = models.DateField(null=True, blank=True)
    voice_rest_until = models.DateField(null=True, blank=True)
    trouble_began_on = models.DateField(null=True, blank=True)
    hoarse_weeks = models.FloatField(null=True, blank=True)
    cold = models.BooleanField(null=True, blank=True)
    hoarser = models.BooleanField(default=False)
    unasked = models.JSONField(default=list)
    voice = models.CharField(
        max_length=14,
        blank=True,
        choices=[(one.value, words.words) for one, words in VOICE_WORDS.items()],
    )
    clear_since = models.DateField(null=True, blank=True)
    usual_voice_since = models.DateField(null=True, blank=True)
    airway = models.CharField(
        max_length=14,
        blank=True,
        choices=[(one.value, words.words) for one, words in AIRWAY_WORDS.items()],
    )
    cuff_safe_on = models.DateField(null=True, blank=True)
    valve_tolerated_on = models.DateField(null=True, blank=True)
    upper_airway_seen_on = models.DateField(null=True, blank=True)
    release = models.CharField(
        max_length=8,
        blank=True,
        choices=[(one.value, words.words) for one, words in RELEASE_WORDS.items()],
    )
    surgeons_date = models.DateField(null=True, blank=True)
    botulinum_on = models.DateField(null=True, blank=True)
    paralysis_since = models.DateField(null=True, blank=True)
    throat_operated_on = models.DateField(null=True, blank=True)
    movement_examined_on = models.DateField(null=True, blank=True)
    voice_changing = models.BooleanField(null=True, blank=True)
    tone_heard = models.BooleanField(null=True, blank=True)
    guardian_consent = models.BooleanField(default=False)
    conditions = models.JSONField(default=list)
    equipment = models.JSONField(default=list)
    cannot = models.JSONField(default=list)
    circumstances = models.JSONField(default=list)
    talking_hours = models.FloatField(null=True, blank=True)
    events = models.JSONField(default=list)
    medication = models.CharField(max_length=300, blank=True)
    medication_times = models.JSONField(default=list)
    whereabouts = models.CharField(max_length=200, blank=True)
    emergency_contact = models.CharField(max_length=200, blank=True)
    minutes_a_session = models.FloatField(null=True, blank=True)
    minutes_a_week = models.FloatField(null=True, blank=True)

    class Meta:
        constraints = [
            models.CheckConstraint(
                name="screening_numbers",
                condition=(Q(hoarse_weeks=None) | Q(hoarse_weeks__gte=0, hoarse_weeks__lte=2600))
                & (Q(talking_hours=None) | Q(talking_hours__gte=0, talking_hours__lte=24))
                & (Q(minutes_a_session=None) | Q(minutes_a_session__range=(1, 60)))
                & (Q(minutes_a_week=None) | Q(minutes_a_week__range=(5, 1000))),
            ),
        ]


class VoiceReport(ClientRecord):
    """Whether the client's voice was as usual on a day, as told from home; the newest of a day counts."""

    insert_only = True

    day = models.DateField()
    usual = models.BooleanField()
    at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["client", "day"], name="voice_reports_by_day")]


@pghistory.track()
class Baseline(ClientRecord):
    """What a client can do and says, as measured in one visit: strain, effort, fatigue, discomfort 0–10; a
    perceptual rating and a handicap score on the scales the clinic uses and names."""

    begun_at = models.DateTimeField()
    recorded_at = models.DateTimeField(null=True)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    lowest = models.CharField(max_length=4, blank=True)
    highest = models.CharField(max_length=4, blank=True)
    transition = models.CharField(max_length=4, blank=True)
    speaking = models.CharField(max_length=4, blank=True)
    vital_capacity_ml = models.FloatField(null=True)
    height_cm = models.FloatField(null=True)
    lung_sex = models.CharField(
        max_length=6, blank=True, choices=[(sex.value, sex.value) for sex in LungSex]
    )
    throat_strain = models.PositiveSmallIntegerField(null=True)
    effort = models.PositiveSmallIntegerField(null=True)
    fatigue = models.PositiveSmallIntegerField(null=True)
    discomfort = models.PositiveSmallIntegerField(null=True)
    rating = models.FloatField(null=True)
    rating_scale = models.CharField(max_length=40, blank=True)
    handicap = models.FloatField(null=True)
    handicap_scale = models.CharField(max_length=40, blank=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["client"], condition=Q(recorded_at=None), name="one_open_baseline"
            ),
            bounded("baseline_in_limits", BASELINE, "vital_capacity_ml", "height_cm"),
            models.CheckConstraint(
                name="strain_0_to_10", condition=Q(throat_strain=None) | Q(throat_strain__lte=10)
            ),
            models.CheckConstraint(
                name="baseline_said_0_to_10",
                condition=(Q(effort=None) | Q(effort__lte=10))
                & (Q(fatigue=None) | Q(fatigue__lte=10))
                & (Q(discomfort=None) | Q(discomfort__lte=10)),
            ),
            models.CheckConstraint(
                name="scores_in_limits",
                condition=(Q(rating=None) | Q(rating__range=(0, 200)))
                & (Q(handicap=None) | Q(handicap__range=(0, 200))),
            ),
            models.CheckConstraint(
                name="scores_have_a_scale",
                condition=(Q(rating=None) | ~Q(rating_scale=""))
                & (Q(handicap=None) | ~Q(handicap_scale="")),
            ),
        ]

    @property
    def comfort(self) -> ComfortableRange | None:
        """The comfortable range, or None while an end is missing."""
        if not (self.lowest and self.highest):
            return None
        return ComfortableRange(
            lowest=Note.named(self.lowest),
            highest=Note.named(self.highest),
            transition=Note.named(self.transition) if self.transition else None,
            speaking=Note.named(self.speaking) if self.speaking else None,
        )


class Measure(models.TextChoices):
    """What is tried at a baseline, in the order of the visit."""

    REFERENCE = "reference", _("Level reference, “ah”")
    CONVERSATION = "conversation", _("Conversation")
    READING = "reading", _("Reading aloud")
    GLIDE_UP = "glide_up", _("Glide up")
    GLIDE_DOWN = "glide_down", _("Glide down")
    PHONATION = "phonation", _("Phonation time on “ah”")
    STRONG = "strong", _("Strong “ah”, cued")
    S = "s", _("Longest /s/")
    Z = "z", _("Longest /z/")
    PROBE_LOW = "probe_low", _("Soft hold, bottom note")
    PROBE_MIDDLE = "probe_middle", _("Soft hold, middle note")
    PROBE_TOP = "probe_top", _("Soft hold, top note")
    BUBBLES = "bubbles", _("Tube in water")
    JOIN = "join", _("Hiss to buzz")
    PATTERN = "pattern", _("Scale pattern")
    BREATH = "breath", _("Paced breath")


class BaselineAttempt(ClientRecord):
    """One try at a baseline measure; insert-only, a wrong one is struck out by a row beside it."""

    insert_only = True

    baseline = models.ForeignKey(Baseline, on_delete=models.PROTECT, related_name="attempts")
    measure = models.CharField(max_length=14, choices=Measure)
    seconds = models.FloatField(null=True)
    taken = models.CharField(max_length=10, choices=Taken)
    measurement = models.ForeignKey(
        Measurement, on_delete=models.PROTECT, null=True, related_name="+"
    )
    sha256 = models.CharField(max_length=64)
    at = models.DateTimeField()

    class Meta:
        constraints = [
            models.CheckConstraint(
                name="baseline_seconds",
                condition=Q(seconds=None)
                | Q(seconds__gt=0, seconds__lte=BASELINE["seconds"].high)
                & (~Q(taken=Taken.TYPED) | Q(seconds__gte=BASELINE["seconds"].low)),
            ),
        ]


class StruckOut(ClientRecord):
    """A baseline attempt that does not count, and who said so."""

    insert_only = True

    attempt = models.OneToOneField(
        BaselineAttempt, on_delete=models.PROTECT, related_name="struck_out"
    )
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()


class Visit(ClientRecord):
    """A visit in the clinic: its day, the next one, and what it says of the goal; None = not said."""

    insert_only = True

    day = models.DateField()
    next_on = models.DateField(null=True)
    goal_held = models.BooleanField(null=True)
    corrects = models.BooleanField(null=True)
    note = models.CharField(max_length=500, blank=True)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        constraints = [
            models.CheckConstraint(
                name="next_visit_after", condition=Q(next_on=None) | Q(next_on__gt=F("day"))
            ),
        ]


class OwnPhrases(ClientRecord):
    """What the client really says in a day, as told in a visit; the newest row counts."""

    insert_only = True

    phrases = models.JSONField(default=list)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()


class OwnPlaces(ClientRecord):
    """Where the client really talks, as told in a visit; the newest row counts."""

    insert_only = True

    places = models.JSONField(default=list)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()


class NoteHome(ClientRecord):
    """What the clinician tells the client on Today; the newest row counts, an empty one takes it away."""

    insert_only = True

    words = models.CharField(max_length=400, blank=True)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()


def random_link_id() -> uuid.UUID:
    """128 random bits."""
    return uuid.UUID(bytes=secrets.token_bytes(16))


def link_ends(since: datetime, clinic: Clinic) -> datetime:
    """When a link that is in force since then ends by itself."""
    return since + timedelta(days=31 * clinic.link_months)


class ClientAccess(ClientRecord):
    """A private link: useless without its PIN, limited in tries, revocable; it ends by itself so many months
    after it was made or renewed as the clinic says."""

    id = models.UUIDField(primary_key=True, default=random_link_id, editable=False)

    pin_hash = models.CharField(max_length=200)
    made_at = models.DateTimeField()
    renewed_at = models.DateTimeField(null=True)
    made_by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    revoked_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.CheckConstraint(
                name="revoked_after_made",
                condition=Q(revoked_at=None) | Q(revoked_at__gte=F("made_at")),
            ),
        ]

    def ends_at(self) -> datetime:
        """From then on it lets nobody in; a month is 31 days."""
        return link_ends(self.renewed_at or self.made_at, self.client.clinic)


class LinkTry(ClientRecord):
    """Wrong PINs at one link from one address (as a digest), and whether that address has ever got in."""

    access = models.ForeignKey(ClientAccess, on_delete=models.PROTECT, related_name="tries")
    address = models.CharField(max_length=64)
    wrong = models.PositiveSmallIntegerField(default=0)
    wait_until = models.DateTimeField(null=True)
    last_at = models.DateTimeField()
    got_in_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["access", "address"], name="one_row_an_address"),
        ]
