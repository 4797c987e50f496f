"""Remarks on home sessions and attempts, as forms of their pages."""

from django.contrib import messages
from django.shortcuts import get_object_or_404, redirect
from django.utils.translation import gettext_lazy
from django.views.decorators.http import require_POST

from web.clinic import clock
from web.clinic.refusal import UsecaseRefused
from web.practice.models import Attempt, HomeSession, RemarkKind
from web.practice.usecases.remark import remark
from web.review.results.views import session_page
from web.review.views import attempt_page_of

_SAID = {
    RemarkKind.NOTE: gettext_lazy("Kept."),
    RemarkKind.LEAVE_OUT: gettext_lazy(
        "Left out of figures, trends and climbs; what was kept stays."
    ),
    RemarkKind.COUNT_AGAIN: gettext_lazy("Counts again."),
}


@require_POST
def on_session(request, client_id, session_id):
    rows = HomeSession.objects.for_clinic(request.clinic).select_related(
        "client__clinic", "version"
    )
    session = get_object_or_404(rows, pk=session_id, client_id=client_id)
    try:
        _keep(request, session, None)
    except UsecaseRefused as refused:
        return session_page(request, session, remark_wrong=refused.words, status=422)
    return redirect("review:home_session", client_id, session_id)


@require_POST
def on_attempt(request, client_id, attempt_id):
    rows = Attempt.objects.for_clinic(request.clinic).select_related(
        "client__clinician", "home_session", "version", "measurement__contour"
    )
    held = get_object_or_404(rows, pk=attempt_id, client_id=client_id)
    try:
        _keep(request, held.home_session, held)
    except UsecaseRefused as refused:
        return attempt_page_of(request, held, remark_wrong=refused.words, status=422)
    return redirect("review:attempt", client_id, attempt_id)


def _keep(request, session: HomeSession, attempt: Attempt | None) -> None:
    kind = request.POST.get("kind", "")
    remark(
        session,
        attempt,
        kind=kind,
        words=request.POST.get("words", ""),
        by=request.user,
        now=clock.now(),
    )
    messages.success(request, str(_SAID[RemarkKind(kind)]))
