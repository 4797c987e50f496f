"""Agreeing to being heard, taking it back, keeping a sound, erasing it; each in one transaction."""

from datetime import datetime

from django.db import transaction
from django.db.models import Q
from django.utils.translation import gettext as _

from core.sound.recording import KEPT_FOR, worth_hearing
from web.clients.models import Client
from web.clinic import clock
from web.clinic.models import User
from web.clinic.refusal import UsecaseRefused
from web.design.speaking import speaking
from web.measuring.sinks import AttemptTaken
from web.practice.models import Attempt, HeardSound, HearingConsent
from web.practice.recordings.consent import consent_of, consent_words, is_minor, may_be_heard


@transaction.atomic
def agree_to_be_heard(
    client: Client, *, by: User | None, guardian: bool = False, now: datetime
) -> HearingConsent:
    """Keep the consent with the words that were read; agreed already changes nothing. by: the clinician
    of the visit, None = the client themself. UsecaseRefused for a minor without a guardian, who agrees in
    the visit, and for a client who left."""
    client = _locked(client)
    if client.archived_at is not None:
        raise UsecaseRefused(_("This client is no longer treated; nothing was changed."))
    minor = is_minor(client, now)
    if minor and by is None:
        raise UsecaseRefused(
            _("Your guardian agrees to this together with you, in your next visit.")
        )
    if minor and not guardian:
        raise UsecaseRefused(_("For a minor the guardian agrees too; nothing was changed."))
    return consent_of(client, now) or _said(client, agreed=True, guardian=minor, by=by, now=now)


@transaction.atomic
def take_back_being_heard(client: Client, *, by: User | None, now: datetime) -> int:
    """No longer: every sound is erased at once; how many there were. Harmless when repeated."""
    client = _locked(client)
    last = HearingConsent.objects.filter(client=client).order_by("-at").first()
    if last is not None and last.agreed:
        _said(client, agreed=False, guardian=False, by=by, now=now)
    return HeardSound.objects.filter(client=client).delete()[0]


@transaction.atomic
def save_sound(attempt: Attempt, caught: AttemptTaken, *, now: datetime) -> None:
    """Keep the sound beside an attempt that was just kept, where the client agrees; asked anew, for they
    may have taken it back while it was made."""
    if caught.sound is None or not worth_hearing(caught.figures):
        return
    client, made_at = _locked(attempt.client), attempt.started_at
    if not may_be_heard(client, str(attempt.step_id), made_at, now):
        return
    HeardSound.objects.create(
        clinic_id=attempt.clinic_id,
        client=client,
        attempt=attempt,
        step_id=attempt.step_id,
        made_at=made_at,
        flac=caught.sound.as_flac(),
    )


def erase_past_sounds() -> int:
    """Erase what is past its time or of clients who left; how many there were."""
    past = Q(made_at__lte=clock.now() - KEPT_FOR) | Q(client__archived_at__isnull=False)
    return HeardSound.objects.filter(past).delete()[0]


def _said(client: Client, *, agreed: bool, guardian: bool, by: User | None, now) -> HearingConsent:
    with speaking(client.language):
        words = consent_words(client) if agreed else []
    return HearingConsent.objects.create(
        clinic_id=client.clinic_id,
        client=client,
        agreed=agreed,
        guardian=guardian,
        words=words,
        by=by,
        at=now,
    )


def _locked(client: Client) -> Client:
    """The client's row, so that a sound is not kept while consent is taken back."""
    rows = Client.objects.select_for_update(of=("self",)).select_related("clinician")
    return rows.get(pk=client.pk)
