"""Users, clinics, memberships, invitations, access events, the outbox."""

from typing import ClassVar

import pghistory
from django.conf import settings
from django.contrib.auth.models import AbstractUser, BaseUserManager
from django.db import models
from django.utils.translation import gettext_lazy as _

from core.reference.limits import CLINIC
from core.reference.values import (
    CONCERT_A4,
    EXAMINATION_FRESH,
    EXAMINE_HOARSE_AFTER,
    MINUTES_A_SESSION,
    MINUTES_A_WEEK,
    SHORT_PHONATION,
    SZ_RATIO_FLAG,
)
from web.clinic.record_limits import bounded
from web.clinic.records import ClinicRecord, StoredRow


class UserManager(BaseUserManager["User"]):
    def create_user(self, email, password=None, **fields):
        user = self.model(email=self.normalize_email(email).lower(), **fields)
        user.set_password(password)
        user.save(using=self._db)
        return user


class User(AbstractUser, StoredRow):
    username = None  # type: ignore[assignment]
    first_name = None  # type: ignore[assignment]
    last_name = None  # type: ignore[assignment]
    email = models.EmailField(_("e-mail"), unique=True)
    name = models.CharField(_("name"), max_length=120)
    letter_keys = models.BooleanField(_("single-letter keys"), default=True)

    USERNAME_FIELD = "email"
    REQUIRED_FIELDS = ["name"]
    objects: ClassVar[UserManager] = UserManager()  # type: ignore[assignment]

    def __str__(self) -> str:
        return self.name


@pghistory.track()
class Clinic(StoredRow):
    name = models.CharField(_("name"), max_length=120)
    time_zone = models.CharField(_("time zone"), max_length=64, default="Europe/Dublin")
    language = models.CharField(_("language"), max_length=12, default=settings.LANGUAGE_CODE)
    a4_hz = models.FloatField(_("concert pitch A4 in Hz"), default=CONCERT_A4.number)
    short_phonation_s = models.FloatField(
        _("flag a phonation time under, seconds"), default=SHORT_PHONATION.number
    )
    sz_ratio_flag = models.FloatField(_("flag an s/z ratio from"), default=SZ_RATIO_FLAG.number)
    session_minutes = models.FloatField(
        _("propose home sessions of up to, minutes"), default=MINUTES_A_SESSION.number
    )
    week_minutes = models.FloatField(
        _("propose weeks of up to, minutes"), default=MINUTES_A_WEEK.number
    )
    hoarse_weeks = models.FloatField(
        _("examine the larynx when hoarse for, weeks"), default=EXAMINE_HOARSE_AFTER.number
    )
    examination_days = models.PositiveSmallIntegerField(
        _("an examination is fresh for, days"), default=int(EXAMINATION_FRESH.number)
    )
    always_examined = models.BooleanField(
        _("an examination of the larynx also where there is no complaint"), default=False
    )
    emergency_number = models.CharField(
        _("emergency number shown to clients"), max_length=20, default="112"
    )
    retention_years = models.PositiveSmallIntegerField(_("keep records, years"), default=10)
    link_months = models.PositiveSmallIntegerField(_("private links end after, months"), default=12)
    reason_to_read = models.BooleanField(
        _("who does not treat a client states a reason before reading"), default=False
    )
    telephone = models.CharField(_("telephone shown to clients"), max_length=40, blank=True)
    policy_text = models.TextField(_("the clinic's own safety text"), blank=True)
    cover = models.ForeignKey(
        User,
        on_delete=models.PROTECT,
        null=True,
        blank=True,
        related_name="+",
        verbose_name=_("cover: told of a stop sign nobody answered in a working day"),
    )

    class Meta:
        constraints = [
            bounded("clinic_numbers_in_limits", CLINIC, *CLINIC),
        ]

    def __str__(self) -> str:
        return self.name


class Role(models.TextChoices):
    CLINICIAN = "clinician", _("Clinician")
    LEAD = "lead", _("Clinic lead")


@pghistory.track()
class Membership(ClinicRecord):
    user = models.OneToOneField(User, on_delete=models.PROTECT, related_name="membership")
    role = models.CharField(max_length=12, choices=Role, default=Role.CLINICIAN)
    active = models.BooleanField(default=True)
    deputy = models.ForeignKey(
        User,
        on_delete=models.PROTECT,
        null=True,
        blank=True,
        related_name="+",
        verbose_name=_("deputy"),
    )

    @property
    def is_lead(self) -> bool:
        return self.role == Role.LEAD


@pghistory.track()
class Invitation(ClinicRecord):
    email = models.EmailField()
    role = models.CharField(max_length=12, choices=Role, default=Role.CLINICIAN)
    invited_by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    invited_at = models.DateTimeField()
    accepted_at = models.DateTimeField(null=True, blank=True)


class AccessEvent(ClinicRecord):
    """Who read, changed, exported or erased what, and where; insert-only. The client is an id without a
    constraint, so that the event outlives an erased record; words: a stated reason."""

    insert_only = True

    user = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+", null=True)
    what = models.CharField(max_length=40)
    where = models.CharField(max_length=60, blank=True)
    words = models.CharField(max_length=300, blank=True)
    subject_id = models.UUIDField(null=True)
    at = models.DateTimeField()

    class Meta:
        indexes = [
            models.Index(fields=["clinic", "at"], name="access_by_clinic"),
            models.Index(fields=["subject_id", "at"], name="access_by_subject"),
        ]


class OutboxMessage(StoredRow):
    """A mail to be sent; holds no client data. not_before: it waits until then; about: the id of what
    it is about, by which it is withdrawn when that is dealt with."""

    to = models.EmailField()
    subject = models.CharField(max_length=200)
    body = models.TextField()
    written_at = models.DateTimeField()
    not_before = models.DateTimeField(null=True)
    about = models.UUIDField(null=True)
    withdrawn_at = models.DateTimeField(null=True)
    sent_at = models.DateTimeField(null=True)
    failure = models.CharField(max_length=300, blank=True)
    tries = models.PositiveIntegerField(default=0)
