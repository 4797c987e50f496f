"""What a kind of task shows to its readers."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from core.kinds.finding import Finding
from core.notes.note import Note
from core.sound.figures import Figures
from web.design.drawings.held_marks import MarkedStretch, Rings

Row = tuple[str, str]


@dataclass(frozen=True, slots=True, kw_only=True)
class Drawn:
    """What is drawn beside pitch and level: gaps (s), notes sung (s, s, note), rings of bubbles,
    stretches with their words; sung: the notes as a table."""

    gaps: Sequence[tuple[float, float]] = ()
    notes: Sequence[tuple[float, float, Note]] = ()
    rings: Rings | None = None
    stretches: Sequence[MarkedStretch] = ()
    sung: Sequence[tuple[str, str, str]] = ()


def gaps_of(figures: Figures) -> list[tuple[float, float]]:
    """Where the voice was away, s."""
    return [(b.start_s, b.end_s) for b in figures.breaks if b.kind == "gap"]


def plainly(figures: Figures) -> Drawn:
    return Drawn(gaps=gaps_of(figures))


def no_rows(_figures: Figures) -> list[Row]:
    return []


def nothing_short(_figures: Figures, _a4_hz: float) -> str:
    return ""


def number(value: float | None, pattern: str) -> str:
    """A figure with its unit; "–" where it is not known, a true minus."""
    return "–" if value is None else (pattern % value).replace("-", "−")


@dataclass(frozen=True, slots=True, kw_only=True)
class Face:
    """How one kind is said and drawn.

    to_client: a finding in plain words with what to try; to_clinician: the field's terms as a
    pattern for the finding's values; both None for findings of others, "" for what is not said.
    in_short: what the task is for in a few words (figures, concert pitch in Hz), "" where columns
    say it; rows: label and text of its own figures; sloped: whether its level has a slope; picture: what the
    client sees while doing it, by its name in practice/pictures.js; for_seconds: whether its goal is to last.
    """

    to_client: Callable[[Finding], str | None]
    to_clinician: Callable[[Finding], str | None]
    in_short: Callable[[Figures, float], str] = nothing_short
    rows: Callable[[Figures], list[Row]] = no_rows
    drawn: Callable[[Figures], Drawn] = plainly
    sloped: bool = True
    picture: str = "line"
    for_seconds: bool = True
