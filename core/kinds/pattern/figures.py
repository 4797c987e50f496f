"""Figures of a scale pattern."""

from dataclasses import dataclass
from typing import Any, ClassVar, Self

from core.sound.task_figures import LevelIndependent, Span, read_spans, rounded, spans_data


@dataclass(frozen=True, slots=True, kw_only=True)
class SungNote:
    """One note as it was sung: its name, from when to when (s), cents from it."""

    name: str
    start_s: float
    end_s: float
    cents: float

    def as_data(self) -> dict[str, Any]:
        return {
            "name": self.name,
            "start_s": round(self.start_s, 3),
            "end_s": round(self.end_s, 3),
            "cents": round(self.cents, 1),
        }


@dataclass(frozen=True, slots=True, kw_only=True)
class SungPattern(LevelIndependent):
    """The notes of a pattern as sung.

    notes: those of the pattern, in order; added: others; missing: places of the pattern (from 0)
    that were not sung; key_semitones: how far from the prescribed key; note_s: seconds from note
    to note (None under two notes) and its SD in percent; breaths: silences inside (s).
    """

    key: ClassVar[str] = "pattern"
    notes: tuple[SungNote, ...]
    key_semitones: int = 0
    missing: tuple[int, ...] = ()
    added: tuple[SungNote, ...] = ()
    note_s: float | None = None
    tempo_sd_percent: float | None = None
    breaths: tuple[Span, ...] = ()

    def as_data(self) -> dict[str, Any]:
        return {
            "notes": [note.as_data() for note in self.notes],
            self.key: {
                "key_semitones": self.key_semitones,
                "missing": list(self.missing),
                "added": [note.as_data() for note in self.added],
                "note_s": rounded(self.note_s, 3),
                "tempo_sd_percent": rounded(self.tempo_sd_percent, 1),
                "breaths": spans_data(self.breaths),
            },
        }

    @classmethod
    def read(cls, data: dict[str, Any]) -> Self:
        own = data[cls.key]
        return cls(
            **{
                **own,
                "notes": tuple(SungNote(**note) for note in data["notes"]),
                "added": tuple(SungNote(**note) for note in own["added"]),
                "missing": tuple(own["missing"]),
                "breaths": read_spans(own["breaths"]),
            }
        )
