"""Notes every page and change of a record. If the clinic wants it, someone who does not treat a client states a reason
first."""

import logging
from datetime import timedelta
from urllib.parse import urlencode

from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils.translation import gettext_noop

from core.safety.stop import SIGNS, StopSign
from web.clients.models import Client
from web.clinic import clock
from web.clinic.models import AccessEvent
from web.clinic.records import Unreadable
from web.clinic.usecases.staff import note_access

log = logging.getLogger(__name__)
REASON_LASTS = timedelta(hours=12)
STATED = "stated a reason"


class RecordScope:
    """A view that says more of what it did than that something was read or changed names it in
    `request.noted_as`, and of what in `request.noted_words`; "" = it has noted it itself."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        answer = self.get_response(request)
        found = request.resolver_match
        if request.membership is None or found is None or answer.status_code >= 400:
            return answer
        subject, writes = found.kwargs.get("client_id"), request.method not in ("GET", "HEAD")
        what = getattr(
            request, "noted_as", gettext_noop("changed") if writes else gettext_noop("read")
        )
        if what and (subject or (writes and found.namespace == "clinic")):
            note_access(
                request.clinic,
                user=request.user,
                what=what,
                where=found.view_name,
                words=getattr(request, "noted_words", ""),
                subject_id=subject,
                now=clock.now(),
            )
        return answer

    def process_exception(self, request, error):
        """A page whose record cannot be read says so with the id, and what can still be opened."""
        if not isinstance(error, Unreadable) or request.membership is None:
            return None
        log.error("%s: %s", request.resolver_match.view_name, error)
        client_id = request.resolver_match.kwargs.get("client_id")
        everybody = Client.objects.for_clinic(request.clinic).select_related("caseload_row")
        client = everybody.filter(pk=client_id).first()
        row = getattr(client, "caseload_row", None)
        context = {"client": client, "row": row, "unreadable": error}
        if row and row.stop_sign:
            context["stop_words"] = SIGNS[StopSign(row.stop_sign)]
        # what was to be changed was not; what was to be read is shown as far as it can be
        status = 200 if request.method in ("GET", "HEAD") else 409
        return render(request, "clients/unreadable.html", context, status=status)

    def process_view(self, request, view, args, kwargs):
        client_id, clinic = kwargs.get("client_id"), request.clinic
        if client_id is None or clinic is None or not clinic.reason_to_read:
            return None
        if request.resolver_match.view_name == "clients:why" or _may_read(request, client_id):
            return None
        if request.method == "GET":
            asked = urlencode({"next": request.get_full_path()})
            return redirect(f"{reverse('clients:why', args=[client_id])}?{asked}")
        return render(request, "403.html", status=403)


def _may_read(request, client_id) -> bool:
    """Whether the user treats the client, or has stated a reason recently."""
    own = Client.objects.for_clinic(request.clinic).filter(pk=client_id)
    treats = own.filter(clinician=request.user).exists()
    if treats or not own.exists():  # of another clinic: the view says that it is not there
        return True
    since = clock.now() - REASON_LASTS
    stated = AccessEvent.objects.filter(user=request.user, subject_id=client_id, what=STATED)
    return stated.filter(at__gt=since).exists()
