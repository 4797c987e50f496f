"""The handout: what the client takes home on paper, in ordinary and in large type."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any

import segno
from django.conf import settings
from django.urls import reverse
from django.utils.safestring import SafeString, mark_safe
from django.utils.translation import gettext as _

from core.dose.taper import on_day
from core.safety.circumstances import lines_for_client
from web.clients.home.note import note_home
from web.clients.models import Client, ClientAccess
from web.clinic.clock import local_date
from web.clinic.models import User
from web.clinic.refusal import UsecaseRefused
from web.design.speaking import in_their_words, speaking
from web.papers.models import Issued, IssuedKind
from web.papers.print.editions import digest_of, words_printed
from web.papers.print.pdf import fitting, html_of, pdf_of
from web.papers.print.steps import routine_on_paper
from web.papers.usecases.issue import issue
from web.practice.today.circumstance_lines import own_lines
from web.practice.today.on_hold import resting_words
from web.practice.today.practicable import practicable
from web.programs.client_file import ClientFile

TEMPLATE = "papers/handout.html"
MOST_PAGES = 3
SIZES = {"ordinary": (11.5, 11.0, 10.5, 10.0, 9.5), "large": (18.0, 17.0, 16.0, 15.0, 14.0)}
"""Points of the type, the first that fits on three pages; large print begins at 14 points."""


@dataclass(frozen=True)
class Handout:
    """A handout ready to be given out: its edition and the PDF."""

    issued: Issued
    pdf: bytes


def handout_context(file: ClientFile) -> dict[str, Any]:
    """What a handout of the version in force prints, its edition aside. UsecaseRefused where there is none or it rests:
    a paper goes on telling what nobody may do now."""
    client, version, day = file.client, file.version, file.today
    if version is None:
        raise UsecaseRefused(_("There is no program yet, so there is nothing to print."))
    if resting_words(file.running_gate, client.clinic) is not None:
        words = _("The program is on hold. A handout can be printed once practice may resume.")
        raise UsecaseRefused(words)
    program = on_day(version.program, day)
    can = practicable(file, program)
    allowed = file.allowed - can.withheld
    with speaking(client.language):
        routines = [routine_on_paper(one, client, file.tasks) for one in can.lasting() if one.steps]
        note = note_home(client.pk)
        return {
            "client": client,
            "its_clinic": client.clinic,
            "version": version,
            "routines": routines,
            "resting": [in_their_words(step.name) for step in can.resting],
            "loud": any(step.level for step in program.steps),
            "note": note if note and note.words else None,
            "advice": [
                in_their_words(line.words)
                for line in program.advice
                if allowed.issuperset(line.touches)
            ],
            "own_lines": own_lines(lines_for_client(file.living, today=day, allowed=allowed)),
            "link": practice_link(client),
        }


@dataclass(frozen=True)
class Link:
    """Where a paper leads: the address and its picture."""

    address: str
    picture: SafeString


def practice_link(client: Client) -> Link | None:
    """The client's private page; None while there is no link in force. The PIN is never printed."""
    access = (
        ClientAccess.objects.filter(client=client, revoked_at=None).order_by("-made_at").first()
    )
    return link_to(reverse("practice:enter", args=[access.pk])) if access else None


def link_to(path: str) -> Link:
    """An address of this site as a QR picture."""
    address = f"{settings.CSRF_TRUSTED_ORIGINS[0]}{path}"
    picture = segno.make(address, error="m").svg_inline(scale=4, dark="#17302C", border=2)
    return Link(address, mark_safe(picture))  # made of squares only


def make_handout(client: Client, *, large: bool, by: User, now: datetime) -> Handout:
    """The handout as PDF, as the edition that prints this; UsecaseRefused as `handout_context`."""
    context = handout_context(ClientFile(client, local_date(now, client.time_zone)))
    with speaking(client.language):
        digest = _digest(context)
        issued = issue(
            client,
            IssuedKind.HANDOUT,
            digest=digest,
            by=by,
            now=now,
            version=context["version"],
        )
        ways = [{"points": points} for points in SIZES["large" if large else "ordinary"]]
        shown = context | {"issued": issued, "large": large}
        document = fitting(TEMPLATE, shown, ways, pages=MOST_PAGES)
        return Handout(issued, pdf_of(document))


def _digest(context: dict[str, Any]) -> str:
    link = context["link"]
    return digest_of(words_printed(html_of(TEMPLATE, context), link.address if link else ""))


def handout_is_new(file: ClientFile, last: Issued | None) -> bool | None:
    """Whether it would print something else than the last one given out; None where none can be printed."""
    try:
        context = handout_context(file)
    except UsecaseRefused:
        return None
    with speaking(file.client.language):
        return last is None or last.digest != _digest(context)
