"""Papers of a client: what is printed, what goes into a calendar or to a colleague, each with its edition."""

from datetime import date, timedelta

from django import forms
from django.http import HttpResponse
from django.shortcuts import render
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy
from django.views.decorators.http import require_GET, require_POST

from core.formats.music.sung import can_be_music
from web.clients.forms import DateInput
from web.clients.models import Client
from web.clients.scope import client_of
from web.clinic import clock
from web.clinic.refusal import UsecaseRefused
from web.papers.models import Issued, IssuedKind
from web.papers.print.editions import last_issued
from web.papers.print.handout import handout_is_new, make_handout
from web.papers.print.practice_sheet import make_sheet
from web.papers.print.words_to_say import make_words
from web.papers.reports.report import SORTS
from web.practice.player.routine_words import routine_words
from web.practice.player.spoken_lines import has_words
from web.programs.client_file import ClientFile
from web.review.results.season import WEEKS

_NOTHING_YET = gettext_lazy("There is no program yet, so there is nothing to print.")


class SheetForm(forms.Form):
    """What sheet is printed: of which routine, from which day."""

    routine = forms.CharField(max_length=40, required=False)
    first = forms.DateField(label=gettext_lazy("First day"), widget=DateInput())
    large = forms.BooleanField(required=False, label=gettext_lazy("Large type"))


@require_GET
def papers(request, client_id):
    return _page(request, client_of(request, client_id))


@require_POST
def handout(request, client_id):
    """The handout as PDF; the next edition where it prints something new."""
    client = client_of(request, client_id)
    now = clock.now()
    try:
        made = make_handout(client, large="large" in request.POST, by=request.user, now=now)
    except UsecaseRefused as refused:
        return _page(request, client, wrong=refused.words, status=409)
    request.noted_as = "printed a handout"
    return pdf(made.pdf, f"handout-{made.issued.edition}.pdf")


@require_POST
def sheet(request, client_id):
    """A practice sheet of two weeks as PDF."""
    client = client_of(request, client_id)
    file, form = ClientFile.now(client), SheetForm(request.POST)
    if file.version is None:
        return _page(request, client, wrong=str(_NOTHING_YET), status=409)
    if not form.is_valid():
        words = _("Say from which day the sheet begins.")
        return _page(request, client, wrong=words, status=422)
    said = form.cleaned_data
    routines = file.version.program.routines
    routine = next((one for one in routines if one.key == said["routine"]), routines[0])
    if abs((said["first"] - clock.now().date()).days) > 366:
        words = _("A sheet begins within a year of today.")
        return _page(request, client, wrong=words, status=422)
    try:
        made = make_sheet(
            file,
            routine,
            first=said["first"],
            large=said["large"],
            by=request.user,
            now=clock.now(),
        )
    except UsecaseRefused as refused:
        return _page(request, client, wrong=refused.words, status=409)
    request.noted_as = "printed a practice sheet"
    return pdf(made, f"practice-sheet-{said['first'].isoformat()}.pdf")


@require_POST
def words(request, client_id):
    """What is read and said in the steps, as PDF."""
    client = client_of(request, client_id)
    file = ClientFile.now(client)
    if file.version is None:
        return _page(request, client, wrong=str(_NOTHING_YET), status=409)
    try:
        made = make_words(
            file, file.version, large="large" in request.POST, by=request.user, now=clock.now()
        )
    except UsecaseRefused as refused:
        return _page(request, client, wrong=refused.words, status=409)
    request.noted_as = "printed words to say"
    return pdf(made, "words-to-say.pdf")


def pdf(data: bytes, name: str) -> HttpResponse:
    """A PDF that opens beside the page."""
    answer = HttpResponse(data, content_type="application/pdf")
    answer["Content-Disposition"] = f'inline; filename="{name}"'
    return answer


def _page(request, client: Client, *, wrong: str = "", status: int = 200):
    file = ClientFile.now(client)
    version, draft, in_force = file.version, file.draft, file.program
    program = draft.program if draft else in_force
    handout = last_issued(client.pk, IssuedKind.HANDOUT)
    context = {
        "here": "papers",
        "client": client,
        "wrong": wrong,
        "version": version,
        "routines": [
            (one.key, routine_words(one)) for one in (in_force.routines if in_force else ())
        ],
        "has_words": in_force is not None and any(map(has_words, in_force.all_steps)),
        "handout": handout,
        "handout_is_new": handout_is_new(file, handout) if version else None,
        "first": next_monday(file.today),
        "music": [step for step in program.steps if can_be_music(step)] if program else (),
        "of_draft": draft is not None,
        "weeks": WEEKS,
        "sorts": [(key, one.title) for key, one in SORTS.items()],
        "issued": Issued.objects.filter(client=client).select_related("by").order_by("-at")[:8],
    }
    return render(request, "papers/papers.html", context, status=status)


def next_monday(today: date) -> date:
    """Today where it is one, else the one to come."""
    return today + timedelta(days=(8 - today.isoweekday()) % 7)
