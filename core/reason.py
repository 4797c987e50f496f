"""What the core says: a code with its values, and the English sentence beside the rule that says it.

Rules, stored programs and tests read codes and values; sentences are only shown. Whoever shows them may bring a
language (`speak`), which translates a sentence by its code; without one they are English.
"""

import string
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import date, time
from functools import lru_cache
from typing import Annotated, Any, Protocol, Self, TypeVar, Union

from pydantic import BeforeValidator, ConfigDict, Field, TypeAdapter

Key = TypeVar("Key", bound=str)
Value = Union[str, int, float, "Reason", tuple[Union[str, int, float, "Reason"], ...]]
"""A value of a reason: a name or note as text, a number, a day as ISO text, another reason, or
several of these."""

WRITTEN = "written"
"""Code of words that somebody wrote, or that a program of an older format brought."""

_SENTENCES: dict[str, str] = {}


class Language(Protocol):
    """How sentences are shown to a reader: an interface the web layer implements."""

    def sentence(self, code: str, english: str) -> str:
        """The translated sentence for a code, with its placeholders still in braces. `english` is the message id."""

    def day(self, day: date) -> str:
        """A date with its year, in the reader's format."""

    def clock(self, at: time) -> str:
        """A time of day in the reader's format."""

    def number(self, text: str) -> str:
        """A number in the reader's format. `text` has a decimal point."""


class English:
    """English, as used in the terminal and in stored records."""

    def sentence(self, code: str, english: str) -> str:
        return english

    def day(self, day: date) -> str:
        return f"{day:%B} {day.day}, {day.year}"

    def clock(self, at: time) -> str:
        return f"{at.hour % 12 or 12}:{at:%M %p}"

    def number(self, text: str) -> str:
        return text


ENGLISH = English()
_spoken: Language = ENGLISH


def speak(language: Language) -> None:
    """Use this language for every sentence from now on. It may vary by reader."""
    global _spoken
    _spoken = language


@lru_cache(maxsize=4_000)
def _parts_of(sentence: str) -> tuple[tuple[str, str | None, str], ...]:
    """The parts of a sentence: text, the name of the placeholder after it (None = none) and its format."""
    parsed = string.Formatter().parse(sentence)
    return tuple((text, name, spec or "") for text, name, spec, _conversion in parsed)


def _formatted(value: Any, spec: str, language: Language) -> str:
    """As str.format does, with three more specifications: `day` for an ISO day, `clock` for an ISO time, `list` for
    several values."""
    if spec == "day":
        return language.day(date.fromisoformat(value))
    if spec == "clock":
        times = value if isinstance(value, tuple | list) else (value,)
        return ", ".join(language.clock(time.fromisoformat(one)) for one in times)
    if isinstance(value, Reason):
        return value.in_language(language)
    if isinstance(value, tuple | list):
        return ", ".join(_formatted(one, "g" * isinstance(one, float), language) for one in value)
    if isinstance(value, int | float) and not isinstance(value, bool):
        return language.number(str(value) if spec == "list" else format(value, spec))
    return str(value) if spec == "list" else format(value, spec)


@dataclass(frozen=True, slots=True)
class Reason:
    """What is said, as a code with values. words: the sentence as it was when it was said; no rule
    reads it, and two reasons are equal without it."""

    __pydantic_config__ = ConfigDict(extra="forbid", allow_inf_nan=False)

    code: Annotated[str, Field(min_length=1, max_length=80)]
    params: Mapping[str, Value] = field(default_factory=dict)
    words: Annotated[str, Field(max_length=2000)] = field(default="", compare=False)

    def __str__(self) -> str:
        """The sentence as it is said today, in the language that is spoken; as it was said where nobody says it
        any more."""
        return self.in_language(_spoken)

    def in_language(self, language: Language) -> str:
        """The sentence in a language."""
        sentence = _SENTENCES.get(self.code)
        if sentence is None:
            return language.sentence(self.code, self.words) if self.words else self.code
        try:
            return "".join(
                text if name is None else text + _formatted(self.params[name], spec, language)
                for text, name, spec in _parts_of(language.sentence(self.code, sentence))
            )
        except (KeyError, ValueError, TypeError):
            return self.words or self.code

    def __format__(self, spec: str) -> str:
        return str(self)

    def __hash__(self) -> int:
        return hash(self.code)


@dataclass(frozen=True, slots=True)
class Saying:
    """Makes the reasons of one code. Values it does not name raise TypeError."""

    code: str
    names: frozenset[str]

    def __call__(self, **params: Value) -> Reason:
        if set(params) != self.names:
            raise TypeError(f"{self.code} takes {sorted(self.names)}, not {sorted(params)}")
        bare = Reason(self.code, params)
        return Reason(self.code, params, bare.in_language(ENGLISH))

    @classmethod
    def of(cls, code: str, sentence: str) -> Self:
        """A new code with its sentence; ValueError for a code that is said already."""
        if _SENTENCES.get(code, sentence) != sentence:
            raise ValueError(f"two sentences for {code}")
        _SENTENCES[code] = sentence
        return cls(code, frozenset(name for _text, name, _spec in _parts_of(sentence) if name))


def says(code: str, sentence: str) -> Saying:
    """A code and the sentence that is said for it: `says("late", "{days} days late")(days=3)`."""
    return Saying.of(code, sentence)


def said_codes() -> frozenset[str]:
    """Every code with a sentence, of the modules that are loaded."""
    return frozenset(_SENTENCES)


def sentences() -> Mapping[str, str]:
    """English sentences by code, for all loaded modules: the message ids for translators."""
    return dict(_SENTENCES)


def told_as(prefix: str, words: Mapping[Key, str]) -> Mapping[Key, Reason]:
    """A table of words, each a reason of its own: `aim_release` for the prefix "aim" and the key "release"."""
    return {key: says(f"{prefix}_{key}", text)() for key, text in words.items()}


_WORDS = says(WRITTEN, "{words}")


def written(words: str) -> Reason:
    """Words somebody wrote, as a reason."""
    return _WORDS(words=words)


def table_reason(code: str, words: str, **params: Value) -> Reason:
    """A reason whose sentence stands in a table of data (schools, tasks, conditions)."""
    return Reason(code, params, words)


def _from_words(came: Any) -> Any:
    return written(came) if isinstance(came, str) else _with_tuples(came)


def _with_tuples(came: Any) -> Any:
    """JSON knows lists only; the values of a reason are tuples."""
    if isinstance(came, list):
        return tuple(_with_tuples(one) for one in came)
    if isinstance(came, dict):
        return {key: _with_tuples(value) for key, value in came.items()}
    return came


Because = Annotated[Reason, BeforeValidator(_from_words)]
"""A reason of a program; in files plain words are taken as words somebody wrote."""

_STORED = TypeAdapter(tuple[Because, ...])


def reasons_data(reasons: Iterable[Reason]) -> list[dict[str, Any]]:
    """Reasons as plain data to store: codes, values and the English words, whatever language is spoken."""
    data: list[dict[str, Any]] = _STORED.dump_python(tuple(reasons), mode="json")
    return data


def reasons_from(stored: Any) -> tuple[Reason, ...]:
    """What `reasons_data` gave, and plain sentences as older versions stored them."""
    return _STORED.validate_python(tuple(stored))


_JOINED = says("joined", "{first}; {then}")


def joined(first: Reason, *more: Reason) -> Reason:
    """Several reasons as one."""
    for then in more:
        first = _JOINED(first=first, then=then)
    return first
