"""Results: the Season, its table, CSV, one home session or two side by side."""

import uuid

from django.http import HttpResponse
from django.shortcuts import get_object_or_404, render
from django.utils.translation import gettext_noop
from django.views.decorators.http import require_GET

from web.clients.models import Client
from web.clinic import clock
from web.practice.models import HomeSession
from web.practice.sessions.remarks import counts, remarks_on
from web.review.caseload.row import RowFile
from web.review.models import CaseloadRow
from web.review.results.season import WEEKS, Results, as_csv, window_of
from web.review.results.season import results as results_of
from web.review.results.sessions import one_session


def _results(request, client_id) -> tuple[Client, Results]:
    rows = CaseloadRow.objects.for_clinic(request.clinic).select_related("client__clinic")
    row = get_object_or_404(rows, client_id=client_id)
    person, now = row.client, clock.now()
    today = clock.local_date(now, person.time_zone)
    first, last = window_of(request.GET, today)
    file = RowFile(row, today, since=first, until=last)
    return person, results_of(file, first=first, last=last)


@require_GET
def results(request, client_id):
    person, page = _results(request, client_id)
    weeks = ((page.last - page.first).days + 1) // 7
    context = {
        "client": person,
        "page": page,
        "weeks": weeks,
        "choices": WEEKS,
        "before": page.first,
        "here": "results",
    }
    return render(request, "review/results.html", context)


@require_GET
def results_table(request, client_id):
    person, page = _results(request, client_id)
    request.noted_as = gettext_noop("exported")
    answer = HttpResponse(as_csv(page), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="results-{person.pk}.csv"'
    return answer


@require_GET
def home_session(request, client_id, session_id):
    """One home session; `beside`: another next to it."""
    rows = HomeSession.objects.for_clinic(request.clinic).filter(client_id=client_id)
    rows = rows.select_related("client__clinic", "version")
    session = get_object_or_404(rows, pk=session_id)
    return session_page(request, session)


def session_page(request, session: HomeSession, *, remark_wrong: str = "", status: int = 200):
    """The page of a home session, beside another where one is asked for."""
    rows = HomeSession.objects.for_clinic(request.clinic).filter(client_id=session.client_id)
    rows = rows.select_related("client__clinic", "version")
    other = _beside(rows, request.GET.get("beside", ""))
    shown = [one_session(session.client, one) for one in (session, other) if one is not None]
    near = rows.exclude(pk=session.pk).filter(routine=session.routine, attempts__isnull=False)
    context = {
        "client": session.client,
        "shown": shown,
        "session": session,
        "other": other,
        "near": near.distinct().order_by("-started_at")[:60],
        "remarks": (remarks := remarks_on(session)),
        "counting": counts(remarks),
        "remark_wrong": remark_wrong,
        "typed": request.POST,
        "here": "results",
    }
    return render(request, "review/home_session.html", context, status=status)


def _beside(rows, asked: str) -> HomeSession | None:
    """The home session of that id; None where there is none."""
    try:
        return rows.filter(pk=uuid.UUID(asked)).first()
    except ValueError:
        return None
