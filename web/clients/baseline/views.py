"""The Baseline page: typed and measured attempts, values, one attempt opened, the level reference."""

import uuid
from typing import Any

from django.conf import settings
from django.contrib import messages
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_http_methods, require_POST

from core.catalogue.reading import HARBOUR_MORNING
from core.errors import CoreError
from core.notes.note import Note
from core.reference.values import MICROPHONE_DISTANCE
from core.sound.calibration import LevelReference
from web.clients.baseline.measured import MeasuredView, level_reference
from web.clients.baseline.measures import ASKED, Aims
from web.clients.baseline.view import BaselineView
from web.clients.forms import BaselineForm, ReferenceForm, TypedForm
from web.clients.intake.intake_file import IntakeFile
from web.clients.models import Baseline, BaselineAttempt, Client, Measure
from web.clients.scope import client_of
from web.clients.usecases import baseline as measuring
from web.clients.usecases.device import save_reference
from web.clinic import clock, revisions
from web.clinic.refusal import UsecaseRefused
from web.clinic.words import core_words
from web.measuring.measurement_page import shown
from web.measuring.tickets import Ticket


@require_http_methods(["GET"])
def baseline(request, client_id):
    client = client_of(request, client_id)
    now = clock.now()
    row = measuring.baseline_at_hand(client, by=request.user, now=now)
    return _baseline_page(request, client, row)


@require_POST
def set_baseline(request, client_id):
    client = client_of(request, client_id)
    row = measuring.baseline_at_hand(client, by=request.user, now=clock.now())
    form = BaselineForm(request.POST)
    apart = form.is_valid() and not revisions.met(
        form, request.POST.get("shown", ""), _as_it_stands(row)
    )
    if form.is_valid():
        try:
            measuring.set_baseline(row, form.cleaned_data)
            messages.success(request, _("Values saved."))
            return redirect("clients:baseline", client.pk)
        except CoreError as error:
            form.add_error(None, core_words(error))
    row = measuring.baseline_at_hand(client, by=request.user, now=clock.now())
    return _baseline_page(request, client, row, form=form, status=409 if apart else 422)


def _as_it_stands(row: Baseline) -> dict[str, Any]:
    return {name: getattr(row, name) for name in BaselineForm.base_fields}


@require_POST
def type_attempts(request, client_id):
    client = client_of(request, client_id)
    row = measuring.baseline_at_hand(client, by=request.user, now=clock.now())
    form = TypedForm(request.POST)
    if not form.is_valid():
        return _baseline_page(request, client, row, typed=form, status=422)
    try:
        first = uuid.UUID(form.cleaned_data["attempt_ids"])
        for place, seconds in enumerate(form.cleaned_data["seconds"]):
            measuring.type_attempt(
                row,
                attempt_id=uuid.uuid5(first, str(place)),
                measure=form.cleaned_data["measure"],
                seconds=seconds,
                now=clock.now(),
            )
    except (UsecaseRefused, ValueError) as refused:
        messages.error(request, getattr(refused, "words", _("Reload the page and type it again.")))
    return redirect("clients:baseline", client.pk)


@require_POST
def strike_out(request, client_id, attempt_id):
    client = client_of(request, client_id)
    attempt = get_object_or_404(
        BaselineAttempt.objects.for_clinic(request.clinic), pk=attempt_id, client=client
    )
    try:
        measuring.strike_out(attempt, by=request.user, now=clock.now())
    except UsecaseRefused as refused:
        messages.error(request, refused.words)
    return redirect("clients:baseline", client.pk)


@require_POST
def record(request, client_id):
    client = client_of(request, client_id)
    row = Baseline.objects.filter(client=client, recorded_at=None).first()
    if row is None:
        return redirect("review:client", client.pk)
    try:
        measuring.record_baseline(row, now=clock.now())
    except UsecaseRefused as refused:
        messages.error(request, refused.words)
        return redirect("clients:baseline", client.pk)
    messages.success(request, _("Baseline recorded. Next: the Bench."))
    return redirect("programs:bench", client.pk)


@require_POST
def take_over(request, client_id):
    client = client_of(request, client_id)
    row = measuring.baseline_at_hand(client, by=request.user, now=clock.now())
    measured = MeasuredView(_view(row, client), request.clinic.a4_hz)
    try:
        measuring.take_over(row, measured)
        messages.success(
            request, _("Measured notes taken over. Change them where you heard better.")
        )
    except UsecaseRefused as refused:
        messages.error(request, refused.words)
    except CoreError as error:
        messages.error(request, core_words(error))
    return redirect("clients:baseline", client.pk)


