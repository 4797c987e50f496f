"""What is kept beside the record: a row a client for Rounds, what each home session came to; and the
decisions of clinicians."""

import pghistory
from django.db import models
from django.db.models import F, Q
from django.utils.translation import gettext_lazy as _

from core.grading.act import Act
from web.clients.models import Client, ClientRecord
from web.clinic.models import User
from web.clinic.records import ClinicRecord
from web.practice.models import HomeSession
from web.programs.models import ProgramVersion


class CaseloadRow(ClinicRecord):
    """The facts of `web.review.caseload.facts`; none depends on the day: what does is computed when read, or
    kept by days in `ComingNeed`.

    flags_said: the red flags that were said at home with stop signs nobody has cleared;
    snoozed_until, snoozed_need: put off to that day unless something more urgent comes; handed: who
    handed the client over, when and with what note, until it is taken over; course: the
    step that leads with the best of each day of four weeks; stale_since: from when on something of an open
    home session is not worked in yet; unreadable: words of what of the record cannot be read, so that the rest
    stands as it was.
    """

    client = models.OneToOneField(Client, on_delete=models.PROTECT, related_name="caseload_row")
    stop_sign = models.CharField(max_length=16, blank=True)
    stop_sign_on = models.DateField(null=True)
    open_signs = models.JSONField(default=list)
    flags_said = models.JSONField(default=list)
    set_aside = models.PositiveIntegerField(default=0)
    has_baseline = models.BooleanField(default=False)
    active_since = models.DateField(null=True)
    last_session = models.DateField(null=True)
    stretches = models.JSONField(default=list)
    recent = models.JSONField(default=list)
    screening = models.JSONField(null=True)
    link_made_at = models.DateTimeField(null=True)
    rung_s = models.FloatField(null=True)
    goal_s = models.FloatField(null=True)
    families = models.JSONField(default=dict)
    visits = models.JSONField(default=list)
    snoozed_until = models.DateField(null=True)
    snoozed_need = models.PositiveSmallIntegerField(null=True)
    handed = models.JSONField(null=True)
    course = models.JSONField(default=dict)
    stale_since = models.DateTimeField(null=True, db_index=True)
    unreadable = models.CharField(max_length=300, blank=True)


class ComingNeed(ClientRecord):
    """What a client needs on a stretch of days if nothing happens meanwhile, as it was worked out at
    the last write. Of a client's rows exactly one holds on any day from that one on.

    from_day, until_day: the first day and the first after the last, None = for good; since: what is
    older within a need comes first; act: of the proposal that makes the need, about: its steps,
    words: its reasons as data.
    """

    taken_away = True

    from_day = models.DateField()
    until_day = models.DateField(null=True)
    need = models.PositiveSmallIntegerField()
    since = models.DateField(null=True)
    act = models.CharField(max_length=12, blank=True)
    about = models.CharField(max_length=400, blank=True)
    words = models.JSONField(default=list)

    class Meta:
        indexes = [models.Index(fields=["clinic", "need", "since"], name="needs_in_order")]
        constraints = [
            models.UniqueConstraint(fields=["client", "from_day"], name="one_need_a_day"),
            models.CheckConstraint(
                name="needs_end_after",
                condition=Q(until_day=None) | Q(until_day__gt=F("from_day")),
            ),
        ]


class Snooze(ClientRecord):
    """A client put off to a day, unless something more urgent than `need` comes; insert-only, the
    newest counts. until None = ended."""

    insert_only = True

    until = models.DateField(null=True)
    need = models.PositiveSmallIntegerField()
    reason = models.CharField(max_length=300, blank=True)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()


class HandOver(ClientRecord):
    """A client handed to a colleague with a note; insert-only."""

    insert_only = True

    giver = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    taker = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    note = models.CharField(max_length=500)
    at = models.DateTimeField()

    class Meta:
        constraints = [
            models.CheckConstraint(name="handed_with_a_note", condition=~Q(note="")),
        ]


class NoteRead(ClientRecord):
    """That the colleague has read the note."""

    insert_only = True

    hand_over = models.OneToOneField(HandOver, on_delete=models.PROTECT, related_name="note_read")
    at = models.DateTimeField()


class SessionResult(ClientRecord):
    """What each step of a home session came to, as the rules of grading read it. Worked out of the
    record when the session ends and when anything of it changes; `./reed rebuild` makes it anew.

    whole: whether at least the share that counts as kept was done; sign_step: the step a stop sign
    came with.
    """

    home_session = models.OneToOneField(
        HomeSession, on_delete=models.PROTECT, related_name="result"
    )
    steps = models.JSONField(default=list)
    whole = models.BooleanField(default=False)
    sign_step = models.CharField(max_length=36, null=True)


