"""One attempt while it happens: pieces in, provisional state out, figures at stop."""

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
import soxr

from core.errors import SoundError
from core.notes.note import Note
from core.sound.figures import Figures
from core.sound.held import LONGEST_GAP_S, SHORTEST_HOLD_S
from core.sound.hold import figures
from core.sound.kernel import HOP_S, RATE_HZ, Frames, FrameStream, analyse
from core.sound.reading import HIGHEST_RATE_HZ, LOWEST_RATE_HZ, MAX_SECONDS, Sound
from core.sound.tasks import Measured

_ENDED_AFTER_S = 1.2
_NEIGHBOUR_SEMITONES = 2.0
_REGULAR_FROM = 0.55
_QUIETEST_DB = -62.0
_UNDER_PEAK_DB = 35.0
_HISS_SHARE = 0.5


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
        self._limit = max_seconds * rate_hz
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
        self._peak_db = -120.0

    @property
    def received(self) -> int:
        """Samples taken so far, at the rate of the pieces."""
        return self._received

    def feed(self, samples: np.ndarray) -> LiveState:
        """Take float samples in −1…1, shape (n,); SoundError("sound_too_long") over the limit."""
        return self.give(analyse(self.take(samples)))

    def follow(self, samples: np.ndarray) -> None:
        """Like `feed` without the live state, for sound nobody watches."""
        self._parts.append(analyse(self.take(samples)))

    def take(self, samples: np.ndarray) -> np.ndarray:
        """First half of `feed`: the spans to analyse, alone or with those of other streams."""
        self._received += len(samples)
        if self._received > self._limit:
            raise SoundError("sound_too_long", samples=self._received, limit=self._limit)
        if self._resample is not None:
            samples = self._resample.resample_chunk(samples)
        return self._stream.push(samples)

    def give(self, frames: Frames) -> LiveState:
        """Second half of `feed`: the frames of the spans just taken."""
        self._parts.append(frames)
        return self._state(frames)

    def stop(self) -> Figures:
        """The figures of everything fed."""
        if self._resample is not None:
            tail = self._resample.resample_chunk(np.zeros(0), last=True)
            self._parts.append(analyse(self._stream.push(tail)))
        self._parts.append(analyse(self._stream.finish()))
        return figures(
            Frames.joined(self._parts), self._task, target=self._target, a4_hz=self._a4_hz
        )

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
        f0_hz = frames.pitch_hz[:, 0]
        self._peak_db = max(self._peak_db, float(frames.level_db.max(initial=-120.0)))
        loud = frames.level_db > max(_QUIETEST_DB, self._peak_db - _UNDER_PEAK_DB)
        voiced = loud & (frames.regularity[:, 0] > _REGULAR_FROM)
        heard = loud & (frames.high_share > _HISS_SHARE) if self._task is Measured.HISS else voiced
        for offset in np.flatnonzero(heard):
            now = start_s + float(offset) * HOP_S
            gone = self._heard_last is None or now - self._heard_last >= LONGEST_GAP_S
            if gone or self._since is None:
                self._since = now
            self._heard_last = now
            self._hold_s = max(self._hold_s, now - self._since + HOP_S)
        silent_s = self._made * HOP_S - (-np.inf if self._heard_last is None else self._heard_last)
        drawn = self._drawn(f0_hz, voiced)
        return LiveState(
            t_s=start_s,
            f0_hz=tuple(
                round(f0, 2) if d else None for f0, d in zip(f0_hz.tolist(), drawn, strict=True)
            ),
            level_db=tuple(round(level, 1) for level in frames.level_db.tolist()),
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
    step = sound.rate_hz
    blocks = (sound.samples[at : at + step] for at in range(0, len(sound.samples), step))
    return measure_blocks(blocks, sound.rate_hz, task, target=target, a4_hz=a4_hz)


def measure_blocks(
    blocks: Iterable[np.ndarray],
    rate_hz: int,
    task: Measured,
    *,
    target: Note | None = None,
    a4_hz: float = 440.0,
) -> Figures:
    """Sound of any length block by block: what is kept of it are its frames."""
    live = LiveMeasurement(rate_hz, task, target=target, a4_hz=a4_hz, max_seconds=np.inf)
    for block in blocks:
        live.follow(block)
    return live.stop()