@require_http_methods(["GET"])
def attempt(request, client_id, tried_id):
    """One attempt of a baseline, opened to its contour and findings."""
    client = client_of(request, client_id)
    row = get_object_or_404(
        BaselineAttempt.objects.for_clinic(request.clinic).select_related(
            "measurement__contour", "baseline"
        ),
        pk=tried_id,
        client=client,
    )
    row.baseline.client = client
    target = Aims(row.baseline).of(row.measure)
    taken = row.measurement
    context = {
        "client": client,
        "attempt": row,
        "at": clock.local(row.at, client.time_zone),
        "shown": shown(
            taken,
            target=target if isinstance(target, Note) else None,
            a4_hz=request.clinic.a4_hz,
            reference=level_reference(client.pk, taken.device_name),
        )
        if taken
        else None,
        "here": "baseline",
    }
    return render(request, "clients/attempt.html", context)


@require_http_methods(["GET", "POST"])
def device(request, client_id):
    """The level reference: what the device gives, the room, a meter's reading beside the voice."""
    client = client_of(request, client_id)
    row = measuring.baseline_at_hand(client, by=request.user, now=clock.now())
    measured = MeasuredView(_view(row, client), request.clinic.a4_hz)
    taken = measured.reference_attempt
    form = ReferenceForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        if taken is None:
            form.add_error(None, _("Measure the level reference in the Baseline first."))
        else:
            try:
                save_reference(taken, by=request.user, now=clock.now(), **form.cleaned_data)
                messages.success(request, _("Level reference kept for this client and device."))
                return redirect("clients:device", client.pk)
            except UsecaseRefused as refused:
                form.add_error(None, refused.words)
            except CoreError as error:
                form.add_error(None, core_words(error))
    measurement = taken.measurement if taken else None
    kept = level_reference(client.pk, measurement.device_name) if measurement else None
    context = {
        "client": client,
        "form": form,
        "taken": measurement,
        "of_this_attempt": bool(measurement and hasattr(measurement, "reference")),
        "kept": kept,
        "room": _room_of(measurement) if measurement else None,
        "simulated": settings.OFFER_SIMULATED_VOICE,
        "here": "baseline",
    }
    return render(request, "clients/device.html", context, status=422 if form.errors else 200)


def _room_of(measurement) -> LevelReference:
    """The room beside the voice as it was taken, at the usual distance."""
    return LevelReference(
        device=measurement.device_name,
        voice_dbfs=measurement.level_mean_db,
        room_dbfs=measurement.room_db,
        distance_cm=MICROPHONE_DISTANCE.number,
    )


def _view(row: Baseline, client: Client) -> BaselineView:
    return BaselineView.of(row, client.age_on(clock.local_date(clock.now(), client.time_zone)))


def _lines(row: Baseline, view: BaselineView, a4_hz: float) -> list[dict]:
    """The measures of the visit in order, with what was tried of each."""
    aims = Aims(row)
    allowed = IntakeFile.now(row.client).allowed
    lines = []
    for measure in Measure:
        asked = ASKED[measure]
        attempts = [a for a in view.attempts if a.measure == measure]
        counted = sum(not (_in_vain(a) or hasattr(a, "struck_out")) for a in attempts)
        tone, aim = aims.tone(measure), aims.of(measure)
        lines.append(
            {
                "key": measure.value,
                "label": measure.label,
                "asked": asked,
                "counted": counted,
                "missing": max(asked.wanted - counted, 0),
                "note": tone,
                "hz": tone.hz(a4_hz) if tone else None,
                "aim": aim.name if aim else "",
                "measured": [a for a in attempts if not _in_vain(a)],
                "not_measurable": [a for a in attempts if _in_vain(a)],
                "best": view.best_s(measure) if asked.typed else None,
                "attempt_ids": uuid.uuid4(),
                "forbidden": not asked.touches <= allowed,
                "passage": HARBOUR_MORNING if measure == Measure.READING else None,
            }
        )
    return lines


def _in_vain(attempt: BaselineAttempt) -> bool:
    """Whether nothing counts for a measure: nothing measurable, or everything struck out. Its attempts are then
    folded."""
    return attempt.seconds is None


def _baseline_page(request, client, row, *, form=None, typed=None, status=200):
    row.client = client
    now = clock.now()
    view = _view(row, client)
    measured = MeasuredView(view, request.clinic.a4_hz)
    ticket = Ticket(
        purpose="baseline",
        clinic=str(request.clinic.pk),
        client=str(client.pk),
        holder=str(request.user.pk),
        sitting=str(row.pk),
        issued_at=now.isoformat(),
    )
    start = _as_it_stands(row)
    for name in ("height_cm", "vital_capacity_ml", "rating", "handicap"):
        start[name] = f"{start[name]:g}" if start[name] is not None else None
    context = {
        "client": client,
        "row": row,
        "view": view,
        "form": form or BaselineForm(initial=start),
        "shown": revisions.shown(_as_it_stands(row)),
        "typed": typed,
        "measures": _lines(row, view, request.clinic.a4_hz),
        "measured": measured,
        "new_device": measured.new_device,
        "flags": view.flags(request.clinic),
        "bundle": {
            "ticket": ticket.signed(),
            "issued_at": now.isoformat(),
            "simulated_voice": settings.OFFER_SIMULATED_VOICE,
        },
        "here": "baseline",
    }
    return render(request, "clients/baseline.html", context, status=status)
