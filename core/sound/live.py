"""One attempt while it happens: pieces in, provisional state out, figures at stop."""

from dataclasses import dataclass

import numpy as np
import soxr

from core.errors import SoundError
from core.notes.note import Note
from core.sound.figures import Figures
from core.sound.hold import figures
from core.sound.kernel import HOP_S, RATE_HZ, Frames, FrameStream
from core.sound.reading import HIGHEST_RATE_HZ, LOWEST_RATE_HZ, MAX_SECONDS, Sound
from core.sound.stretches import LONGEST_GAP_S, SHORTEST_HOLD_S, task_frames, voiced_frames
from core.sound.tasks import Measured

_ENDED_AFTER_S = 1.2
_NEIGHBOUR_SEMITONES = 2.0


@dataclass(frozen=True, slots=True)
class LiveState:
    """What the page draws: the newest frames and the provisional hold in seconds.

    `ended`: a hold was there and 1.2 s of something else have passed.
    """

    t_s: float
    f0_hz: tuple[float | None, ...]
    level_db: tuple[float, ...]
    holding: bool
    ended: bool
    hold_s: float


class LiveMeasurement:
    """Measures one attempt piece by piece.

    rate_hz: rate of the pieces, 8–96 kHz, else SoundError("rate_out_of_limits");
    target: note to hold, if any; a4_hz: concert pitch, Hz.
    """

    def __init__(
        self,
        rate_hz: int,
        task: Measured,
        *,
        target: Note | None = None,
        a4_hz: float = 440.0,
        max_seconds: float = MAX_SECONDS,
    ) -> None:
        if not LOWEST_RATE_HZ <= rate_hz <= HIGHEST_RATE_HZ:
            raise SoundError(
                "rate_out_of_limits", hz=rate_hz, low=LOWEST_RATE_HZ, high=HIGHEST_RATE_HZ
            )
        self._task, self._target, self._a4_hz = task, target, a4_hz
        self._limit = int(max_seconds * rate_hz)
        self._resample = (
            None
            if rate_hz == RATE_HZ
            else soxr.ResampleStream(rate_hz, RATE_HZ, 1, dtype="float64")
        )
        self._stream = FrameStream()
        self._parts: list[Frames] = []
        self._received = 0
        self._made = 0
        self._since: float | None = None
        self._heard_last: float | None = None
        self._hold_s = 0.0
        self._last_f0_hz = np.nan

    @property
    def received(self) -> int:
        """Samples taken so far, at the rate of the pieces."""
        return self._received

    def feed(self, samples: np.ndarray) -> LiveState:
        """Take float samples in −1…1, shape (n,); SoundError("sound_too_long") over the limit."""
        self._received += len(samples)
        if self._received > self._limit:
            raise SoundError("sound_too_long", samples=self._received, limit=self._limit)
        if self._resample is not None:
            samples = self._resample.resample_chunk(samples)
        return self._state(self._keep(self._stream.push(samples)))

    def stop(self) -> Figures:
        """The figures of everything fed."""
        if self._resample is not None:
            tail = self._resample.resample_chunk(np.zeros(0), last=True)
            self._keep(self._stream.push(tail))
        self._keep(self._stream.finish())
        return figures(
            Frames.joined(self._parts), self._task, target=self._target, a4_hz=self._a4_hz
        )

    def _keep(self, frames: Frames) -> Frames:
        self._parts.append(frames)
        return frames

    def _drawn(self, f0_hz: np.ndarray, voiced: np.ndarray) -> np.ndarray:
        """Voiced frames with a neighbour of nearly the same pitch; a stray one is not drawn."""
        if not len(f0_hz):
            return voiced
        known = np.where(voiced, f0_hz, np.nan)
        before = np.concatenate(([self._last_f0_hz], known[:-1]))
        after = np.concatenate((known[1:], [np.nan]))
        self._last_f0_hz = known[-1]
        return voiced & (_near(known, before) | _near(known, after))

    def _state(self, frames: Frames) -> LiveState:
        start_s = self._made * HOP_S
        self._made += len(frames)
        voiced = voiced_frames(frames)
        heard = task_frames(frames, self._task) if self._task is Measured.HISS else voiced
        for offset in np.flatnonzero(heard):
            now = start_s + float(offset) * HOP_S
            gone = self._heard_last is None or now - self._heard_last >= LONGEST_GAP_S
            if gone or self._since is None:
                self._since = now
            self._heard_last = now
            self._hold_s = max(self._hold_s, now - self._since + HOP_S)
        silent_s = self._made * HOP_S - (-np.inf if self._heard_last is None else self._heard_last)
        return LiveState(
            t_s=start_s,
            f0_hz=tuple(
                round(float(f0), 2) if v else None
                for f0, v in zip(frames.f0_hz, self._drawn(frames.f0_hz, voiced), strict=True)
            ),
            level_db=tuple(round(float(level), 1) for level in frames.level_db),
            holding=silent_s < LONGEST_GAP_S,
            ended=self._hold_s >= SHORTEST_HOLD_S and silent_s >= _ENDED_AFTER_S,
            hold_s=round(self._hold_s, 2),
        )


def _near(f0_hz: np.ndarray, other_hz: np.ndarray) -> np.ndarray:
    with np.errstate(invalid="ignore"):
        return np.abs(12 * np.log2(f0_hz / other_hz)) < _NEIGHBOUR_SEMITONES


def measure_sound(
    sound: Sound, task: Measured, *, target: Note | None = None, a4_hz: float = 440.0
) -> Figures:
    """A whole sound through the same kernel, in blocks of a second."""
    live = LiveMeasurement(sound.rate_hz, task, target=target, a4_hz=a4_hz)
    for at in range(0, len(sound.samples), sound.rate_hz):
        live.feed(sound.samples[at : at + sound.rate_hz])
    return live.stop()
