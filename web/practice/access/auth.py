"""The client's door: link and PIN give a session entry; every client view goes through here."""

import logging
from collections.abc import Callable
from functools import wraps
from typing import Any, Concatenate

from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.utils.translation import gettext as _

from core.safety.circumstances import pages_for
from web.clients.intake.intake_file import IntakeFile
from web.clients.models import ClientAccess
from web.clinic import clock
from web.clinic.records import Unreadable
from web.design.speaking import speaking

log = logging.getLogger(__name__)
_KEY = "client_link"


def sign_in(request: HttpRequest, access: ClientAccess) -> None:
    request.session.cycle_key()
    request.session[_KEY] = str(access.pk)


def sign_out(request: HttpRequest) -> None:
    request.session.pop(_KEY, None)


def client_required(
    view: Callable[Concatenate[HttpRequest, ClientAccess, ...], HttpResponse],
) -> Callable[..., HttpResponse]:
    """Call the view with the access of this very link, or send the visitor to the PIN."""

    @wraps(view)
    def guarded(request: HttpRequest, link_id, **kwargs) -> HttpResponse:
        access = None
        if request.session.get(_KEY) == str(link_id):
            access = (
                ClientAccess.objects.select_related("client__clinic")
                .filter(pk=link_id, revoked_at=None, client__archived_at=None)
                .first()
            )
        if access is not None and access.ends_at() > clock.now():
            with speaking(access.client.language):
                try:
                    return view(request, access, **kwargs)
                except Unreadable as bad:
                    log.error("%s", bad)
                    return _cannot_be_shown(request, access)
        if request.method == "GET":
            return redirect("practice:enter", link_id)
        words = _("Open your link and give the PIN again. What you did is kept on this page.")
        return JsonResponse({"error": {"code": "pin_needed", "message": words}}, status=401)

    return guarded


def _cannot_be_shown(request: HttpRequest, access: ClientAccess) -> HttpResponse:
    """The client can do nothing about it: whom to call."""
    if request.method != "GET":
        words = _(
            "Your program cannot be read just now: call your clinic. What you did is kept on this page."
        )
        return JsonResponse({"error": {"code": "unreadable", "message": words}}, status=503)
    context = {"link_id": access.pk, "client": access.client, "its_clinic": access.client.clinic}
    return render(request, "practice/unreadable.html", context)


def page_context(access: ClientAccess, file: IntakeFile) -> dict[str, Any]:
    """What every page of a client shows around its own."""
    return {
        "link_id": access.pk,
        "client": access.client,
        "its_clinic": access.client.clinic,
        "pages": " ".join(pages_for(file.living.circumstances)),
    }
