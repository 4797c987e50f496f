"""Reads one entry of a task file, of the shipped ones and of what a clinic wrote."""

from typing import Annotated, Any, Literal, Self

from pydantic import (
    AfterValidator,
    BaseModel,
    ConfigDict,
    Field,
    StringConstraints,
    ValidationError,
    model_validator,
)

from core.catalogue.doing import ADVICE, COUNTED, measured_kind, task_kinds
from core.catalogue.rungs import Rung, SemiOccludedForm, form_rung, rung_in_words
from core.catalogue.touches import WORKED_OUT, Touch
from core.catalogue.words import (
    FIGURE_WORDS,
    SHOWN_BY_WORDS,
    Aim,
    Equipment,
    Growth,
    Skill,
)

_LONGEST_TEXT = 600
_MEANS = {Equipment.GLASS_OF_WATER: Touch.WATER, Equipment.BALLOON: Touch.BALLOON}
"""What a thing in the hand means for what is touched, whoever writes the task."""

Text = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=_LONGEST_TEXT)
]
TextOrNothing = Annotated[str, StringConstraints(strip_whitespace=True, max_length=_LONGEST_TEXT)]


class Broken(Exception):
    """Why an entry does not hold, in words."""


def _one_of(known: Any) -> AfterValidator:
    def check(came: str) -> str:
        if came not in (known() if callable(known) else known):
            names = sorted(known() if callable(known) else known)
            raise ValueError(f"{came!r} is none of {', '.join(names)}")
        return came

    return AfterValidator(check)


def _declared(came: frozenset[Touch]) -> frozenset[Touch]:
    if odd := sorted(came & WORKED_OUT):
        raise ValueError(f"{', '.join(odd)}: worked out, nobody declares it")
    return came


Touches = Annotated[frozenset[Touch], AfterValidator(_declared)]


class _Read(BaseModel):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class SettingEntry(_Read):
    unit: str
    low: float
    high: float
    default: float

    @model_validator(mode="after")
    def _ordered(self) -> Self:
        if not self.low <= self.default <= self.high:
            raise ValueError("low ≤ default ≤ high")
        return self


class FaultEntry(_Read):
    fault: Text
    shown_by: Annotated[Text, _one_of(SHOWN_BY_WORDS)]
    cue: Text


class CatalogueEntry(_Read):
    """What a task file holds of one task; `Task` says what it means.

    in_the_day: done in the course of the day, ticked off later; leans_on: the word of each line that is marked where
    a program names none;
    rungs: codes with their words where rungs are told in words; codes of forms; else, where a rung
    is a number, words alone.
    """

    name: Text
    kind: Annotated[str, _one_of(task_kinds)]
    voiced: Annotated[bool, Field(strict=True)]
    aims: Annotated[tuple[Aim, ...], Field(min_length=1)]
    purpose: Text
    suits: Text
    sound: TextOrNothing = ""
    instruction: Text
    clinician_note: Text
    caution: Text
    set: dict[str, SettingEntry] = {}
    measured: tuple[Annotated[str, _one_of(FIGURE_WORDS)], ...] = ()
    counted: TextOrNothing = ""
    in_the_day: bool = False
    leans_on: Literal["", "first", "last"] = ""
    faults: tuple[FaultEntry, ...]
    grows: Growth = Growth.NONE
    rungs: dict[str, Text] | tuple[Text, ...] = ()
    substitutes: tuple[Text, ...] = ()
    equipment: frozenset[Equipment] = frozenset()
    skills: frozenset[Skill] = frozenset()
    touches: Touches = frozenset()
    rung_touches: tuple[Touches, ...] = ()

    @model_validator(mode="after")
    def _makes_sense(self) -> Self:
        for thing, touch in _MEANS.items():
            if thing in self.equipment and touch not in self.touches:
                raise ValueError(f"touches: {thing.value} means {touch.value}")
        if bool(measured_kind(self.kind)) != bool(self.measured):
            raise ValueError("measured: named for tasks measured from sound, and only for them")
        if (self.kind == COUNTED) != bool(self.counted):
            raise ValueError("counted: says what is counted in a counted task, and only there")
        if self.in_the_day and measured_kind(self.kind):
            raise ValueError("in_the_day: only for what is counted or timed")
        if self.kind != ADVICE and not self.faults:
            raise ValueError("faults: at least one with its cue")
        if (self.grows is Growth.NONE) == bool(self.rungs):
            raise ValueError("rungs: named from easy to hard where the task grows, and only there")
        if self.rung_touches and len(self.rung_touches) != len(self.rungs):
            raise ValueError("rung_touches: one list a rung")
        self._known_rungs()
        return self

    def _known_rungs(self) -> None:
        if self.grows is Growth.FORM and (odd := sorted(set(self.rungs) - set(SemiOccludedForm))):
            raise ValueError(
                f"rungs: {', '.join(odd)}: no forms; known: {', '.join(SemiOccludedForm)}"
            )
        if len({rung.code for rung in self.named_rungs}) != len(self.rungs):
            raise ValueError("rungs: two of one code")

    @property
    def named_rungs(self) -> tuple[Rung, ...]:
        if isinstance(self.rungs, dict):
            return tuple(Rung(code, words) for code, words in self.rungs.items())
        if self.grows is Growth.FORM:
            return tuple(form_rung(SemiOccludedForm(code)) for code in self.rungs)
        return tuple(rung_in_words(words) for words in self.rungs)


def read_entry(came: Any) -> CatalogueEntry:
    """One entry; Broken with the first thing that does not hold and where."""
    if not isinstance(came, dict):
        raise Broken("is no table")
    try:
        return CatalogueEntry.model_validate(came)
    except ValidationError as error:
        raise Broken(_said(error)) from error


def _said(error: ValidationError) -> str:
    first = error.errors(include_url=False)[0]
    where = ".".join(str(part) for part in first["loc"])
    kind, came = first["type"], first.get("input")
    if kind == "missing":
        return f"{where} is missing"
    if kind == "extra_forbidden":
        return f"{where} is not known here"
    if kind == "string_too_short":
        return f"{where} is empty"
    if kind == "string_type":
        return f"{where} is no text of up to {_LONGEST_TEXT} characters"
    if kind == "bool_type":
        return f"{where} is true or false, not {came!r}"
    words = first["msg"].removeprefix("Value error, ")
    if kind == "enum":
        return f"{where}: {came!r}; {words[0].lower()}{words[1:]}"
    return f"{where}: {words[0].lower()}{words[1:]}" if where else words
