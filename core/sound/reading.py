"""Reads a sound file and refuses what cannot be measured."""

import io
from dataclasses import dataclass
from pathlib import Path

import numpy as np
import soundfile

from core.errors import SoundError

MAX_SECONDS = 120.0
MAX_BYTES = 25 * 1024 * 1024
LOWEST_RATE_HZ = 8_000
HIGHEST_RATE_HZ = 96_000


@dataclass(frozen=True, slots=True)
class Sound:
    """Mono samples, float64 in −1…1, shape (n,), at `rate_hz`."""

    samples: np.ndarray
    rate_hz: int

    @property
    def seconds(self) -> float:
        return len(self.samples) / self.rate_hz


def read_sound(source: bytes | Path) -> Sound:
    """Read WAV (8–32 bit, float), FLAC or OGG at 8–96 kHz; of two channels the better one.

    Raises SoundError: "sound_empty", "sound_too_large" (25 MB), "sound_unreadable",
    "sound_truncated", "rate_out_of_limits", "sound_too_long" (120 s), "sound_not_finite".
    """
    data = source.read_bytes() if isinstance(source, Path) else source
    if not data:
        raise SoundError("sound_empty")
    if len(data) > MAX_BYTES:
        raise SoundError("sound_too_large", bytes=len(data), limit=MAX_BYTES)
    _refuse_truncated(data)
    try:
        with soundfile.SoundFile(io.BytesIO(data)) as file:
            rate, frames = file.samplerate, file.frames
            if not LOWEST_RATE_HZ <= rate <= HIGHEST_RATE_HZ:
                raise SoundError(
                    "rate_out_of_limits", hz=rate, low=LOWEST_RATE_HZ, high=HIGHEST_RATE_HZ
                )
            if frames > MAX_SECONDS * rate:
                raise SoundError("sound_too_long", seconds=frames / rate, limit=MAX_SECONDS)
            channels = file.read(dtype="float64", always_2d=True)
    except soundfile.LibsndfileError as error:
        raise SoundError("sound_unreadable", reason=str(error.error_string)) from error
    if len(channels) == 0:
        raise SoundError("sound_empty")
    if len(channels) < frames:
        raise SoundError("sound_truncated", had=len(channels), expected=frames)
    if not np.isfinite(channels).all():
        raise SoundError("sound_not_finite")
    return Sound(better_channel(channels), rate)


def better_channel(channels: np.ndarray) -> np.ndarray:
    """The louder channel that is not clipped; shape (n, channels) → (n,)."""
    power = (channels**2).mean(axis=0)
    clipped = (np.abs(channels) >= CLIPPED_AT).mean(axis=0)
    return np.ascontiguousarray(channels[:, np.lexsort((-power, clipped > CLIPPED_SHARE))[0]])


CLIPPED_AT = 0.999
CLIPPED_SHARE = 0.001


def _refuse_truncated(data: bytes) -> None:
    """A RIFF file whose header promises more sound than came."""
    if data[:4] != b"RIFF" or len(data) < 12:
        return
    at = 12
    while at + 8 <= len(data):
        size = int.from_bytes(data[at + 4 : at + 8], "little")
        if data[at : at + 4] == b"data":
            if size != 0xFFFFFFFF and at + 8 + size > len(data):
                raise SoundError("sound_truncated", had=len(data) - at - 8, expected=size)
            return
        at += 8 + size + size % 2
    raise SoundError("sound_truncated", had=len(data), expected=at + 8)
