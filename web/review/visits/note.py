"""The recorded facts that belong in a visit note: they make its first draft, and later ones are offered to it."""

from collections.abc import Collection, Iterator
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from operator import itemgetter
from zoneinfo import ZoneInfo

from django.utils.functional import Promise
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy

from core.dose.tide import adherence_of
from core.grading.act import Act
from web.clients.models import Visit
from web.clinic import clock
from web.design.dates import month_day
from web.programs.models import ProgramVersion, TriedTask
from web.review.caseload.row import RowFile
from web.review.deciding.proposals import TITLES
from web.review.models import Decision, DecisionDone, DecisionVerdict, SignedNote, Taught
from web.review.results.since_first import since_first

_MOST_BACK = 60
"""As many days as a line of Rounds holds."""
_NOTE_WITHIN_DAYS = 7
"""A note is written within a week of what it reports (clinical default); what is older is read in the record."""
_VERDICTS: dict[str, Promise] = {
    DecisionVerdict.ACCEPTED: gettext_lazy("accepted"),
    DecisionVerdict.ALTERED: gettext_lazy("altered"),
    DecisionVerdict.REFUSED: gettext_lazy("refused"),
}


@dataclass(frozen=True, slots=True)
class NoteEntry:
    """One recorded fact as a sentence of a visit note; the key stays the same as long as the fact does."""

    key: str
    words: str


def entries_of(file: RowFile) -> list[NoteEntry]:
    """What was recorded since the last signed note, at most a week back, in the order of a note.

    The state of the client (practice, stop sign, change since the first baseline) comes first; a note
    signed on the same day has told it already.
    """
    client, today = file.client, file.today
    signed = SignedNote.objects.filter(client=client).order_by("-at").first()
    told_today = signed is not None and signed.day == today
    state = () if told_today else _state(file)
    events = sorted(_events(file, signed.at if signed else None), key=itemgetter(0))
    told = [
        NoteEntry(one.key, one.words if day == today else f"{month_day(day)}: {one.words}")
        for day, one in events
    ]
    return [*state, *told]


def not_in_note(
    entries: Collection[NoteEntry], text: str, settled: Collection[str]
) -> list[NoteEntry]:
    """The entries that a note neither holds word for word nor has settled: taken up, or left out on purpose."""
    return [one for one in entries if one.key not in settled and one.words not in text]


def as_text(entries: Collection[NoteEntry]) -> str:
    """One sentence a line."""
    return "\n".join(one.words for one in entries)


def _state(file: RowFile) -> Iterator[NoteEntry]:
    row, today = file.row, file.today
    visited = [date.fromisoformat(visit[0]) for visit in file.visits]
    since = max((day for day in visited if day < today), default=row.active_since)
    if since:
        back = min((today - since).days + 1, _MOST_BACK)
        kept = adherence_of(file.tide(back=back))
        words = _("Home practice since %(day)s: %(kept)s of %(asked)s home sessions done.") % {
            "day": month_day(since),
            "kept": kept.kept,
            "asked": kept.prescribed,
        }
        yield NoteEntry("practice", words)
    if row.stop_sign:
        words = _("There has been an open stop sign since %(day)s.") % {
            "day": month_day(row.stop_sign_on)
        }
        yield NoteEntry(f"stop:{row.stop_sign_on}", words)
    compared = since_first(file)
    if compared and compared.day != today:
        for line in compared.lines:
            words = f"{line.name}: {line.before} → {line.now} ({line.verdict})."
            yield NoteEntry(f"measured:{line.name}:{line.now}", words)


def _events(file: RowFile, signed_at: datetime | None) -> Iterator[tuple[date, NoteEntry]]:
    """What happened, by the day it was recorded on; of one day in the order of a visit."""
    client, today, tasks = file.client, file.today, file.tasks
    zone = ZoneInfo(client.time_zone)
    begins = datetime.combine(today - timedelta(days=_NOTE_WITHIN_DAYS), time(), tzinfo=zone)
    since = max(begins, signed_at) if signed_at else begins
    own = {"client": client, "at__gt": since}

    def entry(sort: str, row, at: datetime, words: str) -> tuple[date, NoteEntry]:
        return clock.local_date(at, client.time_zone), NoteEntry(f"{sort}:{row.pk}", words)

    for tried in TriedTask.objects.filter(**own).order_by("at"):
        name = tasks[tried.task].name if tried.task in tasks else tried.task
        words = _("Tried %(task)s: %(went)s.") % {"task": name, "went": tried.get_went_display()}
        yield entry("tried", tried, tried.at, words)
    for taught in Taught.objects.filter(**own).order_by("at"):
        yield entry("taught", taught, taught.at, taught_words(taught))
    for decision in Decision.objects.filter(**own).order_by("at"):
        yield entry("decision", decision, decision.at, _decided(decision))
    for done in DecisionDone.objects.filter(**own).exclude(said="").order_by("at"):
        words = _("Contact: %(said)s. Decided: %(then)s.") % {
            "said": done.said.rstrip("."),
            "then": done.get_then_display(),
        }
        yield entry("contact", done, done.at, words)
    for version in ProgramVersion.objects.filter(client=client, activated_at__gt=since).order_by(
        "number"
    ):
        words = _("Program version %(number)s was activated.") % {"number": version.number}
        if version.active_from != clock.local_date(version.activated_at, client.time_zone):
            words += " " + _("It applies from %(day)s.") % {"day": month_day(version.active_from)}
        yield entry("version", version, version.activated_at, words)
    for visit in Visit.objects.filter(**own).order_by("at"):
        if words := _visited(visit):
            yield entry("visit", visit, visit.at, words)


def _decided(row: Decision) -> str:
    reason = f" ({row.reason})" if row.reason else ""
    return _("Decided: %(what)s, %(verdict)s%(reason)s.") % {
        "what": TITLES[Act(row.act)],
        "verdict": _VERDICTS[row.verdict],
        "reason": reason,
    }


def _visited(row: Visit) -> str:
    said = []
    if row.goal_held is not None:
        said.append(
            _("Goal held in the visit.") if row.goal_held else _("Goal not held in the visit.")
        )
    if row.corrects is not None:
        said.append(_("Self-corrects.") if row.corrects else _("Does not self-correct yet."))
    if row.next_on:
        said.append(_("Next visit %(day)s.") % {"day": month_day(row.next_on)})
    return " ".join(said)


def taught_words(row: Taught) -> str:
    """What was taught, in one sentence."""
    words = _("Taught %(step)s: %(response)s, %(level)s; teach-back: %(back)s.") % {
        "step": row.name,
        "response": row.get_response_display(),
        "level": row.get_cue_level_display(),
        "back": row.get_shown_back_display(),
    }
    if row.cue:
        words += " " + _("Cue that worked: “%(cue)s”.") % {"cue": row.cue}
    if row.fade:
        words += " " + _("Fading: %(fade)s.") % {"fade": row.fade}
    return words
