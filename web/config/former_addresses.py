"""Redirects from the addresses of former releases: bookmarks, printed codes and pages that are still open."""

import re

from django.http import HttpRequest, HttpResponse, HttpResponsePermanentRedirect
from django.utils.deprecation import MiddlewareMixin

_ID = r"[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}"
MOVED = tuple(
    (re.compile(rf"^/({part}/{_ID})/{before}/"), rf"/\1/{now}/")
    for part, before, now in (
        ("clients", "bench", "program"),
        ("clients", "sheet", "paper-log"),
        ("clients", "papers", "print"),
        ("c", "reeds", "progress"),
        ("c", "heard", "recordings"),
    )
)


class FormerAddresses(MiddlewareMixin):
    """Redirect old addresses permanently. Status 308 keeps query, method and body, so no form is lost."""

    def process_request(self, request: HttpRequest) -> HttpResponse | None:
        for former, pattern in MOVED:
            moved, found = former.subn(pattern, request.path_info)
            if found:
                query = request.META.get("QUERY_STRING", "")
                now = f"{moved}?{query}" if query else moved
                return HttpResponsePermanentRedirect(now, preserve_request=True)
        return None
