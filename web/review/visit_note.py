"""The first draft of a visit note, from what was recorded that day and since the visit before."""

from collections.abc import Iterator
from datetime import date, datetime, time, timedelta
from zoneinfo import ZoneInfo

from django.utils.functional import Promise
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from core.dose.tide import kept_of
from core.grading.act import Act
from web.clients.measured import MeasuredView
from web.clients.models import Client
from web.library.queries import catalogue_of
from web.programs.models import ProgramVersion, TriedTask
from web.review.care import visits_from
from web.review.models import CaseloadRow, Decision, Taught, Verdict
from web.review.proposals import TITLES
from web.review.row import days_of
from web.review.since_first import since_first

_MOST_BACK = 60
"""As many days as a line of Rounds holds."""
_VERDICTS: dict[str, Promise] = {
    Verdict.ACCEPTED: gettext_lazy("accepted"),
    Verdict.ALTERED: gettext_lazy("altered"),
    Verdict.REFUSED: gettext_lazy("refused"),
}


def composed(client: Client, row: CaseloadRow, today: date, measured: list[MeasuredView]) -> str:
    """Lines of plain words, what was not recorded left out."""
    return "\n".join(_lines(client, row, today, measured))


def _lines(
    client: Client, row: CaseloadRow, today: date, measured: list[MeasuredView]
) -> Iterator[str]:
    begins = datetime.combine(today, time(), tzinfo=ZoneInfo(client.time_zone))
    within = {"client": client, "at__gte": begins, "at__lt": begins + timedelta(days=1)}
    visits = visits_from(row, today)
    since = visits.latest if visits.latest and visits.latest < today else row.active_since
    if since:
        back = min((today - since).days + 1, _MOST_BACK)
        kept = kept_of(days_of(row, today=today, back=back))
        yield _("Home practice since %(day)s: %(kept)s of %(asked)s home sessions kept.") % {
            "day": f"{since:%-d %B}",
            "kept": kept.kept,
            "asked": kept.prescribed,
        }
    if row.stop_sign:
        yield _("A stop sign stands since %(day)s.") % {"day": f"{row.stop_sign_on:%-d %B}"}
    compared = since_first(measured, client)
    if compared and compared.day != today:
        for line in compared.lines:
            yield f"{line.name}: {line.before} → {line.now} ({line.verdict})."
    tasks = catalogue_of(client.clinic)
    for tried in TriedTask.objects.filter(**within).order_by("at"):
        name = tasks[tried.task].name if tried.task in tasks else tried.task
        yield _("Tried %(task)s: %(went)s.") % {"task": name, "went": tried.get_went_display()}
    for taught in Taught.objects.filter(client=client, day=today).order_by("at"):
        yield taught_words(taught)
    for decision in Decision.objects.filter(client=client, day=today).order_by("at"):
        reason = f" ({decision.reason})" if decision.reason else ""
        yield _("Decided: %(what)s, %(verdict)s%(reason)s.") % {
            "what": TITLES[Act(decision.act)],
            "verdict": _VERDICTS[decision.verdict],
            "reason": reason,
        }
    for version in ProgramVersion.objects.filter(client=client, active_from=today):
        yield _("Program version %(number)s is active from today.") % {"number": version.number}
    if visits.next_on and visits.next_on > today:
        yield _("Next visit %(day)s.") % {"day": f"{visits.next_on:%-d %B}"}


def taught_words(row: Taught) -> str:
    """What was taught, in one sentence."""
    words = _("Taught %(step)s: %(response)s, %(level)s; shown back: %(back)s.") % {
        "step": row.name,
        "response": row.get_response_display(),
        "level": row.get_cue_level_display(),
        "back": row.get_shown_back_display(),
    }
    if row.cue:
        words += " " + _("Cue that worked: “%(cue)s”.") % {"cue": row.cue}
    if row.fade:
        words += " " + _("It fades: %(fade)s.") % {"fade": row.fade}
    return words
