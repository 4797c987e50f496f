"""A played hold sung by the simulated voice and measured like any other, contour and all."""

import numpy as np

from core.plans.asked import asked_of
from core.plans.step import Step
from core.simulate.history import PlayedHold
from core.simulate.voice import Voice, sing
from core.sound.figures import Figures
from core.sound.live import measure_sound
from core.sound.reading import Sound
from core.sound.tasks import Measured


def sung_figures(step: Step, place: int, held: PlayedHold, *, seed: int, a4_hz: float) -> Figures:
    """Sing and measure it; every fifth attempt shakes a little and one in seven cuts out."""
    asked = asked_of(step, place)
    note = asked.note if asked.end is None else None
    random = np.random.default_rng(seed)
    low = asked.note.hz(a4_hz) if asked.note else 220.0
    high = asked.end.hz(a4_hz) if asked.end else 2 * low
    voice = Voice(
        f0_hz=(note.hz(a4_hz) if note else low) * 2 ** (held.cents / 1200),
        seconds=held.seconds,
        level_db=held.level_db,
        wobble_semitones=held.pitch_sd_semitones,
        trail_off_db=held.trail_off_db * 1.25,
        glide_to_hz=None if note else high,
        tremor_hz=5.1 if seed % 5 == 2 else 0.0,
        tremor_cents=45.0 if seed % 5 == 2 else 0.0,
        gaps=((held.seconds * 0.7, 0.13),) if note and seed % 7 == 3 else (),
        attack_s=float(random.uniform(0.03, 0.09)),
        release_s=float(random.uniform(0.05, 0.2)),
        noise_db=-68.0,
        seed=seed,
    )
    sung = sing(voice)
    task = Measured.HOLD if note else Measured.GLIDE
    return measure_sound(Sound(sung.samples, sung.rate_hz), task, target=note, a4_hz=a4_hz)
