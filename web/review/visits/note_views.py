"""The visit note: saved while it is typed, signed, added to. A page asks in a form, a script in JSON."""

from dataclasses import dataclass

from django.contrib import messages
from django.http import HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect
from django.utils import timezone
from django.utils.translation import gettext as _
from django.views.decorators.http import require_POST

from web.clients.models import Client
from web.clients.scope import client_of
from web.clinic import clock
from web.clinic.refusal import UsecaseRefused
from web.design.answers import wants_json
from web.design.dates import clock_time
from web.review.models import SignedNote
from web.review.usecases import save_note
from web.review.usecases.save_note import EntriesMissing, StaleNote
from web.review.visits.note import NoteEntry, as_text, not_in_note
from web.review.visits.page import UnsavedNote, entries_now, visit_page

ALL = "all"


@dataclass(frozen=True, slots=True)
class Sent:
    """A note as it was sent, with the entries it asked to add or to leave out.

    settled: keys, among what is recorded, that the text took up or leaves out.
    """

    text: str
    revision: int
    settled: list[str]
    signs: bool

    @classmethod
    def of(cls, request, entries: list[NoteEntry]) -> "Sent":
        asked = request.POST
        text, settled = asked.get("text", ""), {*asked.getlist("settled"), *asked.getlist("leave")}
        open_now = not_in_note(entries, text, settled)
        added = [one for one in open_now if asked.get("add") in (one.key, ALL)]
        if added:
            text = "\n".join(filter(None, [text.rstrip(), as_text(added)]))
        settled |= {one.key for one in added}
        revision = asked.get("revision", "")
        return cls(
            text=text,
            revision=int(revision) if revision.isascii() and revision.isdecimal() else -1,
            settled=[one.key for one in entries if one.key in settled],
            signs=asked.get("act") == "sign" and not added,
        )


@require_POST
def note(request, client_id) -> HttpResponse:
    """Save the note as far as it is written, or sign it."""
    client = client_of(request, client_id)
    sent = Sent.of(request, entries_now(client))
    try:
        if sent.signs:
            _sign(request, client, sent)
            words = _("Note signed.")
        else:
            revision, saved_at = _save(request, client, sent)
            words = _("Note saved %(time)s. It is not signed yet.") % {"time": saved_at}
            if wants_json(request):
                return JsonResponse({"revision": revision, "saved_at": saved_at})
    except UsecaseRefused as refused:
        return _refused(request, client, sent, refused.words)
    except StaleNote as stale:
        return _stale(request, client, sent, stale)
    except EntriesMissing:
        words = _("Not signed yet: something recorded is not in the note.")
        return _refused(request, client, sent, words)
    messages.success(request, words)
    return redirect("review:in_visit", client.pk)


def _save(request, client: Client, sent: Sent) -> tuple[int, str]:
    """The revision that is saved now, and the clinic's time of it."""
    now = clock.now()
    row = save_note.save_note(
        client,
        text=sent.text,
        revision=sent.revision,
        settled=sent.settled,
        by=request.user,
        now=now,
    )
    return row.revision, clock_time(timezone.localtime(now))


def _sign(request, client: Client, sent: Sent) -> None:
    save_note.sign_note(
        client,
        text=sent.text,
        revision=sent.revision,
        settled=sent.settled,
        entries=lambda: entries_now(client),
        by=request.user,
        now=clock.now(),
    )


def _refused(request, client: Client, sent: Sent, words: str) -> HttpResponse:
    if wants_json(request):
        return JsonResponse({"error": {"code": "refused", "message": words}}, status=422)
    unsaved = UnsavedNote(text=sent.text, settled=sent.settled)
    return visit_page(request, client, wrong=words, unsaved=unsaved, status=422)


def _stale(request, client: Client, sent: Sent, stale: StaleNote) -> HttpResponse:
    """Both texts, the own one first; what is sent from here replaces what is saved."""
    current = stale.current
    words = _(
        "%(name)s changed this note at %(time)s. That text is below yours: join the two, then save."
    ) % {
        "name": current.changed_by.name,
        "time": clock_time(timezone.localtime(current.changed_at)),
    }
    if not current.text:
        words = _("This note was signed in the meantime. What you typed is not saved yet.")
    if wants_json(request):
        error = {
            "code": "stale",
            "message": words,
            "theirs": current.text,
            "revision": current.revision,
        }
        return JsonResponse({"error": error}, status=409)
    both = "\n\n".join(filter(None, [sent.text.strip(), current.text]))
    settled = sorted({*sent.settled, *current.entries})
    unsaved = UnsavedNote(text=both, settled=settled)
    return visit_page(request, client, wrong=words, unsaved=unsaved, status=409)


@require_POST
def addendum(request, client_id, note_id) -> HttpResponse:
    client = client_of(request, client_id)
    signed = get_object_or_404(SignedNote.objects.filter(client=client), pk=note_id)
    text = request.POST.get("text", "")
    try:
        save_note.add_to_note(signed, text=text, by=request.user, now=clock.now())
    except UsecaseRefused as refused:
        typed = {"addendum": text, "note_id": signed.pk}
        return visit_page(request, client, wrong=refused.words, typed=typed, status=422)
    messages.success(request, _("Addendum saved."))
    return redirect("review:in_visit", client.pk)
