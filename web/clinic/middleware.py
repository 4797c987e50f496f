"""Sign-in, clinic scope and a database that is away."""

from asgiref.sync import iscoroutinefunction, markcoroutinefunction
from django.conf import settings
from django.contrib.auth.views import redirect_to_login
from django.db import InterfaceError, OperationalError
from django.http import HttpResponse, JsonResponse
from django.shortcuts import render
from django.template.loader import render_to_string
from django.utils.translation import gettext as _


class DatabaseDown:
    """Answers 503 in words, without the database, when it cannot be reached."""

    sync_capable = True
    async_capable = True

    def __init__(self, get_response):
        self.get_response = get_response
        if iscoroutinefunction(get_response):
            markcoroutinefunction(self)

    def __call__(self, request):
        if iscoroutinefunction(self):
            return self._later(request)
        try:
            return self.get_response(request)
        except (OperationalError, InterfaceError):
            return database_down(request)

    async def _later(self, request):
        try:
            return await self.get_response(request)
        except (OperationalError, InterfaceError):
            return database_down(request)

    def process_exception(self, request, exception):
        if isinstance(exception, OperationalError | InterfaceError):
            return database_down(request)
        return None


def database_down(request) -> HttpResponse:
    """503 in the form the caller reads."""
    words = _("The database cannot be reached. What is on this page is kept; try again soon.")
    answer: HttpResponse
    if request.method == "PUT" or "application/json" in request.headers.get("Accept", ""):
        answer = JsonResponse({"error": {"code": "database_down", "message": words}}, status=503)
    else:
        answer = HttpResponse(render_to_string("503.html"), status=503)
    answer["Retry-After"] = "5"
    return answer


class ClinicScope:
    """Every view needs a signed-in member of a clinic unless its name is in a list of
    web/config/access.py; lead views need the lead. Sets request.clinic and request.membership."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        request.clinic = request.membership = None
        return self.get_response(request)

    def process_view(self, request, view, args, kwargs):
        name = request.resolver_match.view_name
        if name in settings.CLIENT_VIEWS or name in settings.TICKET_VIEWS:
            return None
        if request.user.is_authenticated:
            membership = getattr(request.user, "membership", None)
            if membership is not None and membership.active:
                request.membership, request.clinic = membership, membership.clinic
        if name in settings.PUBLIC_VIEWS:
            return None
        if not request.user.is_authenticated:
            return redirect_to_login(request.get_full_path())
        if request.membership is None:
            return render(request, "403.html", status=403)
        if name in settings.LEAD_VIEWS and not request.membership.is_lead:
            return render(request, "403.html", status=403)
        return None
