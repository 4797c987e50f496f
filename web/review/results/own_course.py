"""My reeds: where a client's own practice leads, in plain and kind words."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from statistics import median

from django.utils.formats import date_format
from django.utils.safestring import SafeString
from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from core.grading.season import StepCourse, StepPoint
from web.design.drawings.own_course import OwnDay, own_course
from web.design.speaking import in_their_words
from web.figures.words import client_words, followed_by_client

_LAST_DAYS = 3


@dataclass(frozen=True)
class OwnCourse:
    """One step: its name, the drawing, sentences, and day by day the same in words."""

    name: str
    drawing: SafeString
    sentences: list[str]
    days: list[tuple[date, str]]


def own_courses(courses: Sequence[StepCourse], *, first: date, last: date) -> list[OwnCourse]:
    """Every step of which something other than "done" is followed and that was practiced."""
    return [
        _own(one, first, last) for one in courses if one.points and followed_by_client(one.code)
    ]


def _own(one: StepCourse, first: date, last: date) -> OwnCourse:
    name, days = in_their_words(one.name), _best_of_days(one.points)
    sentences = [_lately(one.code, days), _way(one)]
    drawing = own_course(
        [OwnDay(day=p.day, value=p.value, asked=p.target, calm=p.calm is not False) for p in days],
        first=first,
        last=last,
        ends=(date_format(first, "j F"), _("today")),
        label=f"{name}: {' '.join(sentences)}",
    )
    told = [(point.day, client_words(one.code, point.value)) for point in reversed(days)]
    return OwnCourse(name, drawing, sentences, told)


def _best_of_days(points: Sequence[StepPoint]) -> list[StepPoint]:
    best: dict[date, StepPoint] = {}
    for point in points:
        if point.day not in best or point.value > best[point.day].value:
            best[point.day] = point
    return list(best.values())


def _lately(code: str, days: Sequence[StepPoint]) -> str:
    now = client_words(code, median(point.value for point in days[-_LAST_DAYS:]))
    asked = days[-1].target
    if asked is None or code not in ("best_s", "over_db"):
        return _("Lately about %(now)s.") % {"now": now}
    return _("Lately about %(now)s. The target is %(asked)s.") % {
        "now": now,
        "asked": client_words(code, asked),
    }


def _way(one: StepCourse) -> str:
    way = one.course.way
    if way is None:
        missing = one.course.missing
        if not missing:
            return _("It is too early to say where it leads.")
        return ngettext(
            "After %(count)s more home session it can be said where it leads.",
            "After %(count)s more home sessions it can be said where it leads.",
            missing,
        ) % {"count": missing}
    if way > 0:
        return _("It grows: more than it differs from day to day.")
    if way < 0:
        return _("A little less than before. That happens; your clinician sees it and helps.")
    return _("About the same, as it differs from day to day. Keeping it is worth much.")
