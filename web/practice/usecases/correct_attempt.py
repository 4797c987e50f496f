"""A clinician moves the ends of a measured hold by hand."""

from django.db import transaction
from django.utils.translation import gettext as _

from web.clients.signals import record_changed
from web.clinic.models import User
from web.clinic.refusal import UsecaseRefused
from web.practice.models import Attempt, Correction

SHORTEST_S = 0.1
LONGEST_REASON = 300


@transaction.atomic
def correct_attempt(
    attempt: Attempt, *, onset_s: float, offset_s: float, reason: str, by: User, now
) -> Correction:
    """Keep a correction beside the measured value; the same again changes nothing.

    Seconds from the start of the sound; UsecaseRefused where they are no hold inside it, without
    a reason, or for an attempt that was not measured.
    """
    reason = " ".join(reason.split())
    if attempt.measurement is None:
        raise UsecaseRefused(_("Only a measured attempt has ends to move."))
    contour = getattr(attempt.measurement, "contour", None)
    if contour is None:
        raise UsecaseRefused(_("Nothing was heard in this attempt: there are no ends to move."))
    length_s = contour.seconds
    if not 0 <= onset_s < offset_s <= length_s or offset_s - onset_s < SHORTEST_S:
        words = _("The hold must begin and end inside the %(length).2f s that were recorded.")
        raise UsecaseRefused(words % {"length": length_s})
    if not reason or len(reason) > LONGEST_REASON:
        raise UsecaseRefused(_("Say why in up to 300 characters."))
    newest = attempt.corrections.order_by("-at").first()
    ends = (round(onset_s, 3), round(offset_s, 3))
    if newest and (newest.onset_s, newest.offset_s, newest.reason) == (*ends, reason):
        return newest
    correction = Correction.objects.create(
        clinic_id=attempt.clinic_id,
        client_id=attempt.client_id,
        attempt=attempt,
        onset_s=ends[0],
        offset_s=ends[1],
        reason=reason,
        by=by,
        at=now,
    )
    record_changed.send(Correction, client_id=attempt.client_id, session_id=attempt.home_session_id)
    return correction
