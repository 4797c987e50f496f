"""Measuring what a client can do: open, keep attempts, strike out, record."""

import hashlib
import uuid

from django.db import IntegrityError, transaction
from django.utils.translation import gettext as _

from core.catalogue.touches import Touch
from web.clients.baseline.measured import MeasuredView, conversation_dbfs
from web.clients.baseline.measures import ASKED, Aims
from web.clients.intake.intake_file import IntakeFile
from web.clients.models import Baseline, BaselineAttempt, Client, Measure, StruckOut
from web.clients.signals import record_changed
from web.clinic import clock
from web.clinic.models import Membership, User
from web.clinic.refusal import UsecaseRefused
from web.measuring.models import Taken, device_name
from web.measuring.sinks import AttemptOffer, AttemptTaken, Permit, Refused, SaveAnswer
from web.measuring.tickets import Ticket
from web.measuring.usecases.save_measurement import save_caught

FIELDS = (
    "lowest",
    "highest",
    "transition",
    "speaking",
    "vital_capacity_ml",
    "height_cm",
    "lung_sex",
    "throat_strain",
    "effort",
    "fatigue",
    "discomfort",
    "rating",
    "rating_scale",
    "handicap",
    "handicap_scale",
)
CARRIED = (
    "lowest",
    "highest",
    "transition",
    "speaking",
    "height_cm",
    "lung_sex",
    "rating_scale",
    "handicap_scale",
)
"""What a new baseline starts from."""


def baseline_at_hand(client: Client, *, by: User, now, new_id: uuid.UUID | None = None) -> Baseline:
    """The baseline being filled in. If there is none, an unsaved one that starts from the last range: opening the page
    saves nothing."""
    current = Baseline.objects.filter(client=client, recorded_at=None).first()
    if current is not None:
        return current
    last = Baseline.objects.filter(client=client).order_by("-recorded_at").first()
    values = {name: getattr(last, name) for name in CARRIED} if last else {}
    return Baseline(
        pk=new_id or uuid.uuid4(),
        clinic_id=client.clinic_id,
        client=client,
        by=by,
        begun_at=now,
        **values,
    )


@transaction.atomic
def open_baseline(client: Client, *, by: User, now, new_id: uuid.UUID | None = None) -> Baseline:
    """The baseline being filled, else a new one, begun by the first thing that is measured or typed."""
    Client.objects.select_for_update().get(pk=client.pk)
    row = baseline_at_hand(client, by=by, now=now, new_id=new_id)
    if row._state.adding:
        row.save(force_insert=True)
    return row


def _begun(baseline: Baseline) -> Baseline:
    """Save the baseline, so that attempts can refer to it."""
    if not baseline._state.adding:
        return baseline
    return open_baseline(baseline.client, by=baseline.by, now=baseline.begun_at, new_id=baseline.pk)


@transaction.atomic
def set_baseline(baseline: Baseline, values: dict) -> Baseline:
    """Change the typed values; core errors of the range come through and nothing is saved."""
    baseline = _begun(baseline)
    _refuse_recorded(baseline)
    for name in FIELDS:
        if name in values:
            setattr(baseline, name, values[name])
    _ = baseline.comfort
    baseline.save()
    return baseline


def take_over(baseline: Baseline, measured: MeasuredView) -> Baseline:
    """Put the measured notes of range and speech into the baseline's fields; all or nothing."""
    values = measured.taken_over()
    if not values:
        raise UsecaseRefused(_("Nothing is measured yet: glide up and down, and talk."))
    return set_baseline(baseline, values)


@transaction.atomic
def type_attempt(
    baseline: Baseline, *, attempt_id: uuid.UUID, measure: str, seconds: float, now
) -> BaselineAttempt:
    """Keep seconds read from a stopwatch; the same id again changes nothing."""
    baseline = _begun(baseline)
    _refuse_recorded(baseline)
    if not ASKED[measure].typed:
        raise UsecaseRefused(_("This measure has more figures than seconds: measure it."))
    digest = hashlib.sha256(f"{measure} {seconds}".encode()).hexdigest()
    row, _made = BaselineAttempt.objects.get_or_create(
        pk=attempt_id,
        defaults={
            "clinic_id": baseline.clinic_id,
            "client_id": baseline.client_id,
            "baseline": baseline,
            "measure": Measure(measure),
            "seconds": seconds,
            "taken": Taken.TYPED,
            "sha256": digest,
            "at": now,
        },
    )
    if row.baseline_id != baseline.pk:
        raise UsecaseRefused(_("This attempt belongs to another baseline."))
    return row


@transaction.atomic
def strike_out(attempt: BaselineAttempt, *, by: User, now) -> None:
    """The attempt stays in the record and no longer counts."""
    _refuse_recorded(attempt.baseline)
    StruckOut.objects.get_or_create(
        attempt=attempt,
        defaults={
            "clinic_id": attempt.clinic_id,
            "client_id": attempt.client_id,
            "by": by,
            "at": now,
        },
    )


