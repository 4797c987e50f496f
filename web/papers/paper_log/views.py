"""The Sheet log: a sheet typed back, its check while it is typed, a stop sign at once, the same from a file."""

from collections.abc import Sequence
from datetime import date, timedelta

from django.contrib import messages
from django.http import Http404, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils.http import urlencode
from django.utils.translation import gettext as _
from django.utils.translation import ngettext
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from core.errors import PlanError
from core.safety.stop import SIGNS, StopSign
from core.sheets.csv_file import MOST_BYTES, CsvRefused
from core.sheets.rows import OLDEST_DAYS, SheetColumn
from core.sheets.sample import sample_csv
from core.sheets.sitting import PaperSession, read_sign
from web.clients.models import Client
from web.clients.scope import client_of
from web.clinic import clock
from web.clinic.refusal import UsecaseRefused
from web.design.dates import short_day
from web.papers.models import Issued, IssuedKind
from web.papers.paper_log import typed
from web.papers.paper_log.page import DAYS, SheetPage
from web.papers.usecases import save_paper_log
from web.practice.models import PaperLog
from web.practice.player.routine_words import routine_words
from web.practice.usecases.save_paper_session import OnPaper, SavedPaper, save_paper_session
from web.programs.models import ProgramVersion
from web.programs.queries import versions_of

_SHOWN = 200
"""Answers to rows of a file that are shown; more are counted."""
_FARTHEST_DAYS = 2 * OLDEST_DAYS
"""A sheet of farther away is none that can be logged, nor one to come."""


@require_http_methods(["GET", "POST"])
def sheet_log(request, client_id):
    """The sheet as a grid; POST keeps it."""
    client = client_of(request, client_id)
    versions = versions_of(client)
    if not versions:
        return render(request, "papers/sheet_log.html", {"here": "sheet", "client": client})
    page = _page(request, client, versions)
    if request.method == "GET":
        draft = typed.drafts_of(page, request.user).first()
        page.typed = draft.typed if draft else {}
        return _shown(request, page, versions, draft=draft)
    page.typed = typed.typed_in(request.POST.dict())
    read = typed.read_page(page)
    page.queries = read.queries
    try:
        kept = save_paper_log.save_page(
            page, read, knowingly="knowingly" in request.POST, by=request.user, now=clock.now()
        )
    except UsecaseRefused as refused:
        return _shown(request, page, versions, wrong=refused.words, status=409)
    if kept is None:
        return _shown(request, page, versions, status=422)
    _say(request, kept)
    return redirect(_address(page))


@require_POST
def check(request, client_id):
    """What of the sheet is asked about, while it is typed; keeps what is typed so far."""
    client = client_of(request, client_id)
    request.noted_as = ""
    page = _page(request, client, versions_of(client))
    page.typed = typed.typed_in(request.POST.dict())
    read = typed.read_page(page)
    save_paper_log.save_draft(page, by=request.user, now=clock.now())
    queries = [
        {"cell": one.cell, "words": str(one.why), "wrong": one.wrong} for one in read.queries
    ]
    tries = sum(len(one.tries) for one in read.sittings)
    return JsonResponse({"queries": queries, "said": _counted(len(read.sittings), tries)})


@require_POST
def stop(request, client_id):
    """A stop sign of a column is kept at once, whatever else stands on the sheet."""
    client = client_of(request, client_id)
    page = _page(request, client, versions_of(client))
    sign, wrong = read_sign(request.POST.get("sign", ""))
    if sign is None:
        return JsonResponse({"error": str(wrong or _("Choose one of the stop signs."))}, status=422)
    try:
        column = SheetColumn.named(request.POST.get("column", ""))
        written = [OnPaper(page.version, PaperSession(column=column, sign=sign))]
        save_paper_session(client, written, how=PaperLog.SHEET, by=request.user, now=clock.now())
    except PlanError:
        return JsonResponse({"error": _("This is no day of the sheet.")}, status=422)
    except UsecaseRefused as refused:
        return JsonResponse({"error": refused.words}, status=409)
    request.noted_as = "reported a stop sign from paper"
    words = _(
        "Stop sign kept: %(sign)s. What it came with rests until you clear it; a mail has gone out."
    )
    return JsonResponse({"said": words % {"sign": SIGNS[sign]}})


@require_http_methods(["GET", "POST"])
def sheet_file(request, client_id):
    """A file of rows: read, answered row by row, kept whole or knowingly what fits."""
    client = client_of(request, client_id)
    versions = versions_of(client)
    if request.method == "GET" or not versions:
        return redirect("papers:sheet_log", client.pk)
    now, knowingly = clock.now(), "knowingly" in request.POST
    sent = request.FILES.get("file")
    held = typed.held_file(client, request.user) if knowingly else None
    data = held if held is not None else (sent.read(MOST_BYTES + 1) if sent else b"")
    today = clock.local_date(now, client.time_zone)
    try:
        read = typed.read_file(client, data, versions, today=today)
        kept = save_paper_log.save_file(
            client, versions, read, knowingly=knowingly, by=request.user, now=now
        )
    except CsvRefused as refused:
        return _file_shown(request, client, wrong=str(refused.why), status=422)
    except UsecaseRefused as refused:
        return _file_shown(request, client, wrong=refused.words, status=409)
    if kept is None:
        save_paper_log.hold_file(client, data, by=request.user, now=now)
        return _file_shown(request, client, read=read, status=422)
    _say(request, kept)
    return redirect("papers:sheet_log", client.pk)


