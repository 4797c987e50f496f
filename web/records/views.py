"""The lead saves a whole record and takes one in."""

import tempfile
import uuid
from collections.abc import AsyncIterator, Iterator
from functools import partial

from asgiref.sync import sync_to_async
from django.contrib import messages
from django.http import JsonResponse, StreamingHttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.utils.translation import gettext_noop
from django.views.decorators.http import require_GET, require_POST

from web.clients.models import Client
from web.clinic import clock
from web.clinic.usecases.staff import note_access
from web.records.models import TakenIn
from web.records.pack import write_record
from web.records.progress import done_so_far, progress_reporter
from web.records.unpack import MOST_PACKED, ArchiveRefused, read_record
from web.records.usecases.import_clinic import import_clinic
from web.records.usecases.import_record import import_record
from web.records.whole_clinic import clinic_in_pieces, is_whole_clinic, read_clinic

_IN_MEMORY = 8_000_000
_PIECE = 256_000


@require_GET
def record(request, client_id):
    """The whole record as an archive."""
    everybody = Client.objects.for_clinic(request.clinic).select_related("clinic")
    client = get_object_or_404(everybody, pk=client_id)
    out = tempfile.SpooledTemporaryFile(max_size=_IN_MEMORY)  # noqa: SIM115  (the answer closes it)
    write_record(client, out, now=clock.now())
    out.seek(0)
    request.noted_as = gettext_noop("exported")
    pieces = iter(partial(out.read, _PIECE), b"")
    return _sent(pieces, f"record-{client.pk}.zip")


@require_GET
def records(request):
    return _page(request)


@require_GET
def whole_clinic(request):
    """All records of the clinic, sent while they are written."""
    clinic, now = request.clinic, clock.now()
    where = request.resolver_match.view_name
    note_access(clinic, user=request.user, what=gettext_noop("exported"), where=where, now=now)
    request.noted_as = ""
    tell = progress_reporter(clinic.pk, request.GET.get("key", ""))
    pieces = clinic_in_pieces(clinic, now=now, told=tell)
    return _sent(pieces, f"clinic-{clinic.pk}.zip")


def _sent(pieces: Iterator[bytes], name: str) -> StreamingHttpResponse:
    """An archive sent piece by piece, each made when the one before has gone."""

    def following() -> bytes | None:
        return next(pieces, None)

    async def sent() -> AsyncIterator[bytes]:
        while (piece := await sync_to_async(following)()) is not None:
            yield piece

    answer = StreamingHttpResponse(sent(), content_type="application/zip")
    answer["Content-Disposition"] = f'attachment; filename="{name}"'
    return answer


@require_GET
def progress(request, work_id):
    """How far that long work is."""
    found = done_so_far(request.clinic.pk, work_id)
    return JsonResponse({"done": found[0], "total": found[1]} if found else {})


@require_POST
def take_in_archive(request):
    """An archive becomes a record of this clinic, or every record of one, or is refused whole."""
    sent = request.FILES.get("file")
    if sent is None:
        return _page(request, wrong=_("Choose an archive."), status=422)
    if is_whole_clinic(sent):
        return _take_in_clinic(request, sent)
    if sent.size > MOST_PACKED:
        return _page(request, wrong=_("The archive is too large."), status=413)
    try:
        taken = import_record(read_record(sent), request.clinic, by=request.user, now=clock.now())
    except ArchiveRefused as refused:
        return _page(request, wrong=refused.words, status=422)
    request.noted_as = ""
    note_access(
        request.clinic,
        user=request.user,
        what=gettext_noop("took in a record"),
        where="records:import_record",
        subject_id=taken.client_id,
        now=clock.now(),
    )
    words = _("Taken in: %(rows)s rows.") % {"rows": taken.rows}
    if not taken.in_force:
        words += " " + _(
            "Its program is a draft on the Bench. It can be practiced once you activate it."
        )
    messages.success(request, words)
    return redirect("review:client", taken.client_id)


def _take_in_clinic(request, sent):
    tell = progress_reporter(request.clinic.pk, request.POST.get("key", ""))
    try:
        with read_clinic(sent, told=tell) as whole:
            count = import_clinic(whole, request.clinic, by=request.user, now=clock.now())
    except ArchiveRefused as refused:
        return _page(request, wrong=refused.words, status=422)
    request.noted_as = gettext_noop("took in a clinic")
    words = _(
        "Taken in: %(count)s records. Programs from elsewhere lie on the Bench of each client."
    )
    messages.success(request, words % {"count": count})
    return redirect("records:records")


def _page(request, *, wrong: str = "", status: int = 200):
    taken = TakenIn.objects.for_clinic(request.clinic).select_related("client", "by")
    context = {
        "here": "clinic",
        "key": uuid.uuid4(),
        "wrong": wrong,
        "taken": taken.order_by("-at")[:20],
    }
    return render(request, "records/records.html", context, status=status)