@transaction.atomic
def record_baseline(baseline: Baseline, *, now) -> Baseline:
    """Close the baseline. It cannot be changed afterward. Needs a range and one soft-hold probe."""
    if baseline.recorded_at is not None:
        return baseline
    counted = BaselineAttempt.objects.filter(baseline=baseline, struck_out=None)
    probes = counted.filter(measure__startswith="probe", seconds__isnull=False)
    if baseline.comfort is None:
        raise UsecaseRefused(_("The lowest and the highest comfortable note are still missing."))
    if not probes.exists():
        raise UsecaseRefused(_("At least one soft-hold probe is needed before recording."))
    baseline.recorded_at = now
    baseline.save(update_fields=["recorded_at"])
    record_changed.send(Baseline, client_id=baseline.client_id)
    return baseline


def _refuse_recorded(baseline: Baseline) -> None:
    if baseline.recorded_at is not None:
        raise UsecaseRefused(_("This baseline is recorded. Open a new one to measure again."))


class BaselineSink:
    """Where attempts of the visit end; the step of an offer is the name of the measure."""

    def permit(self, ticket: Ticket, offer: AttemptOffer) -> Permit:
        member = Membership.objects.select_related("clinic", "user").filter(
            user_id=ticket.holder, clinic_id=ticket.clinic, active=True
        )
        if not member.exists():
            raise Refused(4401, 403, "not_a_member", _("Sign in again. The hold is kept here."))
        if offer.step_id not in Measure.values:
            raise Refused(4403, 403, "step_unknown", _("This measure does not exist."))
        baseline = _sat_for(ticket) or baseline_at_hand(
            _client_of(ticket), by=member[0].user, now=clock.now(), new_id=uuid.UUID(ticket.sitting)
        )
        if not ASKED[offer.step_id].touches <= _allowed(baseline.client):
            words = _("No water task: swallowing is not safe, or not screened yet.")
            raise Refused(4403, 403, "contraindicated", words)
        device = device_name(offer.device, offer.input)
        aims = Aims(baseline, reference_dbfs=conversation_dbfs(baseline, device))
        return Permit(
            task=ASKED[offer.step_id].task,
            target=aims.of(offer.step_id),
            a4_hz=member[0].clinic.a4_hz,
            for_client=False,
        )

    @transaction.atomic
    def keep(
        self, ticket: Ticket, offer: AttemptOffer, permit: Permit, caught: AttemptTaken, now
    ) -> SaveAnswer:
        client = _client_of(ticket)
        Client.objects.select_for_update().get(pk=client.pk)
        baseline = _sat_for(ticket) or open_baseline(
            client,
            by=User.objects.get(pk=ticket.holder),
            now=now,
            new_id=uuid.UUID(ticket.sitting),
        )
        before = BaselineAttempt.objects.filter(pk=offer.attempt_id).first()
        if before is not None:
            same = before.sha256 == caught.sha256 and before.baseline_id == baseline.pk
            return SaveAnswer("again" if same else "differs", offer.attempt_id)
        if baseline.recorded_at is not None:
            words = _("This baseline is recorded already; the hold is kept on this page.")
            raise Refused(4403, 409, "baseline_recorded", words)
        measurement = save_caught(
            caught, offer, record=baseline, client_id=baseline.client_id, now=now
        )
        seconds = caught.seconds if measurement is None else measurement.hold_s
        try:
            BaselineAttempt.objects.create(
                pk=offer.attempt_id,
                clinic_id=baseline.clinic_id,
                client_id=baseline.client_id,
                baseline=baseline,
                measure=offer.step_id,
                seconds=round(seconds, 2) if seconds else None,
                taken=caught.taken,
                measurement=measurement,
                sha256=caught.sha256,
                at=now,
            )
        except IntegrityError as error:
            words = _("This attempt could not be kept; it stays on this page.")
            raise Refused(4400, 409, "attempt_clash", words) from error
        return SaveAnswer("kept", offer.attempt_id)


def _sat_for(ticket: Ticket) -> Baseline | None:
    """The baseline of the page that holds the ticket; None where nothing has begun it yet."""
    rows = Baseline.objects.select_related("client")
    return rows.filter(pk=ticket.sitting, client_id=ticket.client).first()


def _client_of(ticket: Ticket) -> Client:
    try:
        return Client.objects.get(pk=ticket.client, clinic_id=ticket.clinic)
    except Client.DoesNotExist as error:
        raise Refused(4403, 404, "client_unknown", _("This client is gone.")) from error


def _allowed(client: Client) -> frozenset[Touch]:
    return IntakeFile.now(client).allowed
