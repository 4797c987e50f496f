"""Reads a sound, whole or in blocks of a second, and refuses what cannot be measured."""

import io
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import BinaryIO

import numpy as np
import soundfile

from core.errors import SoundError

MAX_SECONDS = 120.0
"""Longest attempt that is taken: twice the longest prescribed minute, with room for a late tap."""
MAX_BYTES = 25 * 1024 * 1024
"""Largest upload: 120 s at 96 kHz with 16 bits are 23 MB."""
LOWEST_RATE_HZ = 8_000
"""Below it the partials that pitch and onset are read from are missing."""
HIGHEST_RATE_HZ = 96_000
"""Highest rate that devices of the clinic or the client give; higher ones only cost time."""
CLIPPED_AT = 0.999
"""Share of full scale from which a sample counts as clipped: 16-bit conversion can round the top step down."""
CLIPPED_SHARE = 0.001
"""Share of clipped samples from which the level is not reported: single clicks change it by less than 0.1 dB."""
_BLOCK_S = 1.0


@dataclass(frozen=True, slots=True)
class Sound:
    """Mono samples, float64 in −1…1, shape (n,), at `rate_hz`."""

    samples: np.ndarray
    rate_hz: int

    @property
    def seconds(self) -> float:
        return len(self.samples) / self.rate_hz


class SoundReader:
    """An open sound file: its rate, and its better channel in blocks of a second."""

    def __init__(self, file: soundfile.SoundFile) -> None:
        self._file = file
        self.rate_hz = int(file.samplerate)
        self.count = int(file.frames)
        if not LOWEST_RATE_HZ <= self.rate_hz <= HIGHEST_RATE_HZ:
            raise SoundError(
                "rate_out_of_limits", hz=self.rate_hz, low=LOWEST_RATE_HZ, high=HIGHEST_RATE_HZ
            )

    def blocks(self) -> Iterator[np.ndarray]:
        """Mono float64 blocks, shape (n,); raises the errors of `read_sound`."""
        channel = self._better_channel() if self._file.channels > 1 else 0
        for block in self._all_channels():
            yield np.ascontiguousarray(block[:, channel])

    def _all_channels(self) -> Iterator[np.ndarray]:
        self._file.seek(0)
        had = 0
        for block in self._file.blocks(
            blocksize=round(_BLOCK_S * self.rate_hz), dtype="float64", always_2d=True
        ):
            if not np.isfinite(block).all():
                raise SoundError("sound_not_finite")
            had += len(block)
            yield block
        if had == 0:
            raise SoundError("sound_empty")
        if had < self.count:
            raise SoundError("sound_truncated", had=had, expected=self.count)

    def _better_channel(self) -> int:
        """The louder channel that is not clipped."""
        power = np.zeros(self._file.channels)
        clipped = np.zeros(self._file.channels)
        for block in self._all_channels():
            power += (block**2).sum(axis=0)
            clipped += (np.abs(block) >= CLIPPED_AT).sum(axis=0)
        return int(np.lexsort((-power, clipped > CLIPPED_SHARE * self.count))[0])


@contextmanager
def open_sound(source: bytes | Path) -> Iterator[SoundReader]:
    """Open WAV (8–32 bit, float), FLAC or OGG at 8–96 kHz. Raises the errors of `read_sound`
    but for the limits of length."""
    with io.BytesIO(source) if isinstance(source, bytes) else source.open("rb") as file:
        if not file.read(1):
            raise SoundError("sound_empty")
        _refuse_truncated(file)
        file.seek(0)
        try:
            with soundfile.SoundFile(file) as opened:
                yield SoundReader(opened)
        except soundfile.LibsndfileError as error:
            raise SoundError("sound_unreadable", reason=str(error.error_string)) from error


def read_sound(source: bytes | Path) -> Sound:
    """Read a whole sound of at most 120 s and 25 MB; of two channels the better one.

    Raises SoundError: "sound_empty", "sound_too_large" (25 MB), "sound_unreadable",
    "sound_truncated", "rate_out_of_limits", "sound_too_long" (120 s), "sound_not_finite".
    """
    size = source.stat().st_size if isinstance(source, Path) else len(source)
    if size > MAX_BYTES:
        raise SoundError("sound_too_large", bytes=size, limit=MAX_BYTES)
    with open_sound(source) as reader:
        if reader.count > MAX_SECONDS * reader.rate_hz:
            seconds = reader.count / reader.rate_hz
            raise SoundError("sound_too_long", seconds=seconds, limit=MAX_SECONDS)
        return Sound(np.concatenate(list(reader.blocks())), reader.rate_hz)


def _refuse_truncated(file: BinaryIO) -> None:
    """A RIFF file whose header promises more sound than came."""
    end = file.seek(0, io.SEEK_END)
    file.seek(0)
    if file.read(4) != b"RIFF" or end < 12:
        return
    at = 12
    while at + 8 <= end:
        file.seek(at)
        head = file.read(8)
        size = int.from_bytes(head[4:], "little")
        if head[:4] == b"data":
            if size != 0xFFFFFFFF and at + 8 + size > end:
                raise SoundError("sound_truncated", had=end - at - 8, expected=size)
            return
        at += 8 + size + size % 2
    raise SoundError("sound_truncated", had=end, expected=at + 8)
