"""The client's own language: what a client reads is put into words here, as late as it is shown."""

from contextlib import AbstractContextManager

from django.conf import settings
from django.utils import translation
from django.utils.translation import gettext


def spoken(language: str) -> str:
    """That language, or the first one where it is not spoken here."""
    return language if language in dict(settings.LANGUAGES) else settings.LANGUAGE_CODE


def speaking(language: str) -> AbstractContextManager[None]:
    """Everything inside is said in that language."""
    return translation.override(spoken(language))


def in_their_words(text: str) -> str:
    """A shipped text (of a task, a passage, a circumstance) in the language that is spoken; words a
    clinician wrote stay as they are."""
    return gettext(text) if text.strip() else text
