"""The one clock of the web half. The demo may fix its day; time still runs on it."""

import zoneinfo
from datetime import UTC, date, datetime, time

from django.conf import settings
from django.utils import timezone


def now() -> datetime:
    """Aware UTC time. A fixed demo day runs from 08:00 to 20:00 at half speed, so that it is
    the same date in every zone near the clinic and never goes backwards within a day."""
    real = timezone.now()
    if settings.TODAY is None:
        return real
    midnight = real.replace(hour=0, minute=0, second=0, microsecond=0)
    morning = datetime.combine(settings.TODAY, time(8), UTC)
    return morning + (real - midnight) / 2


def local(at: datetime, zone: str) -> datetime:
    """A moment as it is in an IANA zone."""
    return at.astimezone(zoneinfo.ZoneInfo(zone))


def local_date(at: datetime, zone: str) -> date:
    """The date of a moment in an IANA zone."""
    return local(at, zone).date()
