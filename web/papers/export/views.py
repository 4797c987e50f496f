"""Files for musicians and hospitals: MIDI and MusicXML of a step, out and in; results and program as FHIR."""

from django.contrib import messages
from django.http import Http404, HttpResponse, JsonResponse
from django.shortcuts import redirect
from django.utils.translation import gettext as _
from django.utils.translation import gettext_noop
from django.views.decorators.http import require_GET, require_POST

from core.errors import CoreError, PlanError
from core.formats.fhir_bundle import TYPE as FHIR
from core.formats.music import midi_file, music_xml
from core.formats.music.line import MOST_BYTES, MusicLine, MusicRefused
from core.formats.music.sung import can_be_music, line_of
from web.clients.scope import client_of
from web.clinic import clock
from web.clinic.refusal import UsecaseRefused
from web.clinic.words import core_words
from web.papers.export.fhir import bundle_for
from web.papers.usecases.import_music import import_music
from web.programs.client_file import ClientFile
from web.programs.usecases import drafts
from web.review.results.season import window_of

_WAYS = {
    "mid": (midi_file.to_midi, midi_file.TYPE),
    "musicxml": (music_xml.to_music_xml, music_xml.TYPE),
}


@require_GET
def music(request, client_id, step_id, kind):
    """A pattern or a set of held notes of the program on the Bench, else of the one in force."""
    file = ClientFile.now(client_of(request, client_id))
    program = file.draft.program if file.draft else file.program
    try:
        step = program.step(str(step_id)) if program else None
    except PlanError as error:
        raise Http404 from error
    if step is None or not can_be_music(step):
        raise Http404
    write, content_type = _WAYS[kind]
    request.noted_as = gettext_noop("exported")
    answer = HttpResponse(write(line_of(step)), content_type=content_type)
    answer["Content-Disposition"] = f'attachment; filename="{step.task}.{kind}"'
    return answer


@require_POST
def take_music(request, client_id, step_id):
    """A file becomes what a step of the draft asks for, or is refused in words; undo on the Bench takes it back."""
    client = client_of(request, client_id)
    sent = request.FILES.get("file")
    try:
        line = _read(sent.read(MOST_BYTES + 1) if sent else b"")
        import_music(client, str(step_id), line, by=request.user, now=clock.now())
    except (MusicRefused, UsecaseRefused, CoreError, drafts.StaleDraft) as error:
        messages.error(request, _("Not taken in: %(why)s") % {"why": _why(error)})
        return redirect("papers:papers", client.pk)
    messages.success(request, _("Taken in. Look at it on the Bench before it is activated."))
    return redirect("programs:bench", client.pk)


@require_GET
def hospital(request, client_id):
    """The program in force and the results of some weeks as a FHIR bundle."""
    client = client_of(request, client_id)
    now = clock.now()
    first, last = window_of(request.GET, clock.local_date(now, client.time_zone))
    request.noted_as = gettext_noop("exported")
    answer = JsonResponse(
        bundle_for(client, first=first, last=last, now=now),
        json_dumps_params={"ensure_ascii": False, "indent": 1},
        content_type=FHIR,
    )
    answer["Content-Disposition"] = f'attachment; filename="voice-program-{client.pk}.fhir.json"'
    return answer


def _why(error: Exception) -> str:
    if isinstance(error, MusicRefused):
        return f"{error.why}."
    if isinstance(error, UsecaseRefused):
        return error.words
    return core_words(error) if isinstance(error, CoreError) else _("The draft has changed.")


def _read(data: bytes) -> MusicLine:
    """A file by what it is, whatever it is called."""
    if data[:4] == b"MThd":
        return midi_file.from_midi(data)
    return music_xml.from_music_xml(data)
