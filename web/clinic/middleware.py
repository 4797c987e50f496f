"""Sign-in and clinic scope."""

import zoneinfo

from django.conf import settings
from django.shortcuts import render
from django.utils import timezone, translation

from web.clinic.held_forms import signed_out
from web.design.speaking import speaking, spoken


class NeverStored:
    """No page, answer or file of anybody is stored on the way or in the browser's history; what is the same for
    all (scripts, styles, words) says so itself."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        answer = self.get_response(request)
        answer.setdefault("Cache-Control", "no-store")
        return answer


class ClinicScope:
    """Every view needs a signed-in member of a clinic unless its name is in a list of
    web/config/access.py; lead views need the lead. Sets request.clinic and request.membership.
    Times are shown in the clinic's zone, those of a client's record in the client's (templates);
    the clinic's pages speak its language, a client's the client's own (`client_required`, tickets)."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        request.clinic = request.membership = None
        with (
            timezone.override(timezone.get_default_timezone()),
            speaking(settings.LANGUAGE_CODE),
        ):
            return self.get_response(request)

    def process_view(self, request, view, args, kwargs):
        name = request.resolver_match.view_name
        if name in settings.CLIENT_VIEWS or name in settings.TICKET_VIEWS:
            return None
        if request.user.is_authenticated:
            membership = getattr(request.user, "membership", None)
            if membership is not None and membership.active:
                request.membership, request.clinic = membership, membership.clinic
                timezone.activate(zoneinfo.ZoneInfo(membership.clinic.time_zone))
                translation.activate(spoken(membership.clinic.language))
        if name in settings.PUBLIC_VIEWS:
            return None
        if not request.user.is_authenticated:
            return signed_out(request)
        if request.membership is None:
            return render(request, "403.html", status=403)
        if name in settings.LEAD_VIEWS and not request.membership.is_lead:
            return render(request, "403.html", status=403)
        return None
