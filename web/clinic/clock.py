"""The one clock of the web half. The demo may fix its day; the time of day still runs."""

import zoneinfo
from datetime import date, datetime, timedelta

from django.conf import settings
from django.utils import timezone


def now() -> datetime:
    """Aware UTC time; on a fixed demo day that date with the real time of day."""
    real = timezone.now()
    if settings.TODAY is None:
        return real
    return real + timedelta(days=(settings.TODAY - real.date()).days)


def local_date(at: datetime, zone: str) -> date:
    """The date of a moment in an IANA zone."""
    return at.astimezone(zoneinfo.ZoneInfo(zone)).date()
