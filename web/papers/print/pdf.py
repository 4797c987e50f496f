"""A page of HTML as PDF."""

from collections.abc import Iterable
from typing import TYPE_CHECKING, Any

from django.template.loader import render_to_string
from django.utils.translation import get_language

if TYPE_CHECKING:
    from weasyprint import Document


def html_of(template: str, context: dict[str, Any]) -> str:
    """The page as HTML, in the language that is spoken."""
    return render_to_string(template, {**context, "language": get_language()})


def laid_out(html: str) -> "Document":
    """The page on its sheets of paper."""
    from web.papers.print import typesetter

    return typesetter.laid_out(html)


def fitting(
    template: str, context: dict[str, Any], ways: Iterable[dict[str, Any]], *, pages: int
) -> "Document":
    """The page laid out in the first of the ways in which it stands on so many sheets; in the last where none does."""
    for way in ways:
        document = laid_out(html_of(template, context | way))
        if len(document.pages) <= pages:
            break
    return document


def pdf_of(document: "Document") -> bytes:
    """The sheets as a tagged PDF."""
    made: bytes = document.write_pdf(pdf_tags=True)
    return made
