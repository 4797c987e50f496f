"""Translates the core's sentences for the reader: sentences by code, dates and numbers by locale."""

from datetime import date, time

from django.utils import formats
from django.utils.translation import pgettext

from web.design.dates import clock_time, long_day


class ReadersLanguage:
    """Uses the language that is active when a sentence is shown.

    A sentence is looked up by its code (gettext's context) and its English (the message id), so that the same
    English may be said otherwise for two codes.
    """

    def sentence(self, code: str, english: str) -> str:
        return pgettext(code, english)

    def day(self, day: date) -> str:
        return long_day(day)

    def clock(self, at: time) -> str:
        return clock_time(at)

    def number(self, text: str) -> str:
        return text.replace(".", formats.get_format("DECIMAL_SEPARATOR"))
