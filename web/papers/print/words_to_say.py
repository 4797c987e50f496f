"""Printed words to say: texts, lines and answers of the steps, for practice without a screen."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Any

from django.utils.safestring import SafeString, mark_safe
from django.utils.translation import gettext as _

from core.dose.taper import on_day
from core.program.step import Step
from web.clinic.models import User
from web.clinic.refusal import UsecaseRefused
from web.design.speaking import in_their_words, speaking
from web.papers.models import IssuedKind
from web.papers.print.editions import digest_of, only_while_practiced, words_printed
from web.papers.print.pdf import html_of, laid_out, pdf_of
from web.papers.usecases.issue import issue
from web.practice.player.spoken_lines import OwnLines, own_lines_of, said_lines
from web.practice.today.practicable import practicable
from web.programs.client_file import ClientFile
from web.programs.models import ProgramVersion

TEMPLATE = "papers/words.html"
_DAYS = 14
"""As many days as a practice sheet has."""
_MOST_TURNS = 12
"""Of one step: two pages of long texts at most."""


@dataclass(frozen=True)
class TurnOnPaper:
    """What is said in one attempt; lines: words, and whether each is leant on; picture: the map that belongs to it."""

    lines: list[list[tuple[str, bool]]]
    picture: SafeString


@dataclass(frozen=True)
class StepWords:
    """The turns of a step, each once. goes_round: its lines begin again until the time is over; as_before: the step
    on the same paper that has the very same ones, which are printed there."""

    name: str
    instruction: str
    caution: str
    goes_round: bool
    turns: list[TurnOnPaper]
    as_before: str


def words_context(file: ClientFile, version: ProgramVersion) -> dict[str, Any]:
    """What a paper of words prints, its edition aside; UsecaseRefused while the program rests, and where nothing of it
    has words."""
    client = file.client
    only_while_practiced(file)
    own = own_lines_of(client.pk, client.clinic_id)
    steps = [
        step
        for one in practicable(file, on_day(version.program, file.today)).lasting()
        for step in (*one.steps, *((one.short_day,) if one.short_day else ()))
    ]
    before: dict[frozenset[str], str] = {}
    found = [
        words for step in steps if (words := _words_of(step, version.active_from, own, before))
    ]
    if not found:
        raise UsecaseRefused(_("Nothing is read or said from a text in this program."))
    return {"client": client, "its_clinic": client.clinic, "version": version, "steps": found}


def _words_of(
    step: Step, first: date, own: OwnLines, before: dict[frozenset[str], str]
) -> StepWords | None:
    """What the step asks to be said in its first days, whenever it is printed; None where it has no words. before: the
    steps that have such words already."""
    turns: dict[str, TurnOnPaper] = {}
    goes_round = False
    for day in (first + timedelta(days=offset) for offset in range(_DAYS)):
        for turn in said_lines(step, day, own):
            goes_round = turn["round"]
            key = repr([(line["words"], line["stress"]) for line in turn["lines"]])
            if key not in turns and len(turns) < _MOST_TURNS:
                lines = [list(_leant_on(line)) for line in turn["lines"]]
                turns[key] = TurnOnPaper(lines, mark_safe(turn["map"]))  # drawn and escaped by us
    if not turns:
        return None
    name = in_their_words(step.name)
    as_before = before.setdefault(frozenset(turns), name)
    return StepWords(
        name=name,
        instruction=in_their_words(step.instruction),
        caution=in_their_words(step.caution),
        goes_round=goes_round,
        turns=[*turns.values()] if as_before == name else [],
        as_before="" if as_before == name else as_before,
    )


def _leant_on(line: dict[str, Any]) -> Iterator[tuple[str, bool]]:
    for place, word in enumerate(line["words"].split()):
        yield word, place == line["stress"]


def make_words(
    file: ClientFile, version: ProgramVersion, *, large: bool, by: User, now: datetime
) -> bytes:
    """The paper as PDF, as the edition that prints this; UsecaseRefused as `words_context`."""
    client = file.client
    with speaking(client.language):
        context = words_context(file, version)
        digest = digest_of(words_printed(html_of(TEMPLATE, context)))
        issued = issue(client, IssuedKind.WORDS, digest=digest, by=by, now=now, version=version)
        shown = {"issued": issued, "points": 18.0 if large else 12.0}
        return pdf_of(laid_out(html_of(TEMPLATE, context | shown)))
