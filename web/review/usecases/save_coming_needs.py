"""What a client needs in the coming days, saved beside their row."""

from core.grading.need import coming
from web.review.caseload.needs import _ALWAYS, DAYS_AHEAD, ComingDays
from web.review.course_file import CourseFile
from web.review.models import CaseloadRow, ComingNeed


def save_coming_needs(file: CourseFile, row: CaseloadRow) -> None:
    """Store what the client needs from today on, in place of what was stored."""
    ahead, days = ComingDays(file, row), DAYS_AHEAD
    if row.active_since is not None:
        days += max(0, (row.active_since - file.today).days)
    found = coming(ahead.needed_on, file.today, days=days)
    begins = [_ALWAYS, *(one.since for one in found[1:])]
    ends = [*begins[1:], None]
    ComingNeed.objects.filter(client=file.client).delete()
    ComingNeed.objects.bulk_create(
        ahead.stored(one.needed, first, until)
        for one, first, until in zip(found, begins, ends, strict=True)
    )
