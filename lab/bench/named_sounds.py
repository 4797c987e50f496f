"""The seeded sounds that the measuring is evaluated on, by name, each with its task."""

import zlib
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from functools import cache

import numpy as np
import soxr

from core.kinds.aim import AttemptTarget
from core.kinds.breath.aim import PaceTarget
from core.kinds.bubbles.aim import AirOnly
from core.kinds.pattern.aim import PatternTarget
from core.kinds.registry import kinds
from core.notes.note import Note
from core.sound.reading import Sound
from lab.bench.border_sounds import BORDERS
from lab.bench.kinds import KINDS, NOTHING, RATES_HZ, plain
from lab.kinds.attempt import SimulatedAttempt
from lab.kinds.bench_table import seeded_voice
from lab.kinds.breath import breathing
from lab.kinds.bubbles import bubbling
from lab.kinds.glide import gliding
from lab.kinds.level import speaking
from lab.kinds.pattern import singing
from lab.kinds.registry import simulated
from lab.kinds.sz import joining
from lab.simulate.glottis import RATE_HZ
from lab.simulate.surroundings import at_level
from lab.simulate.tasks import SimulatedSound, breathe
from lab.simulate.voice import Sung, Voice, sing

SEEDS = 3
_NOTHING_S = 8.0
_HOLE_S, _STEP_S = 0.0015, 0.02
_MACHINE_HZ, _MACHINE_UNDER_DB, _MACHINE_PARTIALS = 132.0, 14.0, 12


@dataclass(frozen=True, slots=True)
class NamedSound:
    """A sound, its task and the target it is measured against."""

    sound: Sound
    task: str
    aim: AttemptTarget | None = None


def names() -> list[str]:
    """All names: held notes first, then sounds without a hold, lost sound, and every kind of task."""
    return [
        *(f"{kind} {seed}" for kind in KINDS for seed in range(SEEDS)),
        *(f"only {kind}" for kind in NOTHING),
        *_LOST,
        _MACHINE,
        *(f"task {task} {seed}" for task in kinds() for seed in range(SEEDS)),
        *(f"{name} {seed}" for name in _VARIED for seed in range(SEEDS)),
        *_OFF_CENTS,
        *BORDERS,
    ]


@cache
def named_sound(name: str) -> NamedSound:
    """KeyError for a name that is none of `names`."""
    if name in _LOST:
        return NamedSound(_with_loss(name), "hold")
    if name == _MACHINE:
        return NamedSound(_beside_a_machine(), "hold")
    first, _, last = name.partition(" ")
    if first == "only":
        return NamedSound(_nothing(last), "hold")
    if first == "task":
        task, seed = last.rsplit(" ", 1)
        return NamedSound(_attempt(task, int(seed)), task)
    if name in BORDERS:
        return NamedSound(*BORDERS[name]())
    if name in _OFF_CENTS:
        return _off_the_note(_OFF_CENTS[name])
    kind, seed = name.rsplit(" ", 1)
    if kind in _VARIED:
        return _VARIED[kind](int(seed))
    return NamedSound(_held(kind, int(seed)), "hold")


def _random(seed: int, name: str) -> np.random.Generator:
    return np.random.default_rng((seed, zlib.crc32(name.encode())))


def _held(kind: str, seed: int) -> Sound:
    random = _random(seed, kind)
    sung = sing(KINDS[kind](plain(random, seed), random), RATES_HZ[seed % len(RATES_HZ)])
    return Sound(sung.samples, sung.rate_hz)


def _nothing(kind: str) -> Sound:
    random = _random(0, kind)
    sound = at_level(NOTHING[kind](int(_NOTHING_S * RATE_HZ), random), -30.0)
    return Sound(np.clip(soxr.resample(sound, RATE_HZ, 16_000), -1, 1), 16_000)


def _attempt(task: str, seed: int) -> Sound:
    voice = seeded_voice(_random(seed, task), seed, seconds=6.0)
    return Sound(simulated(task).perform(voice, SimulatedAttempt(seconds=6.0)), 16_000)


def _with_loss(name: str) -> Sound:
    """A held note with a run of zeros, or with a piece cut out, which leaves a step."""
    whole = _held("clean", 0)
    samples, middle = whole.samples.copy(), len(whole.samples) // 2
    if name == "zeros in a note":
        samples[middle : middle + round(_HOLE_S * whole.rate_hz)] = 0.0
        return replace(whole, samples=samples)
    cut = middle + int(np.abs(samples[middle : middle + 2_000]).argmax())
    rest = samples[cut + round(_STEP_S * whole.rate_hz) :]
    opposite = int((np.sign(samples[cut]) * rest[:2_000]).argmin())
    return replace(whole, samples=np.concatenate((samples[: cut + 1], rest[opposite:])))


def _beside_a_machine() -> Sound:
    """A held note with a machine humming steadily in the room."""
    voice = _held("clean", 0)
    time_s = np.arange(len(voice.samples)) / voice.rate_hz
    partials = np.arange(1, _MACHINE_PARTIALS + 1)[:, None]
    hum = (np.sin(2 * np.pi * _MACHINE_HZ * partials * time_s) / partials).sum(axis=0)
    loud_db = 20 * np.log10(float(np.sqrt(np.mean(voice.samples**2))))
    return replace(voice, samples=voice.samples + at_level(hum, loud_db - _MACHINE_UNDER_DB))


def _off_the_note(cents: float) -> NamedSound:
    """A held note some cents above its target."""
    aim = Note.named("A3")
    voice = Voice(f0_hz=aim.hz() * 2 ** (cents / 1200), seconds=4.0)
    return NamedSound(_of(sing(voice)), "hold", aim)


def _of(played: SimulatedSound | Sung) -> Sound:
    return Sound(played.samples, played.rate_hz)


def _pattern(seed: int) -> NamedSound:
    played, notes = singing(seed)
    return NamedSound(_of(played), "pattern", PatternTarget(notes))


def _air(seed: int) -> NamedSound:
    return NamedSound(_of(bubbling(seed, air_only=True)), "bubbles", AirOnly())


def _paced(seed: int) -> NamedSound:
    """Breaths a quarter second longer than the pace asked for, and half a second more each time."""
    aim = PaceTarget(in_s=2.0, out_s=3.0)
    late_s = 0.25 + 0.5 * seed
    return NamedSound(_of(breathe(in_s=2.0, out_s=3.0 + late_s, seed=seed)), "breath", aim)


_VARIED: Mapping[str, Callable[[int], NamedSound]] = {
    "uneven bubbles": lambda seed: NamedSound(_of(bubbling(seed)), "bubbles"),
    "bubbles of air": _air,
    "hiss, then buzz": lambda seed: NamedSound(_of(joining(seed)), "sz"),
    "scale pattern": _pattern,
    "talk": lambda seed: NamedSound(_of(speaking(seed, fade_db=-4.0 * seed)), "level"),
    "breaths": lambda seed: NamedSound(_of(breathing(seed)), "breath"),
    "paced breaths": _paced,
    "glide": lambda seed: NamedSound(_of(gliding(seed)), "glide"),
}
_OFF_CENTS = {"30 cents off": 30.0, "80 cents off": 80.0, "an octave off": 1200.0}
_MACHINE = "beside a machine"
_LOST = ("zeros in a note", "a piece cut out of a note")
