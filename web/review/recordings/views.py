"""Judging by ear: the consent in the visit, what may be heard, and the sound itself."""

from django.contrib import messages
from django.core.exceptions import PermissionDenied
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.translation import gettext as _
from django.utils.translation import gettext_noop, ngettext
from django.views.decorators.http import require_GET, require_http_methods

from web.clients.models import Client
from web.clinic import clock
from web.clinic.refusal import UsecaseRefused
from web.design.speaking import speaking
from web.practice.recordings.consent import (
    consent_of,
    consent_words,
    days_left,
    is_minor,
    may_listen,
    saved_sounds,
)
from web.practice.usecases.recordings import agree_to_be_heard, take_back_being_heard
from web.review.results.sessions import step_names


@require_http_methods(["GET", "POST"])
def hearing(request, client_id):
    """The consent of a client and the sounds it allows; POST: said in the visit."""
    rows = Client.objects.for_clinic(request.clinic).select_related("clinician")
    person = get_object_or_404(rows, pk=client_id)
    if request.method == "GET":
        return _page(request, person)
    try:
        _say(request, person)
    except UsecaseRefused as refused:
        return _page(request, person, wrong=refused.words, status=422)
    return redirect("review:hearing", person.pk)


def _say(request, person: Client) -> None:
    said, now = request.POST, clock.now()
    if said.get("say") == "take_back":
        gone = take_back_being_heard(person, by=request.user, now=now)
        erased = ngettext("%(n)s sound was erased.", "%(n)s sounds were erased.", gone)
        messages.success(request, _("No longer heard.") + " " + erased % {"n": gone})
    elif said.get("say") == "agree" and said.get("understood") == "on":
        agree_to_be_heard(person, by=request.user, guardian=said.get("guardian") == "on", now=now)
        messages.success(request, _("The consent is kept. The next good try of each step is kept."))
    else:
        raise UsecaseRefused(_("Read it with the client and tick that they agree."))


def _page(request, person: Client, *, wrong: str = "", status: int = 200):
    now = clock.now()
    with speaking(person.language):
        words = consent_words(person)
    sounds = saved_sounds(person, now).select_related("attempt__version")
    context = {
        "client": person,
        "consent": consent_of(person, now),
        "words": words,
        "minor": is_minor(person, now),
        "listens": may_listen(request.user, person),
        "lines": [
            {
                "attempt": sound.attempt,
                "step": step_names(sound.attempt.version.program).get(
                    str(sound.step_id), _("a step no longer there")
                ),
                "days_left": days_left(sound, now),
            }
            for sound in sounds
        ],
        "wrong": wrong,
        "here": "client",
    }
    return render(request, "review/hearing.html", context, status=status)


@require_GET
def sound(request, client_id, attempt_id):
    """The sound of an attempt as FLAC, for the treating clinician alone; each time is noted."""
    person = get_object_or_404(Client.objects.for_clinic(request.clinic), pk=client_id)
    now = clock.now()
    kept = get_object_or_404(saved_sounds(person, now), attempt_id=attempt_id)
    if not may_listen(request.user, person):
        raise PermissionDenied
    request.noted_as = gettext_noop("heard")
    answer = HttpResponse(bytes(kept.flac), content_type="audio/flac")
    answer["Cache-Control"] = "no-store"
    answer["Content-Disposition"] = "inline"
    return answer
