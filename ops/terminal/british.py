"""`python -m ops.terminal.british`: writes the British catalogue, the messages spelled differently there.

Writes `web/locale/en_GB/LC_MESSAGES/django.po` and `.mo`. Words whose spelling is no matter of meaning are changed by
rule; where the verb is meant, the sentence stands in VERBS.
"""

import re
from datetime import UTC, datetime
from pathlib import Path

from babel.messages import Catalog
from babel.messages.mofile import write_mo
from babel.messages.pofile import write_po

from ops.phases import ROOT
from ops.terminal.words import page_words

PLACE = ROOT / "web" / "locale" / "en_GB" / "LC_MESSAGES"
ALWAYS = {"practiced": "practised", "practicing": "practising"}
VERBS = (
    "Do not practice until",
    "do not practice at full strength",
    "each time you practice",
    "practice alone",
)
"""Phrases in which “practice” is a verb."""
_ALWAYS_THE_SAME = datetime(2026, 1, 1, tzinfo=UTC)
_ALWAYS = re.compile("|".join(ALWAYS), re.IGNORECASE)


def british(words: str) -> str:
    """The text in British spelling."""
    words = _ALWAYS.sub(lambda found: _cased(found.group(), ALWAYS[found.group().lower()]), words)
    for verb in VERBS:
        words = words.replace(verb, verb.replace("practice", "practise"))
    return words


def _cased(like: str, words: str) -> str:
    return words.capitalize() if like[0].isupper() else words


def catalogue() -> Catalog:
    """The messages whose spelling differs in British English."""
    found = Catalog(
        locale="en_GB",
        project="Still Reed",
        copyright_holder="",
        charset="utf-8",
        creation_date=_ALWAYS_THE_SAME,
        revision_date=_ALWAYS_THE_SAME,
    )
    for message in page_words():
        ids = tuple(message.id) if isinstance(message.id, tuple) else (str(message.id),)
        spelled = tuple(british(words) for words in ids)
        if message.id and spelled != ids:
            said = spelled if len(spelled) > 1 else spelled[0]
            found.add(message.id, said, context=message.context)
    return found


def write(folder: Path) -> None:
    """Write both files; the same messages always give the same bytes."""
    folder.mkdir(parents=True, exist_ok=True)
    with (folder / "django.po").open("wb") as file:
        write_po(file, catalogue(), omit_header=True, sort_output=True, width=110)
    with (folder / "django.mo").open("wb") as file:
        write_mo(file, catalogue())


if __name__ == "__main__":
    write(PLACE)
