"""Notes taken while fitting: what to ask, what was assumed, and the reasons."""

from dataclasses import dataclass, field

from core.errors import PlanError
from core.reason import Reason


@dataclass(frozen=True, slots=True, kw_only=True)
class Notes:
    """Notes for the clinician in order, without duplicates. margin_semitones: distance of the notes from the ends
    of the range."""

    asked: tuple[Reason, ...] = ()
    assumed: tuple[Reason, ...] = ()
    reasons: tuple[Reason, ...] = ()
    margin_semitones: int = 0

    def __add__(self, other: "Notes") -> "Notes":
        return Notes(
            asked=_each_once(self.asked, other.asked),
            assumed=_each_once(self.assumed, other.assumed),
            reasons=_each_once(self.reasons, other.reasons),
            margin_semitones=max(self.margin_semitones, other.margin_semitones),
        )


def because(*reasons: Reason) -> Notes:
    """Notes that hold reasons only."""
    return Notes(reasons=_each_once(reasons, ()))


def to_ask(*reasons: Reason) -> Notes:
    """Notes that hold only what the clinician should ask or measure."""
    return Notes(asked=_each_once(reasons, ()))


def _each_once(first: tuple[Reason, ...], then: tuple[Reason, ...]) -> tuple[Reason, ...]:
    return tuple(dict.fromkeys((*first, *then)))


@dataclass(slots=True)
class Notebook:
    """Collects the notes of one fit."""

    asked: list[Reason] = field(default_factory=list)
    assumed: list[Reason] = field(default_factory=list)
    reasons: list[Reason] = field(default_factory=list)
    margin_semitones: int = 0

    @property
    def notes(self) -> Notes:
        return Notes() + Notes(
            asked=tuple(self.asked),
            assumed=tuple(self.assumed),
            reasons=tuple(self.reasons),
            margin_semitones=self.margin_semitones,
        )


class CannotFit(PlanError):
    """A task cannot be fitted to this client. `asked`: what to measure or ask so that it can."""

    def __init__(self, cause: PlanError, asked: tuple[Reason, ...]) -> None:
        super().__init__(cause.code, **cause.params)
        self.asked = asked
