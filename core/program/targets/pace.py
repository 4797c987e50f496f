"""Breathing in and out on counted beats."""

from dataclasses import dataclass, replace
from typing import Annotated, ClassVar, Literal, Self

from core.catalogue.words import Growth
from core.program import limits
from core.program.settable import Settable, a_count, a_number, a_yes
from core.program.targets.common import Activity, Asked, Asks, Leg, Tempo, seconds_of
from core.reason import Because, Reason, says

_PACE = says(
    "asks_pace",
    "in {beats_in}, out {beats_out} beats at {tempo:g}/min = {in_s:.1f} / {out_s:.1f} s, {breaths} breaths",
)
_LAST_PUFF = says("asks_last_puff", "{asked}, last puff")


@dataclass(frozen=True, slots=True, kw_only=True)
class Pace(Asks):
    """Breathing in and out on counted beats, a number of times; tempo in beats/min."""

    kind: Literal["pace"] = "pace"
    beats_in: Annotated[int, limits.BEATS_IN.field]
    beats_out: Annotated[int, limits.BEATS_OUT.field]
    tempo_bpm: Tempo
    breaths: Annotated[int, limits.BREATHS.field]
    last_puff: bool = False
    because: Because
    runs_on: ClassVar[bool] = True
    settables: ClassVar[tuple[Settable, ...]] = (
        a_count("beats_in", "Beats in", limits.BEATS_IN),
        a_count("beats_out", "Beats out", limits.BEATS_OUT),
        a_number("tempo_bpm", "Tempo", limits.TEMPO_BPM, 5),
        a_count("breaths", "Breaths", limits.BREATHS),
        a_yes("last_puff", "A last puff"),
    )

    def __post_init__(self) -> None:
        limits.TEMPO_BPM.check("tempo_bpm", self.tempo_bpm)
        limits.BEATS_IN.check("beats in", self.beats_in)
        limits.BEATS_OUT.check("beats out", self.beats_out)
        limits.BREATHS.check("breaths", self.breaths)
        limits.PACE_S.check("seconds in", self.in_s)
        limits.PACE_S.check("seconds out", self.out_s)

    @property
    def in_s(self) -> float:
        return seconds_of(self.beats_in, self.tempo_bpm)

    @property
    def out_s(self) -> float:
        return seconds_of(self.beats_out, self.tempo_bpm)

    @property
    def seconds(self) -> float:
        return self.breaths * (self.in_s + self.out_s)

    @property
    def attempts(self) -> int:
        return self.breaths

    @property
    def beat_s(self) -> float | None:
        return seconds_of(1, self.tempo_bpm)

    @property
    def forceful(self) -> bool:
        return self.last_puff

    def asked(self, place: int) -> Asked:
        aim = f"in {self.in_s:g} out {self.out_s:g}"
        return Asked(seconds=self.in_s + self.out_s, aim=aim)

    def legs(self, place: int) -> tuple[Leg, ...]:
        return (Leg(Activity.IN, self.in_s), Leg(Activity.OUT, self.out_s))

    def said(self, sound: str) -> str:
        asked = _PACE(
            beats_in=self.beats_in,
            beats_out=self.beats_out,
            tempo=self.tempo_bpm,
            in_s=self.in_s,
            out_s=self.out_s,
            breaths=self.breaths,
        )
        return str(_LAST_PUFF(asked=asked) if self.last_puff else asked)

    def air_s(self, rung: float | None) -> float | None:
        return self.out_s if rung is None else seconds_of(rung, self.tempo_bpm)

    def climbed(self, growth: Growth, value: float, because: Reason) -> Self | None:
        if growth is not Growth.BEATS_OUT:
            return None
        return replace(self, beats_out=int(value), because=because)
