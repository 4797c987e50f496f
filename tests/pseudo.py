"""A language nobody speaks, made from what the pages say: accented, two fifths longer.

What stays plain on a page in it was never offered for translation.
"""

import re
from html.parser import HTMLParser
from pathlib import Path

from babel.messages import Catalog
from babel.messages.mofile import write_mo
from django.utils.translation import to_locale

from ops.terminal.words import page_words, script_words

LANGUAGE = "en-xa"
_PLAIN = "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ"
_STRANGE = "áƀćđéƒǵĥíĵķĺɱñóƥʠŕšťúṽŵẋýźÁƁĆĐÉƑǴĤÍĴĶĹṀÑÓƤɊŔŠŤÚṼŴẊÝŹ"
_ACCENTED = str.maketrans(_PLAIN, _STRANGE)
_KEPT = re.compile(r"%\(\w+\)[+.\d]*[a-z]|%[sdg%]|\{\w+(?::[^}]*)?\}|&\w+;|<[^>]+>")
_LONGER = 0.4
_SHOWN_ATTRIBUTES = ("aria-label", "title", "alt", "placeholder")
_WORD = re.compile(r"[A-Za-z]{2,}")
_OF_THE_CLOCK = {"AM", "PM"}
"""Django has them in every real language."""


def pseudo(words: str) -> str:
    """Words in the strange language; what is filled in later stays."""
    kept = _KEPT.findall(words)
    accented = [part.translate(_ACCENTED) for part in _KEPT.split(words)]
    whole = "".join(part + (kept[n] if n < len(kept) else "") for n, part in enumerate(accented))
    more = "".join("éíóú"[n % 4] for n in range(round(len(words) * _LONGER)))
    if " " not in words.strip():
        return whole + more
    return " ".join([whole, *(more[at : at + 6] for at in range(0, len(more), 6))])


def write_language(folder: Path) -> None:
    """The compiled catalogues of pages and scripts below the folder."""
    place = folder / to_locale(LANGUAGE) / "LC_MESSAGES"
    place.mkdir(parents=True)
    for name, catalog in (("django", page_words()), ("djangojs", script_words())):
        with (place / f"{name}.mo").open("wb") as file:
            write_mo(file, _translated(catalog))


def _translated(catalog: Catalog) -> Catalog:
    found = Catalog(locale="en", charset="utf-8")
    for message in catalog:
        if message.id:
            words = (
                tuple(map(pseudo, message.id))
                if isinstance(message.id, tuple)
                else pseudo(message.id)
            )
            found.add(message.id, words, context=message.context)
    return found


class _Shown(HTMLParser):
    def __init__(self) -> None:
        super().__init__()
        self.texts: list[str] = []
        self._skipped = 0

    def handle_starttag(self, tag, attrs):
        self._skipped += tag in ("script", "style")
        self.texts += [value for name, value in attrs if name in _SHOWN_ATTRIBUTES and value]

    def handle_endtag(self, tag):
        self._skipped -= tag in ("script", "style")

    def handle_data(self, data):
        if not self._skipped:
            self.texts.append(data)


def plain_words(html: str, *names: str) -> set[str]:
    """The words of a page that are not in the strange language; names: what is no language."""
    shown = _Shown()
    shown.feed(html)
    return plain_in(" ".join(shown.texts), *names)


def plain_in(text: str, *names: str) -> set[str]:
    """The same of a text."""
    for name in ("Still Reed", "Hz", *names):
        text = text.replace(name, " ")
    return set(_WORD.findall(text)) - _OF_THE_CLOCK
