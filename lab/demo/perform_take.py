"""What a demo client did in an attempt, performed by the simulators and measured like any other."""

import hashlib
from dataclasses import dataclass, replace

import numpy as np

from core.kinds.level.aim import LevelTarget
from core.kinds.live import measure_sound
from core.kinds.registry import target_of
from core.program.targets import Asked
from core.sound.figures import Figures
from core.sound.reading import Sound
from lab.kinds.attempt import SimulatedAttempt
from lab.kinds.registry import simulated
from lab.simulate.history import PlayedHold
from lab.simulate.voice import Voice

RATE_HZ = 16_000
_USUAL_TALK_DB = -34.0
_ROOM_DB = -68.0
_STRONG_OVER_DB = 6.5
_ANY_HZ = 220.0
_SHAKY_ONE_IN = 9
_CUT_ONE_IN = 11


@dataclass(frozen=True, slots=True, kw_only=True)
class Take:
    """All that one performance depends on.

    held: what the ability of the day gives; size: of the speaker, as the simulators know it;
    strong, over_db: strong work and how far over usual talk it aims, dB; reference_db: usual talk
    on this device as measured, dBFS; hiss_s: of a hiss that turns to buzz; contour: whether its
    contour is kept.
    """

    task: str
    asked: Asked
    held: PlayedHold
    seed: int
    a4_hz: float
    size: str
    strong: bool = False
    over_db: float | None = None
    reference_db: float | None = None
    hiss_s: float = 0.0
    contour: bool = False

    @property
    def key(self) -> str:
        """Equal for equal performances, whether or not the contour is kept."""
        said = repr(replace(self, contour=False))
        return hashlib.sha256(said.encode()).hexdigest()[:24]


def performed(take: Take) -> Figures:
    """One attempt, sung, spoken or blown and measured; one voice in nine shakes, one in eleven cuts
    out for an instant."""
    aim = (
        LevelTarget(reference_db=take.reference_db, over_db=take.over_db)
        if take.reference_db is not None
        else target_of(take.task, take.asked.aim)
    )
    sound = Sound(sounding(take), RATE_HZ)
    return measure_sound(sound, take.task, target=aim, a4_hz=take.a4_hz)


def _voice(take: Take) -> Voice:
    asked, held, seed = take.asked, take.held, take.seed
    random = np.random.default_rng(seed)
    low_hz = asked.note.hz(take.a4_hz) if asked.note else _ANY_HZ
    seconds = min(held.seconds, asked.seconds * 1.3)
    shaky = seed % _SHAKY_ONE_IN == 2
    cut = seed % _CUT_ONE_IN == 3 and asked.end is None
    return Voice(
        f0_hz=low_hz * 2 ** (held.cents / 1200),
        seconds=seconds,
        size=take.size,
        level_db=held.level_db + (_STRONG_OVER_DB if take.strong else 0.0),
        wobble_semitones=held.pitch_sd_semitones,
        trail_off_db=held.trail_off_db * 1.25,
        glide_to_hz=asked.end.hz(take.a4_hz) if asked.end else None,
        tremor_hz=5.1 if shaky else 0.0,
        tremor_cents=45.0 if shaky else 0.0,
        gaps=((seconds * 0.7, 0.13),) if cut else (),
        attack_s=float(random.uniform(0.03, 0.09)),
        release_s=float(random.uniform(0.05, 0.2)),
        noise_db=_ROOM_DB,
        seed=seed,
    )


def sounding(take: Take) -> np.ndarray:
    """The sound of a performance: samples in −1…1, shape (n,), at RATE_HZ; equal whenever it is asked for."""
    voice = _speaker(take) if take.task == "level" else _voice(take)
    attempt = SimulatedAttempt(
        seconds=take.asked.seconds,
        aim=target_of(take.task, take.asked.aim),
        hiss_s=take.hiss_s,
        late=1 + 0.04 * take.held.cents / 14,
        size=take.size,
    )
    return simulated(take.task).perform(voice, attempt)


def _speaker(take: Take) -> Voice:
    over_db = _STRONG_OVER_DB if take.strong else 0.0
    return Voice(
        f0_hz=_ANY_HZ,
        seconds=take.asked.seconds,
        level_db=_USUAL_TALK_DB + over_db,
        noise_db=_ROOM_DB,
        seed=take.seed,
    )
