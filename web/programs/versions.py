"""Versions of a program: who made which when and why, two of them compared, an older one laid on the Bench."""

from dataclasses import dataclass, replace

from django.contrib import messages
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _
from django.views.decorators.http import require_GET, require_POST

from core.program.difference import ProgramDifference, differences
from web.clients.intake.intake_file import IntakeFile
from web.clients.scope import client_of
from web.clinic import clock
from web.clinic.records import Unreadable
from web.design.speaking import in_their_words
from web.programs.hold_drawing import program_bed
from web.programs.models import ProgramVersion
from web.programs.usecases import drafts


@dataclass(frozen=True)
class VersionComparison:
    """Two versions side by side; lines: what is other in the later one, by where it is; beds: their holds."""

    before: ProgramVersion
    after: ProgramVersion
    lines: list[tuple[str, list[ProgramDifference]]]
    beds: list[SafeString]


@require_GET
def versions(request, client_id):
    """All versions, newest first, and the two that are asked for (else the last two) compared."""
    client = client_of(request, client_id)
    rows = list(
        ProgramVersion.objects.filter(client=client)
        .select_related("activated_by")
        .order_by("-number")
    )
    chosen = _chosen(rows, request.GET.get("before", ""), request.GET.get("after", ""))
    context = {"client": client, "rows": rows, "here": "bench", "chosen": chosen}
    if chosen:
        try:
            context["compared"] = _compared(*chosen)
        except Unreadable as bad:
            context["unreadable"] = bad.words
    return render(request, "programs/versions.html", context)


@require_POST
def restore(request, client_id, version_id):
    """An older version as the draft. It is judged by today's range, and goes through today's gate like any other."""
    client = client_of(request, client_id)
    version = get_object_or_404(ProgramVersion.objects.filter(client=client), pk=version_id)
    program, latest = version.program, IntakeFile.now(client).baseline
    if latest is not None and latest.baseline.comfort is not None:
        program = replace(program, comfort=latest.baseline.comfort)
    drafts.replace_draft(client, program, by=request.user, now=clock.now())
    words = _(
        "Version %(number)s is now the draft on the Bench. Review it, then activate it; the safety check is made again."
    )
    messages.success(request, words % {"number": version.number})
    return redirect("programs:bench", client.pk)


def _chosen(
    rows: list[ProgramVersion], before: str, after: str
) -> tuple[ProgramVersion, ProgramVersion] | None:
    """The earlier and the later of the two asked for; the last two where those are not known."""
    numbers = {str(row.number): row for row in rows}
    if before in numbers and after in numbers and before != after:
        pair = sorted((numbers[before], numbers[after]), key=lambda row: row.number)
        return pair[0], pair[1]
    return (rows[1], rows[0]) if len(rows) > 1 else None


def _compared(before: ProgramVersion, after: ProgramVersion) -> VersionComparison:
    lines: dict[str, list[ProgramDifference]] = {}
    for one in differences(before.program, after.program):
        lines.setdefault(in_their_words(one.where) or _("The whole program"), []).append(one)
    label = _("Holds of version %(number)s")
    beds = [
        program_bed(row.program, label=label % {"number": row.number}) for row in (before, after)
    ]
    return VersionComparison(
        before, after, list(lines.items()), [bed for bed in beds if bed is not None]
    )
