"""What a report can tell: parts of plain words, tables and drawings, each from the record, each chosen or left out."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from functools import cached_property

from django.utils.functional import Promise
from django.utils.safestring import SafeString
from django.utils.text import capfirst
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy, ngettext

from core.dose.tide import adherence_of
from core.grading.act import Act
from core.grading.baseline_change import BaselineFigure
from core.program.step_words import asks_words
from core.reason import reasons_from
from core.reference.values import (
    PHONATION_QUOTIENT_HIGH,
    PHONATION_QUOTIENT_LOW,
    SHORT_PHONATION,
    SMALLEST_REAL_CHANGE,
    SZ_RATIO_FLAG,
    VITAL_CAPACITY_SOURCE,
)
from core.safety.condition import in_plain_words
from core.safety.screening import in_words
from web.clients.baseline.measured import MeasuredView
from web.clients.models import Client
from web.clinic.clock import local_date
from web.design.dates import long_day, medium_day
from web.design.drawings.tide_table import tide_table
from web.design.numbers import filled
from web.design.speaking import in_their_words
from web.figures.words import name_of, spread_of, value_of
from web.review.caseload.row import RowFile
from web.review.deciding.proposals import TITLES
from web.review.models import CaseloadRow, Decision, DecisionVerdict, SignedNote
from web.review.queries import bed_of
from web.review.results.season import results
from web.review.results.since_first import baseline_figures, since_first

_SEASON = timedelta(weeks=12)
_MOST_DECISIONS = 40
_VERDICTS: Mapping[str, Promise] = {
    DecisionVerdict.ACCEPTED: gettext_lazy("accepted"),
    DecisionVerdict.ALTERED: gettext_lazy("altered"),
    DecisionVerdict.REFUSED: gettext_lazy("refused"),
}


@dataclass(frozen=True)
class ReportPart:
    """One part of a report. lines: sentences; head and rows: a table; drawings; small: what stands below, in small
    type."""

    title: str
    lines: list[str] = field(default_factory=list)
    head: tuple[str, ...] = ()
    rows: Sequence[tuple[str, ...]] = ()
    drawings: list[SafeString] = field(default_factory=list)
    small: list[str] = field(default_factory=list)

    @property
    def empty(self) -> bool:
        return not (self.lines or self.rows or self.drawings)


class ReportData(RowFile):
    """The data that the parts of a report need; each item is read once, on first use."""

    @cached_property
    def newest_decisions(self) -> list[Decision]:
        """The newest forty decisions, oldest first, with who made them."""
        rows = Decision.objects.filter(client=self.client).select_related("by", "version")
        return list(rows.order_by("-at")[:_MOST_DECISIONS])[::-1]


def report_data(client: Client, *, now: datetime) -> ReportData:
    row = CaseloadRow.objects.select_related("client__clinic").get(client=client)
    return ReportData(row, local_date(now, client.time_zone))


def _who(data: ReportData) -> ReportPart:
    client = data.client
    lines = [
        _("%(name)s, born %(day)s (%(age)s years). %(occupation)s")
        % {
            "name": client.name,
            "day": long_day(client.born_on),
            "age": data.age_years,
            "occupation": client.occupation,
        }
    ]
    if client.referral:
        lines.append(_("Referred for: %(why)s.") % {"why": client.referral.rstrip(".")})
    return ReportPart(_("Client"), lines)


def _examination(data: ReportData) -> ReportPart:
    asked, screening = data.latest_screening, data.screening
    if asked is None or screening is None:
        return ReportPart(_("Screening"))
    lines = []
    if asked.larynx_examined_on:
        values = {"day": long_day(asked.larynx_examined_on), "findings": asked.findings}
        lines.append((_("Larynx examined %(day)s. %(findings)s") % values).strip())
    else:
        lines.append(_("The larynx was not examined yet."))
    flags = [str(in_words(flag)) for flag in sorted(screening.open_flags(data.today))]
    if flags:
        lines.append(_("Open red flags: %(flags)s.") % {"flags": ", ".join(flags)})
    conditions = [str(in_plain_words(one)) for one in sorted(screening.conditions)]
    if conditions:
        lines.append(_("Known: %(conditions)s.") % {"conditions": ", ".join(conditions)})
    return ReportPart(_("Screening"), lines)


def _baseline(data: ReportData) -> ReportPart:
    """The latest baseline, each figure with its tries and their spread; flags with their sources."""
    if not data.measured:
        return ReportPart(_("Baseline"))
    latest = data.measured[-1]
    recorded_at = latest.view.baseline.recorded_at
    rows = [_figure(one) for one in baseline_figures(latest)]
    lines = [sentence for _code, sentence in latest.view.flags(data.client.clinic)]
    day = long_day(recorded_at) if recorded_at else ""
    return ReportPart(
        _("Baseline of %(day)s") % {"day": day},
        lines,
        (_("Measure"), _("Value"), _("Spread of the tries")),
        rows,
        small=_sources(latest, data.client),
    )


def _figure(one: BaselineFigure) -> tuple[str, str, str]:
    name = capfirst(name_of(one.code)) + (f" ({one.scale})" if one.scale else "")
    value = value_of(one.code, one.value)
    if not one.freedom:
        return name, value, _("one value")
    tries = ngettext("%(n)s try", "%(n)s tries", one.freedom + 1) % {"n": one.freedom + 1}
    if one.code in ("sz_ratio", "quotient"):
        tries = _("from the tries of both") if one.code == "sz_ratio" else _("from the tries")
    return name, value, f"± {spread_of(one.code, one.sd)} SD, {tries}"


def _sources(measured: MeasuredView, client: Client) -> list[str]:
    """Where the reference values come from that were used."""
    view, clinic, found = measured.view, client.clinic, []
    if view.phonation_s is not None:
        words = _("Phonation time under %(limit)g s is flagged in adults: %(source)s.")
        found.append(
            filled(words, {"limit": clinic.short_phonation_s, "source": SHORT_PHONATION.source})
        )
    if view.sz_ratio is not None:
        words = _(
            "s/z ratio from %(limit)g is flagged; it says nothing when both are short: %(source)s."
        )
        found.append(filled(words, {"limit": clinic.sz_ratio_flag, "source": SZ_RATIO_FLAG.source}))
    if view.quotient_ml_per_s is not None and view.capacity is not None:
        words = _("Phonation quotient, typically %(low)g–%(high)g mL/s: %(source)s.")
        values = {
            "low": PHONATION_QUOTIENT_LOW.number,
            "high": PHONATION_QUOTIENT_HIGH.number,
            "source": PHONATION_QUOTIENT_LOW.source,
        }
        found.append(filled(words, values))
        if view.capacity.estimated:
            words = _(
                "The vital capacity in it is an estimate, 10–15 %% below newer ones: %(source)s."
            )
            found.append(words % {"source": VITAL_CAPACITY_SOURCE})
    return found


def _change(data: ReportData) -> ReportPart:
    compared = since_first(data)
    if compared is None:
        return ReportPart(_("Change since the first baseline"))
    rows = [(one.name, one.before, one.now, one.by, one.verdict) for one in compared.lines]
    small = filled(
        _(
            "A change counts as more than chance from %(number).2f times the standard deviation of the client's own "
            "tries: %(source)s."
        ),
        {"number": SMALLEST_REAL_CHANGE.number, "source": SMALLEST_REAL_CHANGE.source},
    )
    return ReportPart(
        _("Change since the first baseline, %(day)s") % {"day": long_day(compared.day)},
        head=(_("Measure"), _("Then"), _("Now"), _("By"), _("Against the spread")),
        rows=rows,
        small=[small],
    )


def _program(data: ReportData) -> ReportPart:
    if not data.versions:
        return ReportPart(_("Program"))
    version = data.versions[-1]
    rows = [
        (in_their_words(step.name), asks_words(step), f"{step.repetitions}×", _rung(step))
        for routine in version.program.routines
        for step in routine.steps
    ]
    bed = bed_of(version.program, versions=data.versions)
    values = {"n": version.number, "day": long_day(version.active_from)}
    return ReportPart(
        _("Program, version %(n)s since %(day)s") % values,
        head=(_("Step"), _("Asks for"), _("Times"), _("Rung")),
        rows=rows,
        drawings=[bed] if bed else [],
    )


def _rung(step) -> str:
    return f"{step.rung + 1} / {len(step.grade.rungs)}" if step.grade else "–"


def _practice(data: ReportData) -> ReportPart:
    if not data.versions:
        return ReportPart(_("Practice at home"))
    days = data.tide(back=28)
    kept = adherence_of(days)
    words = _("%(kept)s of %(prescribed)s home sessions kept in the last 28 days.") % {
        "kept": kept.kept,
        "prescribed": kept.prescribed,
    }
    return ReportPart(_("Practice at home"), [words], drawings=[tide_table(days, label=words)])


def _results(data: ReportData) -> ReportPart:
    """The season of the last 12 weeks, and its last sessions as a table."""
    if not data.versions:
        return ReportPart(_("Results at home"))
    first = data.today - _SEASON
    file = RowFile(data.row, data.today, since=first)
    page = results(file, first=first, last=data.today)
    lines = [_("Nothing was practiced in the last 12 weeks.")] if not page.lines else []
    return ReportPart(
        _("Results at home"),
        lines,
        drawings=[page.drawing] if page.drawing else [],
        small=[
            _(
                "Each home session is a reed standing to what was held, hollow where it was pressed or unsteady; the "
                "line is the target, the band the client's own day-to-day spread."
            )
        ]
        if page.drawing
        else [],
    )


def _decided(data: ReportData) -> ReportPart:
    rows = [
        (
            medium_day(row.day),
            " ".join(filter(None, (str(TITLES[Act(row.act)]), row.evidence.get("about", "")))),
            str(_VERDICTS[row.verdict]),
            _why(row),
        )
        for row in data.newest_decisions
    ]
    return ReportPart(
        _("Decisions"), head=(_("Day"), _("What"), _("Decided"), _("On which numbers")), rows=rows
    )


def _why(row: Decision) -> str:
    reasons = [str(one) for one in reasons_from(row.evidence.get("reasons", ()))]
    return "; ".join([*reasons, *([row.reason] if row.reason else [])])


def _notes(data: ReportData) -> ReportPart:
    """The latest signed visit note with what was added to it."""
    rows = SignedNote.objects.filter(client=data.client).prefetch_related("addenda__by")
    note = rows.select_related("by").order_by("-day", "-at").first()
    if note is None:
        return ReportPart(_("Visit note"))
    lines = note.text.splitlines()
    lines.append(_("Signed by %(name)s.") % {"name": note.by.name})
    for one in sorted(note.addenda.all(), key=lambda one: one.at):
        values = {"day": long_day(one.at), "text": one.text, "name": one.by.name}
        lines.append(_("Added %(day)s: %(text)s (%(name)s)") % values)
    return ReportPart(_("Visit note of %(day)s") % {"day": long_day(note.day)}, lines)


def _letter(data: ReportData) -> ReportPart:
    """The newest decision, with its numbers as they stood and what spoke against it."""
    if not data.newest_decisions:
        return ReportPart(_("Decision"))
    row = data.newest_decisions[-1]
    about = row.evidence.get("about", "")
    values = {
        "what": TITLES[Act(row.act)],
        "about": f" ({about})" if about else "",
        "verdict": _VERDICTS[row.verdict],
        "day": long_day(row.day),
        "name": row.by.name,
    }
    lines = [_("%(what)s%(about)s: %(verdict)s on %(day)s by %(name)s.") % values]
    lines += [_("Because: %(why)s.") % {"why": _why(row).rstrip(".")}] if _why(row) else []
    against = "; ".join(row.evidence.get("against", ()))
    lines += [_("Against it spoke: %(why)s.") % {"why": against}] if against else []
    if row.version is not None:
        words = _("It made version %(n)s of the program.")
        lines.append(words % {"n": row.version.number})
    if row.due_on:
        lines.append(_("To be done by %(day)s.") % {"day": long_day(row.due_on)})
    return ReportPart(_("Decision"), lines)


def _goals(data: ReportData) -> ReportPart:
    """Of a discharge: what was held at the last visits."""
    lines = []
    for day, held, corrects, _next, _note in data.visits[-2:]:
        said = [
            _("goals held") if held else _("goals not held") if held is not None else "",
            _("corrects themself") if corrects else "",
        ]
        words = ", ".join(filter(None, said)) or _("nothing was noted of the goals")
        lines.append(f"{long_day(date.fromisoformat(day))}: {words}.")
    return ReportPart(_("At the last visits"), lines)


PARTS: Mapping[str, tuple[Promise, Callable[[ReportData], ReportPart]]] = {
    "who": (gettext_lazy("Who it is about"), _who),
    "letter": (gettext_lazy("The newest decision"), _letter),
    "note": (gettext_lazy("The latest visit note"), _notes),
    "examination": (gettext_lazy("Examination and conditions"), _examination),
    "baseline": (gettext_lazy("Latest baseline"), _baseline),
    "change": (gettext_lazy("Change since the first baseline"), _change),
    "program": (gettext_lazy("Program"), _program),
    "practice": (gettext_lazy("Practice kept"), _practice),
    "results": (gettext_lazy("Results at home"), _results),
    "decisions": (gettext_lazy("Decisions with reasons"), _decided),
    "goals": (gettext_lazy("Goals at the last visits"), _goals),
}
"""Every part by its key, in the order in which a report tells them."""


def parts_of(data: ReportData, chosen: Sequence[str]) -> dict[str, ReportPart]:
    """The chosen parts that have something to tell, by key in their order; nothing else of the record is read."""
    made = {key: make(data) for key, (_title, make) in PARTS.items() if key in chosen}
    return {key: part for key, part in made.items() if not part.empty}
