"""The lead saves a whole record and takes one in."""

import tempfile

from django.contrib import messages
from django.http import FileResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from web.clients.models import Client
from web.clinic import clock
from web.clinic.usecases import note_access
from web.records.models import TakenIn
from web.records.pack import write_record
from web.records.take_in import take_in
from web.records.unpack import MOST_PACKED, ArchiveRefused, read_record

_IN_MEMORY = 8_000_000


@require_GET
def record(request, client_id):
    """The whole record as an archive."""
    everybody = Client.objects.for_clinic(request.clinic).select_related("clinic")
    client = get_object_or_404(everybody, pk=client_id)
    out = tempfile.SpooledTemporaryFile(max_size=_IN_MEMORY)  # noqa: SIM115  (the answer closes it)
    write_record(client, out, now=clock.now())
    out.seek(0)
    request.noted_as = "exported"
    name = f"record-{client.pk}.zip"
    return FileResponse(out, as_attachment=True, filename=name, content_type="application/zip")


@require_GET
def records(request):
    return _page(request)


@require_POST
def take_in_archive(request):
    """An archive becomes a record of this clinic, or is refused whole."""
    sent = request.FILES.get("file")
    if sent is None:
        return _page(request, wrong=_("Choose an archive."), status=422)
    if sent.size > MOST_PACKED:
        return _page(request, wrong=_("The archive is too large."), status=413)
    try:
        taken = take_in(read_record(sent), request.clinic, by=request.user, now=clock.now())
    except ArchiveRefused as refused:
        return _page(request, wrong=refused.words, status=422)
    request.noted_as = ""
    note_access(
        request.clinic,
        user=request.user,
        what="took in a record",
        where="records:take_in",
        subject_id=taken.client_id,
        now=clock.now(),
    )
    words = _("Taken in: %(rows)s rows.") % {"rows": taken.rows}
    if not taken.in_force:
        words += " " + _("Its program lies on the Bench and is practised once it is activated.")
    messages.success(request, words)
    return redirect("review:client", taken.client_id)


def _page(request, *, wrong: str = "", status: int = 200):
    taken = TakenIn.objects.for_clinic(request.clinic).select_related("client", "by")
    context = {"here": "clinic", "wrong": wrong, "taken": taken.order_by("-at")[:20]}
    return render(request, "records/records.html", context, status=status)
