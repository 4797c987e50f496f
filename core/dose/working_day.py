"""Working days: Monday to Friday (clinical default; local law and the clinic's own days come first)."""

from datetime import date, datetime, time, timedelta

BEGINS = time(9)
_FRIDAY = 4


def a_working_day_after(said_at: datetime) -> datetime:
    """When a whole working day has passed since a local time: the same time on the next working day; what
    is said on a weekend counts from Monday at nine."""
    begun = said_at
    if said_at.weekday() > _FRIDAY:
        monday = said_at + timedelta(days=7 - said_at.weekday())
        begun = datetime.combine(monday.date(), BEGINS, said_at.tzinfo)
    after = begun + timedelta(days=1)
    while after.weekday() > _FRIDAY:
        after += timedelta(days=1)
    return after


def is_working_day(day: date) -> bool:
    """Monday to Friday."""
    return day.weekday() <= _FRIDAY
