"""The last four weeks of the step that leads, from a caseload row alone."""

from dataclasses import dataclass
from datetime import date, timedelta
from statistics import median

from django.utils.safestring import SafeString
from django.utils.translation import gettext as _
from django.utils.translation import ngettext

from web.design.drawings.season_strip import season_strip
from web.design.speaking import in_their_words
from web.figures.words import value_of
from web.review.caseload.facts import COURSE_DAYS
from web.review.models import CaseloadRow

_LAST = 3


@dataclass(frozen=True)
class FourWeeks:
    """What is followed, in words where it stands (the middle of the last three days), and the drawing."""

    name: str
    words: str
    strip: SafeString


def course_from(row: CaseloadRow, today: date) -> FourWeeks | None:
    """None where nothing was practiced in the four weeks."""
    first = today - timedelta(days=COURSE_DAYS - 1)
    found = row.course.get("points", ()) if row.course else ()
    points = [(date.fromisoformat(day), value, asked) for day, value, asked in found]
    points = [one for one in points if first <= one[0] <= today]
    if not points:
        return None
    code = row.course["code"]
    now = value_of(code, median(value for _day, value, _asked in points[-_LAST:]))
    asked = points[-1][2]
    words = now
    if asked is not None:
        words = _("%(now)s, target %(asked)s") % {"now": now, "asked": value_of(code, asked)}
    name = in_their_words(row.course["name"])
    label = ngettext(
        "%(name)s: what was held on %(count)s day of four weeks",
        "%(name)s: what was held on %(count)s days of four weeks",
        len(points),
    ) % {"name": name, "count": len(points)}
    strip = season_strip(points, first=first, last=today, label=label)
    return FourWeeks(name, words, strip)
