"""Rounds: the caseload in order of need, one window of it at a time, ordered by the database."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from typing import Any

from django.db.models import Count, F, Q, QuerySet
from django.utils.functional import Promise
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _
from django.utils.translation import gettext_lazy, ngettext

from core.dose.tide import Adherence, adherence_of
from core.grading.act import Act
from core.grading.need import Need
from core.reason import reasons_from
from core.safety.stop import SIGNS, StopSign
from web.clients.models import Client
from web.clinic.records import Unreadable, reading
from web.design.dates import short_day
from web.design.drawings.tide_table import tide_strip
from web.review.caseload.four_weeks import course_from
from web.review.caseload.needs import in_order, needs_on
from web.review.caseload.row import check_stored, days_of
from web.review.deciding.proposals import TITLES
from web.review.models import CaseloadRow, ComingNeed

WINDOW = 30
NAMES: Mapping[Need, Promise] = {
    Need.STOP_SIGN: gettext_lazy("Stop sign"),
    Need.SET_ASIDE: gettext_lazy("Set aside"),
    Need.CALL: gettext_lazy("Call"),
    Need.EXAMINATION: gettext_lazy("Examine"),
    Need.LAPSED: gettext_lazy("Away"),
    Need.TASK_DUE: gettext_lazy("Task due"),
    Need.LOWER: gettext_lazy("Ease"),
    Need.REVIEW: gettext_lazy("Review"),
    Need.READY_TO_CLIMB: gettext_lazy("Climb"),
    Need.OVER_KEEN: gettext_lazy("Over-keen"),
    Need.BASELINE: gettext_lazy("Baseline"),
    Need.PROGRAM: gettext_lazy("Program"),
    Need.ON_COURSE: gettext_lazy("On course"),
}


@dataclass(frozen=True)
class RoundsLine:
    """One line of Rounds. handed: who handed the client over, when and why, until taken over; unreadable: words of
    what of the record cannot be read."""

    client: Client
    need: Need
    reason: str
    kept: Adherence
    rung_s: float | None
    goal_s: float | None
    since_days: int | None
    strip: SafeString
    course: SafeString | None
    handed: str
    put_off_until: date | None
    unreadable: str = ""


@dataclass(frozen=True)
class Chip:
    """A need with how many clients have it; chosen: whether only those are shown."""

    need: int
    name: str
    count: int
    chosen: bool


@dataclass(frozen=True)
class Rounds:
    """A window of the caseload: pages begin at 1; total: of the whole list that is shown."""

    lines: list[RoundsLine]
    chips: list[Chip]
    page: int
    pages: int
    total: int
    put_off: int
    everybody: int


def rounds(
    clinic,
    *,
    clinician,
    today: date,
    find: str = "",
    need: Need | None = None,
    put_off: bool = False,
    page: int = 1,
) -> Rounds:
    """The caseload in order of need; `clinician` None = everybody's; need: only those; put_off: those
    that are put off, in place of the others. A page beyond the last is the last."""
    rows = needs_on(ComingNeed.objects.for_clinic(clinic), today).filter(client__archived_at=None)
    if clinician is not None:
        rows = rows.filter(client__clinician=clinician)
    if find:
        rows = rows.filter(client__name__icontains=find)
    waits = _put_off_on(today)
    counts = _counts(rows, waits)
    shown = {of: away if put_off else here for of, (here, away) in counts.items()}
    rows = rows.filter(waits) if put_off else rows.exclude(waits)
    if need is not None:
        rows = rows.filter(need=need)
    total = sum(shown.values()) if need is None else shown.get(need, 0)
    pages = max(1, -(-total // WINDOW))
    page = min(max(page, 1), pages)
    window = in_order(rows.select_related("client__caseload_row"))
    return Rounds(
        lines=[_line(row, today) for row in window[(page - 1) * WINDOW : page * WINDOW]],
        chips=[Chip(of, str(NAMES[of]), shown[of], of is need) for of in Need if shown.get(of)],
        page=page,
        pages=pages,
        total=total,
        put_off=sum(away for _here, away in counts.values()),
        everybody=sum(here + away for here, away in counts.values()),
    )


def _put_off_on(today: date) -> Q:
    """Put off beyond that day, and nothing more urgent has come; what must not wait never is."""
    waits = [need for need in Need if need.waits]
    return Q(
        client__caseload_row__snoozed_until__gt=today,
        need__gte=F("client__caseload_row__snoozed_need"),
        need__in=waits,
    )


def _counts(rows: QuerySet[ComingNeed], waits: Q) -> dict[Need, tuple[int, int]]:
    """Of each need how many clients are shown and how many are put off."""
    found = rows.order_by().values("need").annotate(all=Count("pk"), off=Count("pk", filter=waits))
    return {Need(one["need"]): (one["all"] - one["off"], one["off"]) for one in found}


def _line(coming: ComingNeed, today: date) -> RoundsLine:
    row: CaseloadRow = coming.client.caseload_row
    try:
        with reading(row):
            check_stored(row)
    except Unreadable as bad:
        return RoundsLine(
            client=coming.client,
            need=Need(coming.need),
            reason="",
            kept=Adherence(0, 0, 0),
            rung_s=None,
            goal_s=None,
            since_days=None,
            strip=SafeString(""),
            course=None,
            handed="",
            put_off_until=None,
            unreadable=bad.words,
        )
    return _read_line(coming, row, today)


def _read_line(coming: ComingNeed, row: CaseloadRow, today: date) -> RoundsLine:
    days = days_of(row, today=today, back=14)
    kept, course = adherence_of(days), course_from(row, today)
    label = _("Last 14 days: %(kept)s of %(prescribed)s home sessions kept") % {
        "kept": kept.kept,
        "prescribed": kept.prescribed,
    }
    return RoundsLine(
        client=coming.client,
        need=Need(coming.need),
        reason=reason(coming, row, kept, today),
        kept=kept,
        rung_s=row.rung_s,
        goal_s=row.goal_s,
        since_days=(today - row.last_session).days if row.last_session else None,
        strip=tide_strip(days, label=label),
        course=course.strip if course else None,
        handed=handed_words(row.handed),
        put_off_until=row.snoozed_until,
        unreadable=row.unreadable,
    )


def handed_words(handed: Mapping[str, Any] | None) -> str:
    """Who handed the client over, when, and the note; "" once it is taken over."""
    if not handed:
        return ""
    return _("Handed over by %(by)s on %(day)s: %(note)s") % {
        "by": handed["by"],
        "day": short_day(date.fromisoformat(handed["on"])),
        "note": handed["note"],
    }


def reason(coming: ComingNeed, row: CaseloadRow, kept: Adherence, today: date) -> str:
    """Why a client stands where they stand, in words."""
    need = Need(coming.need)
    if need is Need.STOP_SIGN:
        return _("Stop sign on %(day)s: %(sign)s. Call, then clear it.") % {
            "day": short_day(row.stop_sign_on),
            "sign": SIGNS[StopSign(row.stop_sign)],
        }
    if need is Need.SET_ASIDE:
        return ngettext(
            "%(count)s upload set aside: look at it.",
            "%(count)s uploads set aside: look at them.",
            row.set_aside,
        ) % {"count": row.set_aside}
    if need is Need.LAPSED:
        return _lapsed(row, today)
    if need is Need.TASK_DUE:
        return _("%(what)s was due on %(day)s.") % {
            "what": _what(coming),
            "day": short_day(coming.since),
        }
    if need is Need.OVER_KEEN:
        return _("%(done)s home sessions in 14 days where %(asked)s are prescribed.") % {
            "done": kept.kept + kept.added,
            "asked": kept.prescribed,
        }
    if coming.act:
        return f"{_what(coming)}: {_why(coming)}."
    return {
        Need.EXAMINATION: _waiting(coming),
        Need.BASELINE: _("No baseline yet: measure one in the visit."),
        Need.PROGRAM: _("Baseline recorded, no program yet."),
        Need.ON_COURSE: _("On course."),
    }[need]


def _waiting(coming: ComingNeed) -> str:
    if coming.words:
        return _("The program is on hold: %(why)s") % {"why": _why(coming)}
    return _("Waiting: screening or examination of the larynx.")


def _why(coming: ComingNeed) -> str:
    return "; ".join(map(str, reasons_from(coming.words)))


def _what(coming: ComingNeed) -> str:
    title = str(TITLES[Act(coming.act)])
    return f"{title} ({coming.about})" if coming.about else title


def _lapsed(row: CaseloadRow, today: date) -> str:
    if row.last_session is None:
        return _("No home session since the program became active.")
    return _("No home session for %(days)s days.") % {"days": (today - row.last_session).days}
