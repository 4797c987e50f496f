"""What can be set by hand in a step: a name, its unit and limits, how it is written and read."""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Any

from core.errors import NoteError, PlanError
from core.notes.note import Note
from core.reason import Reason, says
from core.reference.limits import Limit

MOST_TEXT = 60
"""Characters of a sound that is typed."""


class SettingType(StrEnum):
    """How a setting is written: one number, a note, notes, degrees of the scale, yes or no, one of several, words."""

    NUMBER = "number"
    NOTE = "note"
    NOTES = "notes"
    DEGREES = "degrees"
    YES = "yes"
    CHOICE = "choice"
    TEXT = "text"


@dataclass(frozen=True, slots=True, kw_only=True)
class Settable:
    """One thing that can be set. key: the field it stands in; low, high, grid: in `unit`, of numbers;
    whole: it counts something; optional: may be left empty; most: characters of a text;
    choices: code and words, of a choice."""

    key: str
    words: str
    sort: SettingType
    unit: str = ""
    low: float = 0.0
    high: float = 0.0
    grid: float = 1.0
    whole: bool = False
    optional: bool = False
    most: int = MOST_TEXT
    choices: tuple[tuple[str, str], ...] = ()

    def __post_init__(self) -> None:
        for words in filter(None, (self.words, self.unit, *dict(self.choices).values())):
            _label(words)

    @property
    def label(self) -> Reason:
        return _label(self.words)

    @property
    def unit_label(self) -> Reason | str:
        return _label(self.unit) if self.unit else ""

    @property
    def choice_labels(self) -> tuple[tuple[str, Reason], ...]:
        return tuple((code, _label(words)) for code, words in self.choices)

    def read(self, text: str) -> Any:
        """The value of what was typed; PlanError("setting_unreadable"), ("target_out_of_limits")."""
        text = text.strip()
        if self.optional and not text:
            return None
        try:
            return _READERS[self.sort](self, text)
        except NoteError:
            raise
        except (ValueError, OverflowError) as error:
            if isinstance(error, PlanError):
                raise
            raise PlanError("setting_unreadable", which=self.label, came=text[:40]) from error

    def written(self, value: Any) -> str:
        """A value as it is typed; "" for none."""
        if value is None:
            return ""
        return _WRITERS.get(self.sort, str)(value)


def _label(words: str) -> Reason:
    """Words of a setting as a reason of their own, so that they can be translated."""
    return says(f"setting: {words}", words)()


def a_number(
    key: str, words: str, limit: Limit, grid: float = 1.0, *, unit: str | None = None, **more: Any
) -> Settable:
    """A number within a limit, in its unit unless another word is named."""
    return Settable(
        key=key,
        words=words,
        sort=SettingType.NUMBER,
        unit=limit.unit if unit is None else unit,
        low=limit.low,
        high=limit.high,
        grid=grid,
        **more,
    )


def a_count(key: str, words: str, limit: Limit, **more: Any) -> Settable:
    return a_number(key, words, limit, whole=True, **more)


def a_note(key: str, words: str, **more: Any) -> Settable:
    return Settable(key=key, words=words, sort=SettingType.NOTE, **more)


def a_yes(key: str, words: str) -> Settable:
    return Settable(key=key, words=words, sort=SettingType.YES)


def a_choice(key: str, words: str, choices: Sequence[tuple[str, str]]) -> Settable:
    return Settable(key=key, words=words, sort=SettingType.CHOICE, choices=tuple(choices))


def numbers_in(text: str, which: str) -> tuple[float, ...]:
    """Numbers with spaces between, decimal commas too; PlanError("setting_unreadable")."""
    try:
        found = tuple(float(one.replace(",", ".")) for one in text.replace(";", " ").split())
    except ValueError as error:
        raise PlanError("setting_unreadable", which=which, came=text[:40]) from error
    if not found or not all(math.isfinite(one) for one in found):
        raise PlanError("setting_unreadable", which=which, came=text[:40])
    return found


def _number(own: Settable, text: str) -> float | int:
    came = float(text.replace(",", "."))
    Limit(own.low, own.high, own.unit).check(str(own.label), came)
    if not own.whole:
        return came
    if not came.is_integer():
        raise ValueError(text)
    return int(came)


def _notes(_own: Settable, text: str) -> tuple[Note, ...]:
    found = tuple(Note.named(one) for one in text.replace(",", " ").split())
    if not found:
        raise ValueError(text)
    return found


def _degrees(_own: Settable, text: str) -> tuple[int, ...]:
    return tuple(int(one) for one in text.replace(",", " ").split())


def _choice(own: Settable, text: str) -> str:
    if text not in dict(own.choices):
        raise ValueError(text)
    return text


def _text(own: Settable, text: str) -> str:
    words = " ".join(text.split())
    if len(words) > own.most or not words.isprintable():
        raise ValueError(text)
    return words


_READERS: Mapping[SettingType, Callable[[Settable, str], Any]] = {
    SettingType.NUMBER: _number,
    SettingType.NOTE: lambda _own, text: Note.named(text),
    SettingType.NOTES: _notes,
    SettingType.DEGREES: _degrees,
    SettingType.YES: lambda _own, text: text in ("yes", "on", "true", "1"),
    SettingType.CHOICE: _choice,
    SettingType.TEXT: _text,
}
_WRITERS: Mapping[SettingType, Callable[[Any], str]] = {
    SettingType.NUMBER: lambda value: f"{value:g}",
    SettingType.NOTES: lambda value: " ".join(map(str, value)),
    SettingType.DEGREES: lambda value: " ".join(map(str, value)),
    SettingType.YES: lambda value: "yes" if value else "",
}