class DecisionVerdict(models.TextChoices):
    ACCEPTED = "accepted", _("accepted")
    ALTERED = "altered", _("altered")
    REFUSED = "refused", _("refused")


class Decision(ClientRecord):
    """What a clinician decided about a proposal of the rules: insert-only, the evidence as it stood.

    steps: ids of the steps it is about, [] = the program; version: the program version it made;
    due_on: until when what was decided is to be done, where it is a task.
    """

    insert_only = True

    act = models.CharField(max_length=12, choices=[(act.value, act.value) for act in Act])
    steps = models.JSONField(default=list)
    rung = models.PositiveSmallIntegerField(null=True)
    verdict = models.CharField(max_length=8, choices=DecisionVerdict)
    reason = models.CharField(max_length=500, blank=True)
    evidence = models.JSONField(default=dict)
    day = models.DateField()
    due_on = models.DateField(null=True)
    version = models.ForeignKey(
        ProgramVersion, on_delete=models.PROTECT, null=True, related_name="+"
    )
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["client", "day"], name="decisions_by_day")]
        constraints = [
            models.CheckConstraint(
                name="refused_with_a_reason", condition=~Q(verdict="refused") | ~Q(reason="")
            ),
        ]

    @property
    def to_do(self) -> bool:
        """Whether it is a task that is not done yet."""
        return self.due_on is not None and not hasattr(self, "done")


class After(models.TextChoices):
    """What is decided when a contact is closed."""

    REOPEN = "reopen", _("Reopen the held steps one target lower")
    HOLD = "hold", _("Keep them on hold")
    EXAMINE = "examine", _("Examine first")


class DecisionDone(ClientRecord):
    """That the task of a decision is done, and by whom; of a contact the day, what the client said and what
    was decided then."""

    insert_only = True

    decision = models.OneToOneField(Decision, on_delete=models.PROTECT, related_name="done")
    day = models.DateField(null=True)
    said = models.CharField(max_length=500, blank=True)
    then = models.CharField(max_length=8, blank=True, choices=After)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()


class RuleNumber(ClinicRecord):
    """A number of the rules that a clinic, or one client, has otherwise; insert-only, the newest of a
    path counts. value None = the shipped number again."""

    insert_only = True

    client = models.ForeignKey(Client, on_delete=models.PROTECT, null=True, related_name="+")
    path = models.CharField(max_length=120)
    value = models.FloatField(null=True)
    reason = models.CharField(max_length=300)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        constraints = [
            models.CheckConstraint(name="rule_number_has_reason", condition=~Q(reason="")),
        ]


class CueLevel(models.TextChoices):
    """What it took until the client did it in the visit."""

    NONE = "none", _("by itself")
    WORD = "word", _("after a word")
    SHOWN = "shown", _("after it was shown")
    HANDS = "hands", _("with hands on")


class Response(models.TextChoices):
    """How it went."""

    YES = "yes", _("did it")
    PARTLY = "partly", _("partly")
    NO = "no", _("not yet")


class Taught(ClientRecord):
    """A step taught in a visit: the cue that worked, what it took, how it went, whether the client showed it back,
    and how the cue will fade; the newest of each step counts."""

    insert_only = True

    step_id = models.UUIDField()
    name = models.CharField(max_length=120)
    cue = models.CharField(max_length=120, blank=True)
    cue_level = models.CharField(max_length=5, choices=CueLevel)
    response = models.CharField(max_length=6, choices=Response)
    shown_back = models.CharField(max_length=6, choices=Response)
    fade = models.CharField(max_length=200, blank=True)
    day = models.DateField()
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()


@pghistory.track()
class OpenNote(ClientRecord):
    """The visit note that is being written; empty once it was signed.

    entries: keys of the recorded facts (`web.review.visits.note`) that it took up or leaves out on purpose.
    """

    client = models.OneToOneField(Client, on_delete=models.PROTECT, related_name="+")
    text = models.TextField(blank=True, max_length=8_000)
    entries = models.JSONField(default=list)
    revision = models.PositiveIntegerField(default=1)
    changed_by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    changed_at = models.DateTimeField()


class SignedNote(ClientRecord):
    """A visit note as it was signed; never changed, only added to."""

    insert_only = True

    day = models.DateField()
    text = models.TextField(max_length=8_000)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()


class Addendum(ClientRecord):
    """What was added to a signed note."""

    insert_only = True

    note = models.ForeignKey(SignedNote, on_delete=models.PROTECT, related_name="addenda")
    text = models.CharField(max_length=2_000)
    by = models.ForeignKey(User, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()
