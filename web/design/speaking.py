"""Switches to the client's language. What a client reads is translated as late as it is shown."""

from contextlib import AbstractContextManager

from django.conf import settings
from django.utils import translation
from django.utils.translation import gettext


def spoken(language: str) -> str:
    """The language if the site has it, otherwise the site's first language."""
    return language if language in dict(settings.LANGUAGES) else settings.LANGUAGE_CODE


def speaking(language: str) -> AbstractContextManager[None]:
    """A context in which everything is translated into that language."""
    return translation.override(spoken(language))


def in_their_words(text: str) -> str:
    """Translate a shipped text (of a task, method or circumstance) into the active language. Text a clinician wrote is
    unchanged."""
    return gettext(text) if text.strip() else text
