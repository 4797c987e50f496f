"""Error pages that need no database, and the service worker at the root."""

import sys
from pathlib import Path

from django.core.exceptions import ObjectDoesNotExist
from django.db import DatabaseError, InterfaceError, OperationalError
from django.http import HttpResponse, JsonResponse
from django.template.loader import render_to_string
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET
from django.views.i18n import JavaScriptCatalog

from web.design.answers import wants_json
from web.design.speaking import speaking

FOREIGN_KEY = "23503"
"""SQLSTATE of a row whose owner is not there."""
_WORKER = Path(__file__).parent / "static" / "design" / "service-worker.js"


def _page(status: int) -> HttpResponse:
    return HttpResponse(render_to_string(f"{status}.html"), status=status)


def bad_request(request, exception=None):
    return _page(400)


def forbidden(request, exception=None):
    return _page(403)


def not_found(request, exception=None):
    return _page(404)


def server_error(request):
    """500, or in words: 503 when the database was away, 409 when what was asked for was erased meanwhile."""
    error = sys.exc_info()[1]
    if isinstance(error, OperationalError | InterfaceError):
        return database_down(request)
    if _went_meanwhile(error):
        return gone_meanwhile(request)
    return _page(500)


def _went_meanwhile(error: BaseException | None) -> bool:
    """Whether a row was there when the work began and not when it ended: read no more, written no more (Django
    raises a plain DatabaseError then), or what it belongs to is gone."""
    belongs = getattr(error.__cause__, "sqlstate", "") == FOREIGN_KEY if error else False
    return belongs or isinstance(error, ObjectDoesNotExist) or type(error) is DatabaseError


def gone_meanwhile(request) -> HttpResponse:
    """Who sends by itself is told to try again, and then that it is not known any more."""
    words = _(
        "What this belongs to was changed or erased meanwhile. What is on this page is kept; try again."
    )
    if wants_json(request):
        return JsonResponse({"error": {"code": "gone_meanwhile", "message": words}}, status=503)
    return _page(409)


def database_down(request) -> HttpResponse:
    """503 in the form the caller reads; says that the page keeps what it has."""
    words = _("The database cannot be reached. What is on this page is kept; try again soon.")
    answer: HttpResponse
    if wants_json(request):
        answer = JsonResponse({"error": {"code": "database_down", "message": words}}, status=503)
    else:
        answer = _page(503)
    answer["Retry-After"] = "5"
    return answer


@require_GET
def words(request):
    """What scripts say, in the language asked for: a page asks for its own."""
    with speaking(request.GET.get("language", "")):
        answer = JavaScriptCatalog.as_view()(request)
    answer["Cache-Control"] = "no-cache"
    return answer


@require_GET
def service_worker(request):
    """Served from the root so that it may keep the client's shell."""
    answer = HttpResponse(_WORKER.read_text(encoding="utf-8"), content_type="text/javascript")
    answer["Cache-Control"] = "no-cache"
    return answer
