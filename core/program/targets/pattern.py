"""A scale pattern through its keys."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Any, ClassVar, Literal, Self

from core.errors import PlanError
from core.notes.note import Note
from core.notes.scale import DEGREES
from core.program import limits
from core.program.settable import Settable, SettingType, a_number
from core.program.targets.common import Activity, Asked, Asks, Leg, Tempo, seconds_of
from core.reason import Because, Reason, says

_TUNE = says("asks_tune", "“{tune}”: {notes}")
_KEYS = says("asks_keys", "{count} keys, {first} ↓ {lowest} ↑ {highest}")
_PATTERN = says("asks_pattern", "{degrees} in {keys}, {tempo:g} beats/min, {seconds:.0f} s")


@dataclass(frozen=True, slots=True, kw_only=True)
class Pattern(Asks):
    """A scale pattern sung from each key in turn; an attempt is one key.

    degrees: of the major scale, 1–9, 1 = the key; keys: start notes in order; tempo: beats/min,
    one note a beat; a breath of two beats follows each key; tune: its name where it is one.
    """

    kind: Literal["pattern"] = "pattern"
    degrees: tuple[int, ...]
    keys: tuple[Note, ...]
    tempo_bpm: Tempo
    because: Because
    tune: str = ""
    prepared: ClassVar[bool] = True
    runs_on: ClassVar[bool] = True
    settables: ClassVar[tuple[Settable, ...]] = (
        Settable(key="degrees", words="Degrees of the scale", sort=SettingType.DEGREES),
        Settable(key="keys", words="Keys, in order", sort=SettingType.NOTES),
        a_number("tempo_bpm", "Tempo", limits.TEMPO_BPM, 5),
    )

    def __post_init__(self) -> None:
        limits.TEMPO_BPM.check("tempo_bpm", self.tempo_bpm)
        limits.PATTERN_NOTES.check("notes of a pattern", len(self.degrees))
        limits.PATTERN_KEYS.check("keys", len(self.keys))
        for degree in self.degrees:
            if degree not in DEGREES:
                raise PlanError("degree_unknown", degree=degree, known="1–9")

    def in_key(self, key: Note) -> tuple[Note, ...]:
        """The notes of the pattern from one start key."""
        return tuple(key.up(DEGREES[degree]) for degree in self.degrees)

    @property
    def sung_s(self) -> float:
        return len(self.keys) * len(self.degrees) * 60 / self.tempo_bpm

    @property
    def seconds(self) -> float:
        return self.sung_s + len(self.keys) * 2 * 60 / self.tempo_bpm

    @property
    def attempts(self) -> int:
        return len(self.keys)

    @property
    def notes(self) -> tuple[Note, ...]:
        return tuple(note for key in self.keys for note in self.in_key(key))

    def pitches(self) -> Iterator[tuple[Note, Note, float]]:
        beat_s = 60 / self.tempo_bpm
        return ((note, note, beat_s) for note in self.notes)

    def asked(self, place: int) -> Asked:
        key = self.keys[place]
        seconds = len(self.degrees) * 60 / self.tempo_bpm
        return Asked(
            seconds=seconds, note=key, aim=" ".join(note.name for note in self.in_key(key))
        )

    @property
    def beat_s(self) -> float | None:
        return seconds_of(1, self.tempo_bpm)

    def legs(self, place: int) -> tuple[Leg, ...]:
        beat_s = seconds_of(1, self.tempo_bpm)
        notes = self.in_key(self.keys[place])
        return tuple(Leg(Activity.VOICE, beat_s, note, note) for note in notes)

    def with_setting(self, key: str, value: Any, because: Reason) -> Self:
        """Other degrees are no longer the tune they were."""
        tune = "" if key == "degrees" and value != self.degrees else self.tune
        return replace(self, **{key: value}, tune=tune, because=because)

    def said(self, sound: str) -> str:
        keys = _KEYS(
            count=len(self.keys),
            first=str(self.keys[0]),
            lowest=str(min(self.keys)),
            highest=str(max(self.keys)),
        )
        notes = _PATTERN(
            degrees=" ".join(map(str, self.degrees)),
            keys=keys if len(self.keys) > 1 else str(self.keys[0]),
            tempo=self.tempo_bpm,
            seconds=self.seconds,
        )
        return str(_TUNE(tune=self.tune, notes=notes) if self.tune else notes)
