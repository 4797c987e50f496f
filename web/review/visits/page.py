"""The page of a visit, from the record; what was typed and could not be saved stays on it."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from django.http import HttpResponse
from django.shortcuts import get_object_or_404, render

from core.catalogue.doing import ADVICE
from core.program.program import Program
from core.safety.circumstances import lines_for_clinician
from web.clients.home.phrases import count_words, own_phrases, own_places
from web.clients.models import Client
from web.programs.models import Went
from web.programs.task_trial import trying_data
from web.review import queries
from web.review.caseload.row import RowFile
from web.review.models import CaseloadRow, CueLevel, OpenNote, Response, SignedNote, Taught
from web.review.results.since_first import since_first
from web.review.visits.care import latest_visit
from web.review.visits.note import NoteEntry, as_text, entries_of, not_in_note, taught_words

SIGNED_SHOWN = 6


@dataclass(frozen=True, slots=True, kw_only=True)
class UnsavedNote:
    """What was typed into the note and could not be saved or signed; settled: keys of the entries that it
    took up or leaves out."""

    text: str
    settled: Sequence[str] = ()


def visit_page(
    request,
    client: Client,
    *,
    wrong: str = "",
    typed: Mapping[str, Any] | None = None,
    unsaved: UnsavedNote | None = None,
    status: int = 200,
) -> HttpResponse:
    """wrong: what to say first; typed: a form other than the note that was refused."""
    row = get_object_or_404(CaseloadRow.objects.for_clinic(request.clinic), client=client)
    row.client = client
    file = RowFile.of(row)
    draft, tasks = file.draft, file.tasks
    program = draft.program if draft else file.program
    taught = {row.step_id: row for row in Taught.objects.filter(client=client).order_by("at")}
    context = {
        "client": client,
        "here": "client",
        "page": queries.client_page(file),
        "row": row,
        "visits": latest_visit(file),
        "phrases": count_words(own_phrases(client.pk)),
        "places": own_places(client.pk),
        "living": lines_for_clinician(file.living, today=file.today, steps=0),
        "baseline": file.baseline,
        "since_first": since_first(file),
        "tasks": [task for task in tasks.values() if task.kind != ADVICE],
        "went": Went.choices,
        "trying": trying_data(request, file),
        "tried": [
            (tasks[key].name if key in tasks else key, one) for key, one in file.tried.items()
        ],
        **_program(program, tasks),
        "levels": CueLevel.choices,
        "responses": Response.choices,
        "taught": [(one, taught_words(one)) for one in reversed(taught.values())],
        "has_draft": draft is not None,
        **_note(client, entries_of(file), unsaved),
        "signed": SignedNote.objects.filter(client=client)
        .select_related("by")
        .prefetch_related("addenda__by")
        .order_by("-at")[:SIGNED_SHOWN],
        "wrong": wrong,
        "typed": typed or {},
        "today": file.today,
    }
    return render(request, "review/in_visit.html", context, status=status)


def entries_now(client: Client) -> list[NoteEntry]:
    """What is recorded that belongs in the next note of this client, as it stands now."""
    row = CaseloadRow.objects.get(client=client)
    row.client = client
    return entries_of(RowFile.of(row))


def _program(program: Program | None, catalogue) -> dict[str, Any]:
    """The steps that can be taught, with the cues of their tasks."""
    if program is None:
        return {"asked": (), "steps": (), "cues": {}}
    tasks = {step.step_id: catalogue.get(step.task) for step in program.steps}
    return {
        "asked": program.asked,
        "steps": program.steps,
        "cues": {
            step_id: [fault.cue for fault in task.faults] if task else []
            for step_id, task in tasks.items()
        },
    }


def _note(client: Client, entries: list[NoteEntry], unsaved: UnsavedNote | None) -> dict[str, Any]:
    """The text as it was typed, else as it is saved, else the first draft from the entries."""
    saved = OpenNote.objects.filter(client=client).select_related("changed_by").first()
    begun = saved if saved and saved.text else None
    if unsaved is not None:
        text, settled = unsaved.text, list(unsaved.settled)
    elif begun is not None:
        text, settled = begun.text, begun.entries
    else:
        text, settled = as_text(entries), [one.key for one in entries]
    return {
        "note": text,
        "settled": settled,
        "from_record": unsaved is None and begun is None,
        "begun": begun,
        "revision": saved.revision if saved else 0,
        "not_in_note": not_in_note(entries, text, settled),
    }
