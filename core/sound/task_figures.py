"""Figures that belong to one task only, to and from the open JSON shape."""

from dataclasses import dataclass, replace
from typing import Any, ClassVar, Protocol, Self

Span = tuple[float, float]


class TaskFigures(Protocol):
    """Figures of one task under the keys of the open format."""

    def as_data(self) -> dict[str, Any]: ...


def _spans(spans: tuple[Span, ...]) -> list[dict[str, float]]:
    return [{"start_s": round(start, 3), "end_s": round(end, 3)} for start, end in spans]


def _read_spans(data: list[dict[str, float]]) -> tuple[Span, ...]:
    return tuple((span["start_s"], span["end_s"]) for span in data)


def _rounded(value: float | None, places: int) -> float | None:
    return None if value is None else round(float(value), places)


@dataclass(frozen=True, slots=True, kw_only=True)
class Bubbles:
    """Bubbles a second (Hz, None = none rose), where they stopped (s), and how far the sound swings
    with them (dB)."""

    key: ClassVar[str] = "bubbles"
    rate_hz: float | None
    swing_db: float
    stops: tuple[Span, ...] = ()

    def as_data(self) -> dict[str, Any]:
        rate, swing = _rounded(self.rate_hz, 2), round(self.swing_db, 1)
        return {self.key: {"rate_hz": rate, "swing_db": swing, "stops": _spans(self.stops)}}

    @classmethod
    def read(cls, data: dict[str, Any]) -> Self:
        return cls(**{**data[cls.key], "stops": _read_spans(data[cls.key]["stops"])})


@dataclass(frozen=True, slots=True, kw_only=True)
class Swell:
    """How an even sound rises and falls: dB up to its loudest, dB down after it, and where that
    is (share of its length, 0–1)."""

    key: ClassVar[str] = "swell"
    rise_db: float
    fall_db: float
    peak_at: float

    def as_data(self) -> dict[str, Any]:
        return {
            self.key: {
                "rise_db": round(self.rise_db, 1),
                "fall_db": round(self.fall_db, 1),
                "peak_at": round(self.peak_at, 2),
            }
        }

    @classmethod
    def read(cls, data: dict[str, Any]) -> Self:
        return cls(**data[cls.key])


@dataclass(frozen=True, slots=True, kw_only=True)
class Join:
    """Where the buzz begins (s) and the silence before it (s); both None where one of the two
    sounds is missing. hiss_s, buzz_s: how long each was."""

    key: ClassVar[str] = "sz"
    switch_s: float | None
    gap_s: float | None
    hiss_s: float
    buzz_s: float

    def as_data(self) -> dict[str, Any]:
        return {
            self.key: {
                "switch_s": _rounded(self.switch_s, 4),
                "gap_s": _rounded(self.gap_s, 3),
                "hiss_s": round(self.hiss_s, 3),
                "buzz_s": round(self.buzz_s, 3),
            }
        }

    @classmethod
    def read(cls, data: dict[str, Any]) -> Self:
        return cls(**data[cls.key])


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
class SungPattern:
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
                "note_s": _rounded(self.note_s, 3),
                "tempo_sd_percent": _rounded(self.tempo_sd_percent, 1),
                "breaths": _spans(self.breaths),
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
                "breaths": _read_spans(own["breaths"]),
            }
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class Phrase:
    """One phrase: from when to when (s), its level (dB), end against beginning (dB)."""

    start_s: float
    end_s: float
    level_db: float
    trail_off_db: float | None

    def as_data(self) -> dict[str, Any]:
        return {
            "start_s": round(self.start_s, 3),
            "end_s": round(self.end_s, 3),
            "level_db": round(self.level_db, 1),
            "trail_off_db": _rounded(self.trail_off_db, 1),
        }


@dataclass(frozen=True, slots=True, kw_only=True)
class Speech:
    """Speech, counting or reading.

    voiced_s: voiced time; over_reference_db: level over the client's reference (None without
    one); over_target_share: share of the voiced time at or over the target (0–1, None without
    one); shouted_share: share far over it; trail_off_db: median of the phrases (negative =
    fading); words_a_minute: None unless the words are known; mode_hz: commonest pitch.
    """

    key: ClassVar[str] = "speech"
    phrases: tuple[Phrase, ...]
    voiced_s: float
    mode_hz: float | None
    trail_off_db: float | None = None
    over_reference_db: float | None = None
    over_target_share: float | None = None
    shouted_share: float | None = None
    words_a_minute: float | None = None

    def without_levels(self) -> "Speech":
        """What is left where the device changes its gain by itself."""
        return replace(
            self,
            phrases=(),
            trail_off_db=None,
            over_reference_db=None,
            over_target_share=None,
            shouted_share=None,
        )

    def as_data(self) -> dict[str, Any]:
        return {
            self.key: {
                "phrases": [phrase.as_data() for phrase in self.phrases],
                "voiced_s": round(self.voiced_s, 2),
                "mode_hz": _rounded(self.mode_hz, 1),
                "trail_off_db": _rounded(self.trail_off_db, 1),
                "over_reference_db": _rounded(self.over_reference_db, 2),
                "over_target_share": _rounded(self.over_target_share, 3),
                "shouted_share": _rounded(self.shouted_share, 3),
                "words_a_minute": _rounded(self.words_a_minute, 1),
            }
        }

    @classmethod
    def read(cls, data: dict[str, Any]) -> Self:
        phrases = tuple(Phrase(**phrase) for phrase in data[cls.key]["phrases"])
        return cls(**{**data[cls.key], "phrases": phrases})


@dataclass(frozen=True, slots=True, kw_only=True)
class PacedBreath:
    """Breaths heard, in and out by turns (s), and their middle lengths (s); off_pace_s: the
    longest distance of a middle length from the pace, None without one."""

    key: ClassVar[str] = "breaths"
    ins: tuple[Span, ...]
    outs: tuple[Span, ...]
    in_s: float | None
    out_s: float | None
    off_pace_s: float | None = None

    def as_data(self) -> dict[str, Any]:
        return {
            self.key: {
                "in": _spans(self.ins),
                "out": _spans(self.outs),
                "in_s": _rounded(self.in_s, 2),
                "out_s": _rounded(self.out_s, 2),
                "off_pace_s": _rounded(self.off_pace_s, 2),
            }
        }

    @classmethod
    def read(cls, data: dict[str, Any]) -> Self:
        own = data[cls.key]
        lengths = {key: own[key] for key in ("in_s", "out_s", "off_pace_s")}
        return cls(ins=_read_spans(own["in"]), outs=_read_spans(own["out"]), **lengths)


KINDS = (Bubbles, Swell, Join, SungPattern, Speech, PacedBreath)


def read_task_figures(data: dict[str, Any] | None) -> TaskFigures | None:
    """What `as_data` gave, read back; None for nothing."""
    for kind in KINDS:
        if data and kind.key in data:
            return kind.read(data)
    return None
