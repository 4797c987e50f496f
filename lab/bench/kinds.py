"""The kinds of sound the measuring is judged on, as seeded voices in seeded surroundings."""

from collections.abc import Callable
from dataclasses import replace

import numpy as np

from core.notes.note import Note
from lab.simulate import surroundings
from lab.simulate.glottis import RATE_HZ
from lab.simulate.surroundings import Surroundings
from lab.simulate.voice import Voice

RATES_HZ = (16_000, 44_100, 48_000)
Dress = Callable[[Voice, np.random.Generator], Voice]
_RANGES = {"man": (40, 62), "woman": (53, 76), "child": (58, 79)}
_HUM_UNDER_DB = -10.0


def plain(random: np.random.Generator, seed: int) -> Voice:
    """A voice of any size, vowel, pitch and level, as a client might hold it."""
    size = str(random.choice(list(_RANGES)))
    note = Note(int(random.integers(*_RANGES[size])))
    return Voice(
        f0_hz=note.hz() * 2 ** (random.normal() * 0.2 / 12),
        seconds=float(random.uniform(1.5, 9.0)),
        level_db=float(random.uniform(-38, -18)),
        size=size,
        vowel=str(random.choice(["ah", "oh", "ee", "oo"])),
        wobble_semitones=float(random.uniform(0.03, 0.25)),
        jitter_percent=float(random.uniform(0.1, 0.5)),
        trail_off_db=float(random.uniform(-6, 0)),
        attack_s=float(random.uniform(0.02, 0.08)),
        release_s=float(random.uniform(0.02, 0.12)),
        seed=seed,
    )


def _low(voice: Voice, random: np.random.Generator) -> Voice:
    return replace(voice, f0_hz=float(random.uniform(75, 120)), size="man")


def _around(around: Surroundings) -> Dress:
    return lambda voice, random: replace(voice, around=around)


def _tone_before(voice: Voice, random: np.random.Generator) -> Voice:
    around = Surroundings(tone_before_s=float(random.uniform(0.15, 0.3)), tone_hz=voice.f0_hz)
    return replace(voice, around=around, lead_s=1.8)


def _talk_before(voice: Voice, random: np.random.Generator) -> Voice:
    around = Surroundings(talk_before_s=float(random.uniform(0.15, 0.3)))
    return replace(voice, around=around, lead_s=1.3)


def _broken(voice: Voice, random: np.random.Generator) -> Voice:
    seconds = float(random.uniform(5, 9))
    gaps = ((seconds * 0.3, float(random.uniform(0.07, 0.2))),)
    jump = (seconds * 0.6, float(random.uniform(0.15, 0.5)), float(random.choice([-12, -7, 5, 9])))
    return replace(voice, seconds=seconds, gaps=gaps, jumps=(jump,), trail_off_db=-2.0)


KINDS: dict[str, Dress] = {
    "clean": lambda voice, random: voice,
    "soft": lambda voice, random: replace(voice, level_db=float(random.uniform(-50, -42))),
    "breathy": lambda voice, random: replace(voice, breath_db=float(random.uniform(-12, -5))),
    "breath before": lambda voice, random: replace(
        voice,
        breathy_onset_s=float(random.uniform(0.08, 0.25)),
        breathy_onset_db=float(random.uniform(-20, -13)),
        attack_s=float(random.uniform(0.05, 0.15)),
    ),
    "creaking ends": lambda voice, random: replace(
        voice, creak_s=float(random.uniform(0.04, 0.09))
    ),
    "low and dark": lambda voice, random: replace(
        _low(voice, random), vowel="oo", f0_hz=float(random.uniform(64, 100))
    ),
    "hoarse": lambda voice, random: replace(
        voice, jitter_percent=1.8, shimmer_percent=9, breath_db=-12
    ),
    "shaky": lambda voice, random: replace(
        voice, tremor_hz=float(random.uniform(4, 7)), tremor_cents=90, tremor_db=2.5
    ),
    "subharmonics": lambda voice, random: replace(
        voice, diplophonia=float(random.uniform(0.1, 0.3))
    ),
    "breaks": _broken,
    "sung, high": lambda voice, random: replace(
        voice, f0_hz=float(random.uniform(600, 950)), size="sung", tremor_hz=5.5, tremor_cents=60
    ),
    "fan": _around(Surroundings(fan_db=-14.0)),
    "white noise": _around(Surroundings(white_db=-12.0)),
    "low voice in hum": lambda voice, random: _around(
        Surroundings(hum_db=_HUM_UNDER_DB, hum_hz=float(random.choice([50, 60])))
    )(_low(voice, random), random),
    "babble": _around(Surroundings(babble_db=-10.0)),
    "echoing room": _around(Surroundings(reverb_s=0.4)),
    "guide tone before": _tone_before,
    "word before": _talk_before,
    "cough, ticks": _around(Surroundings(cough_before_s=0.2, ticks_db=-22.0)),
}

Nothing = Callable[[int, np.random.Generator], np.ndarray]
NOTHING: dict[str, Nothing] = {
    "silence": lambda count, random: np.zeros(count),
    "room": lambda count, random: random.normal(size=count),
    "fan": surroundings.fan,
    "hum": lambda count, random: surroundings.hum(count, float(random.choice([50, 60])), random),
    "clicks": surroundings.ticks,
    "coughs": lambda count, random: np.resize(
        np.concatenate((surroundings.cough(random), np.zeros(RATE_HZ))), count
    ),
    "one talker": lambda count, random: surroundings.talk(count / RATE_HZ, random)[:count],
    "babble": surroundings.babble,
}
