"""Error pages that need no database, and the service worker at the root."""

from pathlib import Path

from django.http import HttpResponse
from django.template.loader import render_to_string
from django.views.decorators.http import require_GET

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
    return _page(500)


@require_GET
def service_worker(request):
    """Served from the root so that it may keep the client's shell."""
    answer = HttpResponse(_WORKER.read_text(encoding="utf-8"), content_type="text/javascript")
    answer["Cache-Control"] = "no-cache"
    return answer
