"""Dates in the reader's locale. Every page, printout and e-mail formats dates with these functions."""

from datetime import date, datetime, time

from django.utils import dateformat
from django.utils.formats import date_format, get_format_modules

from web.design.formats.en import formats as american


def long_day(day: date | None) -> str:
    """June 15, 2026 · 15 June 2026"""
    return _written(day, "DATE_FORMAT")


def medium_day(day: date | None) -> str:
    """Jun 15, 2026 · 15 Jun 2026"""
    return _written(day, "MEDIUM_DATE_FORMAT")


def month_day(day: date | None) -> str:
    """June 15 · 15 June"""
    return _written(day, "MONTH_DAY_FORMAT")


def short_day(day: date | None) -> str:
    """Jun 15 · 15 Jun"""
    return _written(day, "SHORT_MONTH_DAY_FORMAT")


def weekday(day: date | None) -> str:
    """Mon Jun 15 · Mon 15 Jun"""
    return _written(day, "WEEKDAY_FORMAT")


def long_weekday(day: date | None) -> str:
    """Monday, June 15 · Monday 15 June"""
    return _written(day, "LONG_WEEKDAY_FORMAT")


def full_day(day: date | None) -> str:
    """Monday, June 15, 2026 · Monday, 15 June 2026"""
    return _written(day, "FULL_DATE_FORMAT")


def weekday_numbers(day: date | None) -> str:
    """Mon 6/15 · Mon 15.6."""
    return _written(day, "WEEKDAY_NUMBERS_FORMAT")


def weekday_name(day: date) -> str:
    """Monday"""
    return date_format(day, "l")


def weekday_short(day: date) -> str:
    """Mon"""
    return date_format(day, "D")


def clock_time(at: time | datetime | None) -> str:
    """2:05 PM · 14:05"""
    return dateformat.time_format(at, _own("CLOCK_FORMAT")) if at else ""


def short_moment(at: datetime | None) -> str:
    """Jun 15 2:05 PM · 15 Jun 14:05, in the zone the moment comes in."""
    return f"{short_day(at)} {clock_time(at)}" if at else ""


def medium_moment(at: datetime | None) -> str:
    """Jun 15, 2026 2:05 PM · 15 Jun 2026 14:05"""
    return f"{medium_day(at)} {clock_time(at)}" if at else ""


def long_moment(at: datetime | None) -> str:
    """Monday, June 15, 2:05 PM · Monday 15 June, 14:05"""
    return f"{long_weekday(at)}, {clock_time(at)}" if at else ""


def _written(day: date | None, name: str) -> str:
    """Format a day with the named format of the active locale; "" for None."""
    return date_format(day, _own(name)) if day else ""


def _own(name: str) -> str:
    """The named format of the active locale, or the American one if it has none."""
    modules = (*get_format_modules(), american)
    return next(found for module in modules if (found := getattr(module, name, None)))
