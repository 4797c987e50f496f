"""Being heard, on the client's own page."""

from django.contrib import messages
from django.shortcuts import redirect, render
from django.utils.translation import gettext as _
from django.views.decorators.http import require_http_methods

from web.clients.intake.intake_file import IntakeFile
from web.clients.models import ClientAccess
from web.clinic import clock
from web.clinic.refusal import UsecaseRefused
from web.practice.access.auth import client_required, page_context
from web.practice.recordings.consent import consent_of, consent_words, is_minor, saved_sounds
from web.practice.usecases.recordings import agree_to_be_heard, take_back_being_heard


@require_http_methods(["GET", "POST"])
@client_required
def hearing(request, access: ClientAccess):
    """What being heard means; the client says yes, or no longer."""
    client, now, wrong = access.client, clock.now(), ""
    if request.method == "POST":
        try:
            if request.POST.get("say") == "agree":
                agree_to_be_heard(client, by=None, now=now)
                messages.success(request, _("Your yes is kept."))
            else:
                take_back_being_heard(client, by=None, now=now)
                messages.success(request, _("No longer heard. Every sound is erased."))
            return redirect("practice:hearing", access.pk)
        except UsecaseRefused as refused:
            wrong = refused.words
    context = page_context(access, IntakeFile.now(client)) | {
        "consent": consent_of(client, now),
        "sounds": saved_sounds(client, now).count(),
        "words": consent_words(client),
        "minor": is_minor(client, now),
        "wrong": wrong,
    }
    return render(request, "practice/hearing.html", context, status=422 if wrong else 200)