@require_GET
def sheet_sample(request, client_id):
    """A file with the rows of a week of the program, to be filled in."""
    client = client_of(request, client_id)
    versions = versions_of(client)
    if not versions:
        raise Http404
    today = clock.local_date(clock.now(), client.time_zone)
    text = sample_csv(versions[-1].program, day=today)
    answer = HttpResponse(text, content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="practice-log.csv"'
    return answer


def _page(request, client: Client, versions: Sequence[ProgramVersion]) -> SheetPage:
    """The sheet that is asked for: else the one that was printed last, else the last two weeks."""
    if not versions:
        raise Http404
    asked = request.GET
    today = clock.local_date(clock.now(), client.time_zone)
    printed = (
        Issued.objects.filter(client=client, kind=IssuedKind.SHEET).order_by("-at").first()
        if not asked
        else None
    )
    said = {**(printed.content if printed else {}), **asked.dict()}
    number = str(said.get("version", ""))
    first = _day(str(said.get("first", "")))
    if first is None or abs((first - today).days) > _FARTHEST_DAYS:
        first = today - timedelta(days=DAYS - 1)
    in_force = typed.version_on(versions, first) or versions[0]
    version = next((one for one in versions if str(one.number) == number), in_force)
    routines = version.program.routines
    routine = next((one for one in routines if one.key == said.get("routine")), routines[0])
    more = 1 if said.get("more") else 0
    return SheetPage(client, versions, version, routine, first=first, more=more)


def _day(text: str) -> date | None:
    try:
        return date.fromisoformat(text)
    except ValueError:
        return None


def _address(page: SheetPage) -> str:
    asked: dict[str, str | int] = {
        "version": page.version.number,
        "routine": page.routine.key,
        "first": page.first.isoformat(),
        **({"more": 1} if page.more else {}),
    }
    return f"{reverse('papers:sheet_log', args=[page.client.pk])}?{urlencode(asked)}"


def _shown(request, page: SheetPage, versions, *, draft=None, wrong="", status=200):
    today = clock.local_date(clock.now(), page.client.time_zone)
    context = {
        "here": "sheet",
        "client": page.client,
        "page": page,
        "versions": versions[::-1],
        "routines": [(one.key, routine_words(one)) for one in page.version.program.routines],
        "before": page.first - timedelta(days=DAYS),
        "after": page.first + timedelta(days=DAYS),
        "today": today,
        "signs": [
            (sign.value, str(words)) for sign, words in SIGNS.items() if sign != StopSign.ANOTHER
        ],
        "draft": draft,
        "wrong": wrong,
        "logs": PaperLog.objects.filter(client=page.client).order_by("-at")[:3],
        "asked": _address(page).partition("?")[2],
    }
    return render(request, "papers/sheet_log.html", context, status=status)


def _file_shown(request, client: Client, *, read=None, wrong="", status=200):
    context = {"here": "sheet", "client": client, "wrong": wrong}
    if read is not None:
        asked = [one for one in read.csv.answers if one.why]
        context |= {
            "doubtful": [
                (f"{short_day(column.day)}, {column.routine}, {column.turn}", count)
                for column, count in read.doubtful
            ],
            "lost_signs": [one for one in asked if one.lost_sign],
            "answers": asked[:_SHOWN],
            "more": max(len(asked) - _SHOWN, 0),
            "fits": sum(not one.wrong for one in read.csv.answers),
            "rows": len(read.csv.answers),
        }
    return render(request, "papers/sheet_file.html", context, status=status)


def _counted(sessions: int, attempts: int) -> str:
    of_sessions = ngettext("%(n)s home session", "%(n)s home sessions", sessions)
    of_attempts = ngettext("%(n)s attempt", "%(n)s attempts", attempts)
    return f"{of_sessions % {'n': sessions}}, {of_attempts % {'n': attempts}}"


def _say(request, kept: SavedPaper) -> None:
    words = _("Logged from paper: %(counted)s.") % {
        "counted": _counted(kept.sessions, kept.attempts)
    }
    if kept.again:
        again = ngettext(
            "%(n)s attempt was there already.", "%(n)s attempts were there already.", kept.again
        )
        words += " " + again % {"n": kept.again}
    messages.success(request, words)
    if kept.differs:
        names = "; ".join(f"{column.replace('.', ' ')} {step}" for column, step in kept.differs[:8])
        more = _(
            "Kept otherwise already, and left as it is: %(names)s. Leave an attempt out on its own page."
        )
        messages.error(request, more % {"names": names})
