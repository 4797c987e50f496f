"""What a demo client did in an attempt, performed by the simulators and measured like any other."""

from dataclasses import replace

import numpy as np

from core.kinds.aim import Target
from core.kinds.live import measure_sound
from core.kinds.measured import Measured
from core.kinds.pattern.aim import PatternTarget
from core.kinds.registry import target_of
from core.kinds.speech.aim import LevelTarget
from core.plans.asked import asked_of
from core.plans.step import Step
from core.plans.targets import Asked, Blow, Join, Pace, Pattern
from core.simulate.history import PlayedHold
from core.simulate.tasks import breathe, bubble, hiss_to_buzz, sing_pattern, speak
from core.simulate.voice import Voice, sing
from core.sound.figures import Figures
from core.sound.reading import Sound

RATE_HZ = 16_000
USUAL_TALK_DB = -34.0
_ROOM_DB = -68.0
_TALK_S = 11.0
_STRONG_OVER_DB = 6.5


def talked(seconds: float, *, level_db: float, seed: int, target: LevelTarget | None) -> Figures:
    """Talk of about so many seconds; a stretch of it is spoken once and repeated."""
    phrases = max(round(min(seconds, _TALK_S) / 2.4), 1)
    said = speak(
        phrases=phrases, level_db=level_db, fade_db=-3.5, noise_db=_ROOM_DB, size="man", seed=seed
    ).samples
    whole = np.tile(said, max(round(seconds * RATE_HZ / len(said)), 1))
    return measure_sound(Sound(whole, RATE_HZ), Measured.LEVEL, target=target)


def performed(step: Step, place: int, held: PlayedHold, *, seed: int, a4_hz: float) -> Figures:
    """One attempt of a measured step; every fifth voice shakes a little, one in seven cuts out."""
    asked, task = asked_of(step, place), step.kind.measured
    if task is None:
        raise ValueError(f"{step.task} is not measured")
    strong_db = _STRONG_OVER_DB if step.level else 0.0
    if task is Measured.LEVEL:
        over_db = step.level.over_db if step.level else None
        aim = LevelTarget(reference_db=USUAL_TALK_DB, over_db=over_db)
        level_db = USUAL_TALK_DB + strong_db
        return talked(asked.seconds, level_db=level_db, seed=seed, target=aim)
    voice = _voice(asked, held, strong_db, seed, a4_hz)
    samples = _sound(step, asked, task, voice, held)
    target: Target | None = target_of(task, asked.aim)
    return measure_sound(Sound(samples, RATE_HZ), task, target=target, a4_hz=a4_hz)


def _voice(asked: Asked, held: PlayedHold, strong_db: float, seed: int, a4_hz: float) -> Voice:
    random = np.random.default_rng(seed)
    gliding = asked.end is not None
    low_hz = asked.note.hz(a4_hz) if asked.note else 220.0
    seconds = min(held.seconds, asked.seconds * 1.3)
    return Voice(
        f0_hz=low_hz * 2 ** (held.cents / 1200),
        seconds=seconds,
        level_db=held.level_db + strong_db,
        wobble_semitones=held.pitch_sd_semitones,
        trail_off_db=held.trail_off_db * 1.25,
        glide_to_hz=asked.end.hz(a4_hz) if asked.end else None,
        tremor_hz=5.1 if seed % 5 == 2 else 0.0,
        tremor_cents=45.0 if seed % 5 == 2 else 0.0,
        gaps=((seconds * 0.7, 0.13),) if not gliding and seed % 7 == 3 else (),
        attack_s=float(random.uniform(0.03, 0.09)),
        release_s=float(random.uniform(0.05, 0.2)),
        noise_db=_ROOM_DB,
        seed=seed,
    )


def _sound(step: Step, asked: Asked, task: Measured, voice: Voice, held: PlayedHold) -> np.ndarray:
    target = step.target
    if task is Measured.BUBBLES:
        stops = ((voice.seconds * 0.6, 0.5),) if voice.seed % 4 == 1 else ()
        return bubble(voice, bubble_hz=14.0 + voice.seed % 5, stops=stops).samples
    if task is Measured.SZ and isinstance(target, Join):
        gap_s = 0.07 if voice.seed % 3 == 0 else 0.0
        buzz = replace(voice, seconds=max(voice.seconds - target.hiss_s, 0.5))
        return hiss_to_buzz(buzz, hiss_s=target.hiss_s, gap_s=gap_s).samples
    if task is Measured.HISS or isinstance(target, Blow):
        return sing(Voice(f0_hz=200.0, seconds=voice.seconds, hiss=True, seed=voice.seed)).samples
    if task is Measured.PATTERN and isinstance(target, Pattern):
        aimed = target_of(task, asked.aim)
        notes = aimed.notes if isinstance(aimed, PatternTarget) else ()
        off = np.random.default_rng(voice.seed).normal(0, 18, len(notes)).tolist()
        return sing_pattern(voice, notes, note_s=60 / target.tempo_bpm, cents=off).samples
    if task is Measured.BREATH and isinstance(target, Pace):
        late = 1 + 0.04 * held.cents / 14
        return breathe(
            in_s=target.in_s, out_s=max(target.out_s * late, 1.0), cycles=1, seed=voice.seed
        ).samples
    return sing(voice).samples
