"""What pages and scripts say, as templates for translators: gettext's .pot, an open format."""

import argparse
import importlib
import io
import pkgutil
import re
import sys
from collections.abc import Iterator
from pathlib import Path

from babel.messages import Catalog
from babel.messages.extract import extract
from babel.messages.pofile import write_po
from django.utils.translation.template import templatize

import core
from core.catalogue.materials import sorts
from core.catalogue.rungs import FORM_WORDS
from core.catalogue.tasks import shipped_tasks
from core.catalogue.town import town
from core.catalogue.tunes import tunes
from core.catalogue.words import TOLD_IN_WORDS
from core.figures.registry import FIGURES
from core.fitting.schools import schools
from core.grading import rule as grading
from core.proposing.aims import shown_words, want_words, wanted
from core.reason import sentences
from core.safety.circumstances import asked_words, bearings, clinicians_lines
from core.safety.conditions import rules
from ops.phases import ROOT, RUN

_WEB = ROOT / "web"
_KEYWORDS = {
    "_": None,
    "gettext": None,
    "gettext_lazy": None,
    "gettext_noop": None,
    "_now": None,
    "ngettext": (1, 2),
    "ngettext_lazy": (1, 2),
    "pgettext": ((1, "c"), 2),
    "npgettext": ((1, "c"), 2, 3),
}
_BLANKED = re.compile(r"\bX+\b")


def page_words() -> Catalog:
    """Everything Python, templates and the tables of tasks say to a client or a clinician."""
    found = Catalog(project="Still Reed", copyright_holder="", charset="utf-8")
    for path in sorted(_WEB.rglob("*.py")):
        if "migrations" not in path.parts:
            _take(found, path, "python", path.read_text(encoding="utf-8"))
    for path in sorted(_WEB.rglob("*.html")):
        code = templatize(path.read_text(encoding="utf-8"), origin=str(path))
        _take(found, path, "javascript", _BLANKED.sub(" ", code))
    for place, words in _of_tables():
        found.add(words, locations=[(place, 1)])
    for code, sentence in _of_core():
        found.add(sentence, context=code, auto_comments=["values in braces stay as they are"])
    return found


def script_words() -> Catalog:
    """Everything the scripts say."""
    found = Catalog(project="Still Reed", copyright_holder="", charset="utf-8")
    for path in sorted(_WEB.rglob("static/*/*.js")):
        if "generated" not in path.parts:
            _take(found, path, "javascript", path.read_text(encoding="utf-8"))
    return found


def _take(catalog: Catalog, path: Path, method: str, text: str) -> None:
    file = io.BytesIO(text.encode())
    for line, message, _comments, context in extract(method, file, _KEYWORDS):
        if message and message != ("", ""):
            place = str(path.relative_to(ROOT))
            catalog.add(message, locations=[(place, line)], context=context)


def _of_core() -> Iterator[tuple[str, str]]:
    """Code and English text of every sentence in the core's rules and tables."""
    for module in pkgutil.walk_packages(core.__path__, "core."):
        importlib.import_module(module.name)
    for load in (rules, asked_words, clinicians_lines, want_words, wanted, shown_words):
        load()
    yield from sorted(sentences().items())
    for task in shipped_tasks().values():
        yield "purpose", task.purpose
        for rung in task.rungs:
            yield "rung", rung.words
    for words in FORM_WORDS.values():
        yield "rung", words
    for school in schools().values():
        for spec in school.steps:
            yield spec.because.code, spec.because.words


def _of_tables() -> Iterator[tuple[str, str]]:
    """Texts of shipped tasks, materials and circumstances that a client reads."""
    for task in shipped_tasks().values():
        rungs = task.rungs if task.grows in TOLD_IN_WORDS else ()
        texts = (
            *(task.name, task.sound, task.instruction, task.caution),
            *(task.purpose, task.suits, task.clinician_note),
            *(words for fault in task.faults for words in (fault.fault, fault.cue)),
            *(words for one in task.settings for words in (one.name, one.unit)),
        )
        for words in (*texts, *(rung.words for rung in rungs)):
            if words:
                yield f"core/catalogue/{task.key}", words
    for school in schools().values():
        told = [school.name, school.words, school.suits]
        told += [dose["words"] for dose in school.doses.values()]
        told += [text for one in school.choices for text in (one.words, *one.options.values())]
        for words in filter(None, told):
            yield f"core/fitting/schools/{school.key}", words
    for words in FORM_WORDS.values():
        yield "core/catalogue/rungs", words
    for rule in grading.rules().steps:
        yield "core/grading/rules", rule.name
    for figure in FIGURES.values():
        yield f"core/figures/{figure.code}", figure.name
        if any(map(str.isalpha, figure.unit.value)):
            yield f"core/figures/{figure.code}", figure.unit.value
    for name, sort in sorts().items():
        yield f"core/catalogue/materials/{name}", sort.title
        for line in dict.fromkeys(line for turn in sort.turns for line in turn.lines):
            yield f"core/catalogue/materials/{name}", line
    for tune in tunes():
        yield "core/catalogue/tunes", tune.name
    for condition in rules():
        yield f"core/safety/conditions/{condition.key}", condition.source
    for place in town().places.values():
        yield "core/catalogue/town", place.name
    for circumstance, bearing in bearings().items():
        if bearing.client:
            yield f"core/safety/circumstances/{circumstance.value}", bearing.client


def main(arguments: list[str]) -> int:
    """Write django.pot and djangojs.pot; exit code 0."""
    parser = argparse.ArgumentParser(
        prog="./reed words", description="Templates for translators, as gettext .pot files."
    )
    parser.add_argument("folder", nargs="?", type=Path, default=RUN / "words")
    folder = parser.parse_args(arguments).folder
    folder.mkdir(parents=True, exist_ok=True)
    for name, catalog in (("django", page_words()), ("djangojs", script_words())):
        path = folder / f"{name}.pot"
        with path.open("wb") as file:
            write_po(file, catalog, width=100, sort_by_file=True)
        print(f"{path}: {len(catalog)} messages")
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
