"""Which sound may be kept to be judged by ear, how long, and in which form.

The numbers are the promise made to the client: docs/decisions/023-heard-by-one.md.
"""

import io
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Self

import numpy as np
import soundfile

from core.sound.figures import Figures, QualityVerdict

KEPT_FOR = timedelta(days=30)
"""After so long a sound is erased; counted from when it was made."""
ONE_IN = timedelta(days=7)
"""At most one sound of a step is kept in any stretch this long."""


@dataclass(frozen=True, slots=True)
class Recording:
    """The sound of an attempt as it came: 16-bit little-endian mono samples, at `rate_hz`."""

    pcm: bytes
    rate_hz: int

    @classmethod
    def of(cls, samples: np.ndarray, rate_hz: int) -> Self:
        """From float samples in −1…1, shape (n,)."""
        pcm = np.round(samples * 32768).clip(-32768, 32767).astype("<i2")
        return cls(pcm.tobytes(), rate_hz)

    def as_flac(self) -> bytes:
        """The same samples without loss, as a FLAC file."""
        file = io.BytesIO()
        samples = np.frombuffer(self.pcm, dtype="<i2")
        soundfile.write(file, samples, self.rate_hz, format="FLAC", subtype="PCM_16")
        return file.getvalue()


def worth_hearing(figures: Figures | None) -> bool:
    """Whether the task's own sound was there and could be measured: room noise is not kept."""
    return (
        figures is not None
        and bool(figures.hold_s)
        and figures.quality.verdict is not QualityVerdict.NOT_MEASURABLE
    )


def one_more(
    made_at: datetime, *, now: datetime, agreed_at: datetime, kept: Iterable[datetime]
) -> bool:
    """Whether a sound made at `made_at` may be kept: made after the client agreed, not past its time, and
    no other of its step (`kept`: when those were made) lies within ONE_IN of it."""
    return (
        made_at >= agreed_at
        and now - made_at < KEPT_FOR
        and all(abs(made_at - other) >= ONE_IN for other in kept)
    )
