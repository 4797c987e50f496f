"""Done a number of times."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Annotated, ClassVar, Literal, Self

from core.catalogue.words import Growth
from core.notes.note import Note
from core.program import limits
from core.program.settable import Settable, a_count, a_note, a_number
from core.program.targets.common import Activity, Asked, Asks, Leg, Tempo, seconds_of
from core.reason import Because, Reason, says, told_as
from core.reference.limits import Limit

_FEWEST = 3
COUNT_IN_BEATS = 8
"""Beats counted before an entry."""
BREATH_ON = Limit(2, COUNT_IN_BEATS, "of 8")
"""The beat of the count-in on which the breath comes."""
SOUNDED_BEATS = 4
"""Beats the sound of an entry lasts, before the next is counted in."""


_COUNTED = says("asks_count", "{count} {unit}")
_NEAR = says("asks_near", "{count} near {note}")
_AT_TEMPO = says("asks_at_tempo", "{count}, {tempo:g} beats/min")
_UNITS = told_as(
    "counted", {"times": "times", "phrases": "phrases", "words": "words", "lines": "lines"}
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Counted(Asks):
    """Done a number of times, each of about `seconds_each`; near `note` where one is aimed at;
    tempo in beats/min where it is done to a beat; breath_on: the beat of the count-in on which the
    breath comes, where each is an entry after a count-in of eight."""

    kind: Literal["counted"] = "counted"
    count: Annotated[int, limits.COUNT.field]
    unit: str
    seconds_each: Annotated[float, limits.COUNTED_EACH_S.field]
    note: Note | None = None
    tempo_bpm: Tempo | None = None
    breath_on: Annotated[int, BREATH_ON.field] | None = None
    because: Because
    partly_voiced: ClassVar[bool] = True
    settables: ClassVar[tuple[Settable, ...]] = (
        a_count("count", "Times", limits.COUNT),
        a_number("seconds_each", "Seconds, each", limits.COUNTED_EACH_S, 0.5),
        a_note("note", "Near", optional=True),
        a_number("tempo_bpm", "Tempo", limits.TEMPO_BPM, 5, optional=True),
        a_count("breath_on", "Breath on beat", BREATH_ON, optional=True),
    )

    def __post_init__(self) -> None:
        limits.COUNT.check("count", self.count)
        limits.COUNTED_EACH_S.check("seconds each", self.seconds_each)
        if self.tempo_bpm is not None:
            limits.TEMPO_BPM.check("tempo_bpm", self.tempo_bpm)
        if self.breath_on is not None:
            BREATH_ON.check("breath_on", self.breath_on)

    @property
    def seconds(self) -> float:
        return self.count * self.seconds_each

    @property
    def notes(self) -> tuple[Note, ...]:
        return (self.note,) if self.note else ()

    def pitches(self) -> Iterator[tuple[Note, Note, float]]:
        if self.note:
            yield (self.note, self.note, self.seconds / 2)

    @property
    def beat_s(self) -> float | None:
        return seconds_of(1, self.tempo_bpm) if self.tempo_bpm else None

    def legs(self, place: int) -> tuple[Leg, ...]:
        """One entry: counted in, breathed in, sounded; none for what is not led to a beat."""
        if self.beat_s is None or self.breath_on is None:
            return ()
        before = self.breath_on - 1
        return (
            Leg(Activity.COUNT, before * self.beat_s),
            Leg(Activity.IN, (COUNT_IN_BEATS - before) * self.beat_s),
            Leg(Activity.VOICE, SOUNDED_BEATS * self.beat_s),
        )

    def asked(self, place: int) -> Asked:
        return Asked(seconds=self.seconds, note=self.note, count=self.count)

    def said(self, sound: str) -> str:
        said = _COUNTED(count=self.count, unit=_UNITS.get(self.unit, self.unit))
        if self.note:
            said = _NEAR(count=said, note=str(self.note))
        if self.tempo_bpm:
            said = _AT_TEMPO(count=said, tempo=self.tempo_bpm)
        return str(said)

    def climbed(self, growth: Growth, value: float, because: Reason) -> Self | None:
        if growth is Growth.TEMPO:
            return replace(self, tempo_bpm=value, because=because)
        if growth is Growth.COUNT:
            return replace(self, count=int(value), because=because)
        return None

    def shorter(self, less_s: float, *, graded: bool, rungs_are_targets: bool) -> Self | None:
        count = int(self.count - less_s / self.seconds_each)
        if rungs_are_targets or count < _FEWEST:
            return None
        return replace(self, count=count)
