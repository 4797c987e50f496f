"""A form sent by somebody whose sign-in had ended: held until the same person has signed in again.

The form lies in the session of the browser that sent it. A signed cookie says who worked in this browser last, and
nobody else is shown the form. It is never sent by itself: its sender reads it again and presses.
"""

import re
from dataclasses import asdict, dataclass
from datetime import datetime, timedelta
from urllib.parse import urlsplit
from uuid import uuid4

from django.conf import settings
from django.contrib import messages
from django.contrib.auth.views import redirect_to_login
from django.http import HttpResponse, JsonResponse, QueryDict
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils.translation import gettext as _
from django.views.decorators.http import require_http_methods

from web.clinic import clock
from web.design.answers import wants_json
from web.design.views import forbidden

HELD_FOR = timedelta(hours=1)
MOST_BYTES = 64 * 1024
"""Room for every form that is typed (a note has 8,000 characters)."""
COOKIE, COOKIE_DAYS = "last-signed-in", 7
TOKEN = "held_form"
_SESSION_KEY = "held_form"
_SECRET = ("password", "code")
"""A form with a field named like these is not held."""
_FOR_PROGRAMS = frozenset({"act", "after", "key", "revision", "settled", "shown"})
_ID = re.compile(r"[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}")


@dataclass(frozen=True, slots=True)
class HeldForm:
    """A form that was sent by somebody who was signed out.

    path: where it was sent; fields: URL-encoded; user: ID of the sender; at: when it was sent (ISO 8601).
    """

    token: str
    path: str
    fields: str
    user: str
    at: str

    @property
    def pairs(self) -> list[tuple[str, str]]:
        lists = QueryDict(self.fields).lists()
        return [(name, str(value)) for name, values in lists for value in values]

    @property
    def typed(self) -> list[tuple[str, str]]:
        """Return field names and what was typed or chosen, without values that mean nothing to a reader."""
        return [
            (name.replace("_", " "), value)
            for name, value in self.pairs
            if value.strip() and name not in _FOR_PROGRAMS and not _ID.fullmatch(value)
        ]


def hold(request) -> bool:
    """Hold the form of a request. Return False if it cannot be held: there is no form, the browser is unknown, the
    form is too large, or it has files or a password."""
    user = request.get_signed_cookie(COOKIE, default="", salt=COOKIE)
    if request.method != "POST" or not user or request.FILES:
        return False
    fields = request.POST.copy()
    for own in ("csrfmiddlewaretoken", TOKEN):
        fields.pop(own, None)
    text = fields.urlencode()
    if len(text) > MOST_BYTES or any(part in name for name in fields for part in _SECRET):
        return False
    held = HeldForm(str(uuid4()), request.path, text, user, clock.now().isoformat())
    request.session[_SESSION_KEY] = asdict(held)
    return True


def held_of(request) -> HeldForm | None:
    """Return the form held for the signed-in user, or None; one that is too old or of another user is dropped."""
    kept = request.session.get(_SESSION_KEY)
    if not kept:
        return None
    held = HeldForm(**kept)
    late = clock.now() - datetime.fromisoformat(held.at) > HELD_FOR
    if late or str(request.user.pk) != held.user:
        del request.session[_SESSION_KEY]
        return None
    return held


def signed_out(request) -> HttpResponse:
    """Answer a request from somebody who is not signed in: tell a script, hold a form, or ask to sign in first."""
    if wants_json(request):
        words = _(
            "You are signed out. Sign in again in another tab; this page keeps what you typed."
        )
        return JsonResponse({"error": {"code": "signed_out", "message": words}}, status=401)
    if hold(request):
        return redirect_to_login(reverse("clinic:held_form"))
    if request.method in ("GET", "HEAD"):
        return redirect_to_login(request.get_full_path())
    return redirect_to_login(_page_before(request))


def _page_before(request) -> str:
    """The page a form was on, so that signing in does not end at an address that only takes forms."""
    before = urlsplit(request.headers.get("Referer", ""))
    return before.path if before.netloc == request.get_host() else "/"


def csrf_failure(request, reason="") -> HttpResponse:
    """A page that was opened before its reader signed in again has an old token. What was typed is held and shown
    to them; a form from elsewhere is refused."""
    own = request.headers.get("Origin") in settings.CSRF_TRUSTED_ORIGINS
    if own and not wants_json(request) and hold(request):
        return redirect("clinic:held_form")
    return forbidden(request)


@require_http_methods(["GET", "POST"])
def held_form(request) -> HttpResponse:
    """Show what was typed, to be saved now or discarded."""
    request.noted_as = ""
    held = held_of(request)
    if request.method == "POST":
        request.session.pop(_SESSION_KEY, None)
        messages.success(request, _("The form was discarded."))
        return redirect("/")
    if held is None:
        return redirect("/")
    return render(request, "clinic/held_form.html", {"held": held, "token": TOKEN})


class HeldForms:
    """Remember who uses this browser, and drop a held form once it has been saved."""

    def __init__(self, get_response):
        self.get_response = get_response

    def __call__(self, request):
        answer = self.get_response(request)
        if request.membership is None:
            return answer
        user = str(request.user.pk)
        if request.get_signed_cookie(COOKIE, default="", salt=COOKIE) != user:
            answer.set_signed_cookie(
                COOKIE,
                user,
                salt=COOKIE,
                max_age=timedelta(days=COOKIE_DAYS),
                httponly=True,
                secure=settings.SESSION_COOKIE_SECURE,
                samesite="Lax",
            )
        sent_again = request.method == "POST" and request.POST.get(TOKEN)
        held = held_of(request) if sent_again and answer.status_code < 400 else None
        if held and held.token == sent_again:
            del request.session[_SESSION_KEY]
        return answer
