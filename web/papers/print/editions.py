"""Editions: what is printed again only counts as new when what it prints changed."""

import hashlib

from django.utils.html import strip_tags
from django.utils.translation import gettext as _

from web.clinic.refusal import UsecaseRefused
from web.papers.models import Issued, IssuedKind
from web.practice.today.on_hold import resting_words
from web.programs.client_file import ClientFile


def digest_of(text: str) -> str:
    return hashlib.sha256(text.encode()).hexdigest()


def words_printed(html: str, *addresses: str) -> str:
    """What a page tells whoever holds it: its words, and where its codes lead. How it is laid out does not count."""
    body = html.partition("<body")[2]
    return " ".join([*strip_tags(f"<body{body}").split(), *addresses])


def last_issued(client_id, kind: IssuedKind, part: str = "") -> Issued | None:
    """The newest edition; None where none was given out."""
    rows = Issued.objects.filter(client_id=client_id, kind=kind, part=part)
    return rows.order_by("-edition").first()


def only_while_practiced(file: ClientFile) -> None:
    """UsecaseRefused while the program rests: a paper goes on telling what nobody may do now."""
    if resting_words(file.running_gate, file.client.clinic) is not None:
        raise UsecaseRefused(
            _("The program is on hold. Nothing can be printed until practice may resume.")
        )
