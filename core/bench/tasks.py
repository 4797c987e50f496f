"""How true and how costly the measuring of the other tasks is: one line a figure."""

import time
from dataclasses import dataclass, field

import numpy as np

from core.bench.task_kinds import breathing, bubbling, gliding, hissed, joining, singing, speaking
from core.kinds.aim import AIR_ONLY, Target
from core.kinds.breath.figures import PacedBreath
from core.kinds.bubbles.figures import Bubbling
from core.kinds.join.figures import Joined
from core.kinds.live import measure_sound
from core.kinds.measured import Measured
from core.kinds.pattern.aim import PatternTarget
from core.kinds.pattern.figures import SungPattern
from core.kinds.registry import target_of
from core.kinds.speech.figures import Spoken
from core.simulate.tasks import Played
from core.simulate.voice import Sung
from core.sound.figures import Figures
from core.sound.reading import Sound

_STOP_WITHIN_S = 0.2


@dataclass
class Spent:
    """CPU seconds and seconds of sound so far."""

    cpu_s: float = 0.0
    sound_s: float = 0.0
    errors: dict[str, list[float]] = field(default_factory=dict)

    def measure(
        self, played: Played | Sung, task: Measured, target: Target | None = None
    ) -> Figures:
        """The figures of a sound; what it cost is added up."""
        began = time.process_time()
        found = measure_sound(Sound(played.samples, played.rate_hz), task, target=target)
        self.cpu_s += time.process_time() - began
        self.sound_s += len(played.samples) / played.rate_hz
        return found

    def add(self, name: str, error: float) -> None:
        self.errors.setdefault(name, []).append(abs(error))

    def rows(self, kind: str) -> list[str]:
        cost = f"{self.cpu_s / self.sound_s:.4f}"
        return [
            f"| {kind} | {name} | {np.median(found):.2f} | {np.percentile(found, 95):.2f} "
            f"| {max(found):.2f} | {cost} |"
            for name, found in self.errors.items()
        ]


def _length_error_s(found: Figures, played: Played | Sung) -> float:
    return (found.hold_s or 0.0) - (played.offset_s - played.onset_s)


def _bubbles(count: int, *, air_only: bool = False) -> list[str]:
    spent = Spent()
    aim = target_of(Measured.BUBBLES, AIR_ONLY) if air_only else None
    for seed in range(count):
        played = bubbling(seed, air_only=air_only)
        found = spent.measure(played, Measured.BUBBLES, aim)
        own = found.own
        rate = own.rate_hz if isinstance(own, Bubbling) and own.rate_hz else 0.0
        spent.add("rate, %", (rate / (played.bubble_hz or 1) - 1) * 100)
        if played.f0_hz:
            pitch = (found.f0_median_hz or 1) / played.f0_hz
            spent.add("pitch, cents", 1200 * np.log2(pitch))
        spent.add(
            "phonation time, s" if played.f0_hz else "time, s", _length_error_s(found, played)
        )
        stops = own.stops if isinstance(own, Bubbling) else ()
        missed = [s for s in played.stops if not any(_same(s, seen) for seen in stops)]
        spent.add("stops missed or false", len(missed) + len(stops) - len(played.stops))
    return spent.rows("bubbles, air only" if air_only else "bubbles")


def _air_bubbles(count: int) -> list[str]:
    return _bubbles(count, air_only=True)


def _same(one: tuple[float, float], two: tuple[float, float]) -> bool:
    return all(abs(a - b) < _STOP_WITHIN_S for a, b in zip(one, two, strict=True))


def _hisses(count: int) -> list[str]:
    spent = Spent()
    for seed in range(count):
        sung = hissed(seed)
        spent.add("seconds, ms", 1000 * _length_error_s(spent.measure(sung, Measured.HISS), sung))
    return spent.rows("hiss")


def _glides(count: int) -> list[str]:
    spent = Spent()
    for seed in range(count):
        sung = gliding(seed)
        glide = spent.measure(sung, Measured.GLIDE).glide
        low, high = np.nanmin(sung.f0_hz), np.nanmax(sung.f0_hz)
        ends = (glide.low_hz / low, glide.high_hz / high) if glide else (0.5, 0.5)
        spent.add("ends, semitones", float(np.abs(12 * np.log2(ends)).max()))
    return spent.rows("glide")


def _joins(count: int) -> list[str]:
    spent = Spent()
    for seed in range(count):
        played = joining(seed)
        own = spent.measure(played, Measured.SZ).own
        switch = own.switch_s if isinstance(own, Joined) and own.switch_s else 0.0
        gap = own.gap_s if isinstance(own, Joined) and own.gap_s else 0.0
        spent.add("switch, ms", 1000 * (switch - (played.switch_s or 0.0)))
        spent.add("silence, ms", 1000 * (gap - played.gap_s))
    return spent.rows("hiss to buzz")


def _patterns(count: int) -> list[str]:
    spent = Spent()
    for seed in range(count):
        played, notes = singing(seed)
        own = spent.measure(played, Measured.PATTERN, PatternTarget(notes)).own
        if not isinstance(own, SungPattern):
            spent.add("notes missing or added", len(notes))
            continue
        spent.add("notes missing or added", len(own.missing) + len(own.added))
        places = [p for p in range(len(notes)) if p not in own.missing]
        for place, note in zip(places, own.notes, strict=True):
            _name, start_s, _end_s, cents = played.notes[place]
            spent.add("note, cents", note.cents - cents)
            spent.add("start, ms", 1000 * (note.start_s - start_s))
    return spent.rows("pattern")


def _speech(count: int) -> list[str]:
    spent = Spent()
    for seed in range(count):
        soft, loud = (speaking(seed, level_db=level) for level in (-30.0, -24.0))
        one, two = (spent.measure(played, Measured.LEVEL) for played in (soft, loud))
        spent.add(
            "level against another, dB",
            (two.level_mean_db or 0.0) - (one.level_mean_db or 0.0) - 6.0,
        )
        phrases = len(one.own.phrases) if isinstance(one.own, Spoken) else 0
        spent.add("phrases", phrases - len(soft.phrases))
    return spent.rows("level")


def _breaths(count: int) -> list[str]:
    spent = Spent()
    for seed in range(count):
        played = breathing(seed)
        own = spent.measure(played, Measured.BREATH).own
        found = sorted((*own.ins, *own.outs)) if isinstance(own, PacedBreath) else []
        spent.add("breaths", len(found) - len(played.breaths))
        for seen, true in zip(found, played.breaths, strict=False):
            spent.add("length, s", seen[1] - seen[0] - (true[1] - true[0]))
    return spent.rows("breath")


def print_tasks(count: int) -> None:
    """One line a figure: middle, 95 % and worst distance from the truth."""
    print("\n| task | error of | median | 95 % | worst | CPU s per s |\n" + "|---" * 6 + "|")
    for lines in (_bubbles, _air_bubbles, _hisses, _glides, _joins, _patterns, _speech, _breaths):
        print("\n".join(lines(count)), flush=True)
