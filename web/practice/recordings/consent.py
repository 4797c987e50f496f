"""Being heard: what the client is told, whether they agree, what is kept of it and who may listen."""

from datetime import datetime, timedelta

from django.db.models import QuerySet
from django.utils.translation import gettext as _

from core.fitting.capability import ADULT_FROM_AGE
from core.sound.recording import KEPT_FOR, ONE_IN, one_more
from web.clients.models import Client
from web.clinic import clock
from web.clinic.models import User
from web.practice.models import USUAL_TALK, HeardSound, HearingConsent


def consent_words(client: Client) -> list[str]:
    """What the client agrees to, one sentence a line, in the language that is active."""
    told = {"name": client.clinician.name, "days": KEPT_FOR.days}
    return [
        _(
            "Your clinician sees numbers and curves of your practice. "
            "With your yes they can also listen."
        ),
        _(
            "Kept is the sound of one try of each step a week, never more. "
            "Your usual talk is never kept."
        ),
        _("Only the clinician who treats you can listen, now %(name)s. Each time is written down.")
        % told,
        _("After %(days)s days the sound is erased. It is in no backup.") % told,
        _("The sound holds what the microphone hears: also others in the room, or a radio."),
        _(
            "You can say no, or take your yes back at any time: then every sound is erased at once. "
            "Your practice, your results and your care stay as they are."
        ),
    ]


def is_minor(client: Client, now: datetime) -> bool:
    return client.age_on(clock.local_date(now, client.time_zone)) < ADULT_FROM_AGE


def consent_of(client: Client, now: datetime) -> HearingConsent | None:
    """The consent that stands. A guardian's ends when the client comes of age."""
    row = HearingConsent.objects.filter(client=client).order_by("-at").first()
    if row is None or not row.agreed or client.archived_at is not None:
        return None
    return None if row.guardian and not is_minor(client, now) else row


def may_be_heard(client: Client, step_id: str, made_at: datetime, now: datetime) -> bool:
    """Whether the sound of an attempt at a step that was made then is kept, if it is worth it."""
    if step_id == str(USUAL_TALK) or (consent := consent_of(client, now)) is None:
        return False
    near = (made_at - ONE_IN, made_at + ONE_IN)
    kept = HeardSound.objects.filter(client=client, step_id=step_id, made_at__range=near)
    made = kept.values_list("made_at", flat=True)
    return one_more(made_at, now=now, agreed_at=consent.at, kept=made)


def saved_sounds(client: Client, now: datetime) -> QuerySet[HeardSound]:
    """The sounds that may still be heard, newest first; their bytes are not read."""
    rows = HeardSound.objects.filter(client=client, made_at__gt=now - KEPT_FOR)
    return rows.filter(client__archived_at=None).order_by("-made_at").defer("flac")


def may_listen(user: User, client: Client) -> bool:
    """Only who treats the client; neither colleagues nor the lead."""
    return client.clinician_id == user.pk


def days_left(sound: HeardSound, now: datetime) -> int:
    """Whole days until it is erased, at least 1."""
    return max(1, -((now - sound.made_at - KEPT_FOR) // timedelta(days=1)))
