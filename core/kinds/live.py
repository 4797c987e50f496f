"""One attempt while it happens: pieces in, provisional state out, figures at stop."""

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

import numpy as np
import soxr

from core.errors import SoundError
from core.kinds.aim import AttemptTarget
from core.kinds.attempt import figures
from core.kinds.kind import Newest
from core.kinds.registry import kind_of
from core.kinds.settings import LIVE
from core.sound.candidates import RATE_HZ
from core.sound.figures import Figures
from core.sound.kernel import HOP_S, Frames, FrameStream, analyse
from core.sound.losses import Loss, LossFinder
from core.sound.reading import HIGHEST_RATE_HZ, LOWEST_RATE_HZ, MAX_SECONDS, Sound
from core.sound.settings.held import HELD
from core.sound.settings.hiss import HISS

_NEARLY = 2**LIVE.neighbor_octaves


@dataclass(frozen=True, slots=True)
class LiveState:
    """What the page draws: the newest frames and the provisional hold in seconds.

    `ended`: a hold was there and 1.2 s of something else have passed (longer where the task has
    pauses). `bubbles_s`: times at which bubbles rose, for the tube in water; `said`: how many phrases
    are over, of what is said line by line.
    """

    t_s: float
    f0_hz: tuple[float | None, ...]
    level_db: tuple[float, ...]
    holding: bool
    ended: bool
    hold_s: float
    bubbles_s: tuple[float, ...] = ()
    said: int = 0

    def as_data(self) -> dict[str, Any]:
        return {name: getattr(self, name) for name in self.__slots__}


@dataclass(frozen=True, slots=True)
class Ended:
    """An attempt that is over: all its frames, its task, what was aimed at, concert pitch in Hz, what the
    device lost. Plain data: it can be sent to another process."""

    frames: Frames
    task: str
    target: AttemptTarget | None
    a4_hz: float
    losses: tuple[Loss, ...]


def figures_of(ended: Ended) -> Figures:
    """What is kept of an attempt that is over."""
    return figures(
        ended.frames,
        ended.task,
        target=ended.target,
        a4_hz=ended.a4_hz,
        losses=ended.losses,
    )


class LiveMeasurement:
    """Measures one attempt piece by piece.

    rate_hz: rate of the pieces, 8–96 kHz, else SoundError("rate_out_of_limits");
    target: what is aimed at, if anything; a4_hz: concert pitch, Hz.
    """

    def __init__(
        self,
        rate_hz: int,
        task: str,
        *,
        target: AttemptTarget | None = None,
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
        self._losses = LossFinder(rate_hz)
        self._parts: list[Frames] = []
        self._received = 0
        self._made = 0
        self._since: float | None = None
        self._heard_last: float | None = None
        self._hold_s = 0.0
        self._saying = False
        self._said = 0
        self._last_f0_hz: float | None = None
        self._peak_db = -120.0
        self._live = kind_of(task).live
        self._follower = self._live.follower(target)

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
        self._losses.push(samples)
        samples = samples.astype(np.float64)
        if self._resample is not None:
            samples = self._resample.resample_chunk(samples)
        return self._stream.push(samples)

    def give(self, frames: Frames) -> LiveState:
        """Second half of `feed`: the frames of the spans just taken."""
        self._parts.append(frames)
        return self._state(frames)

    def stop(self) -> Figures:
        """The figures of everything fed."""
        return figures_of(self.end())

    def end(self) -> "Ended":
        """Finish the attempt and return everything needed for its figures. Nothing may be fed afterward."""
        if self._resample is not None:
            tail = self._resample.resample_chunk(np.zeros(0), last=True)
            self._parts.append(analyse(self._stream.push(tail)))
        self._parts.append(analyse(self._stream.finish()))
        self._losses.finish()
        return Ended(
            Frames.joined(self._parts),
            self._task,
            self._target,
            self._a4_hz,
            self._losses.found(),
        )

    def _drawn(self, known: list[float | None]) -> tuple[float | None, ...]:
        """Pitch of the new frames for drawing, Hz. A frame without a neighbor of nearly the same pitch is not drawn."""
        if not known:
            return ()
        before = [self._last_f0_hz, *known[:-1]]
        after = [*known[1:], None]
        self._last_f0_hz = known[-1]
        return tuple(
            round(f0, 2) if f0 and (_near(f0, one) or _near(f0, two)) else None
            for f0, one, two in zip(known, before, after, strict=True)
        )

    def _state(self, frames: Frames) -> LiveState:
        """The live state after some new frames. Plain Python numbers, because pieces are short and streams are many."""
        start_s = self._made * HOP_S
        self._made += len(frames)
        levels = frames.level_db.tolist()
        self._peak_db = max([self._peak_db, *levels])
        quietest = max(HISS.quietest_db, self._peak_db - LIVE.under_peak_db)
        loud = [level > quietest for level in levels]
        known = [
            f0 if there and regular > LIVE.regular_from else None
            for f0, regular, there in zip(
                frames.pitch_hz[:, 0].tolist(), frames.regularity[:, 0].tolist(), loud, strict=True
            )
        ]
        newest = Newest(frames=frames, levels_db=levels, loud=loud, known_hz=known)
        heard = self._follower.heard(newest)
        for offset, there in enumerate(heard):
            if there:
                self._hear(start_s + offset * HOP_S)
        silent_s = self._made * HOP_S - (-np.inf if self._heard_last is None else self._heard_last)
        after_s = self._live.said_after_s
        if self._saying and after_s is not None and silent_s >= after_s:
            self._saying = False
            self._said += 1
        return LiveState(
            t_s=start_s,
            f0_hz=self._drawn(known),
            level_db=tuple(round(level, 1) for level in levels),
            holding=silent_s < HELD.longest_gap_s,
            ended=self._hold_s >= HELD.shortest_hold_s and silent_s >= self._live.ended_after_s,
            hold_s=round(self._hold_s, 2),
            bubbles_s=self._follower.bubbles(newest, start_s),
            said=self._said,
        )

    def _hear(self, now_s: float) -> None:
        longest_s = self._live.longest_pause_s
        gone = self._heard_last is None or now_s - self._heard_last >= longest_s
        if gone or self._since is None:
            self._since = now_s
        self._heard_last = now_s
        self._saying = True
        self._hold_s = max(self._hold_s, now_s - self._since + HOP_S)


def _near(f0_hz: float, other_hz: float | None) -> bool:
    return other_hz is not None and 1 / _NEARLY < f0_hz / other_hz < _NEARLY


def measure_sound(
    sound: Sound, task: str, *, target: AttemptTarget | None = None, a4_hz: float = 440.0
) -> Figures:
    """A whole sound through the same kernel, in blocks of a second."""
    step = sound.rate_hz
    blocks = (sound.samples[at : at + step] for at in range(0, len(sound.samples), step))
    return measure_blocks(blocks, sound.rate_hz, task, target=target, a4_hz=a4_hz)


def measure_blocks(
    blocks: Iterable[np.ndarray],
    rate_hz: int,
    task: str,
    *,
    target: AttemptTarget | None = None,
    a4_hz: float = 440.0,
) -> Figures:
    """Sound of any length block by block: what is kept of it are its frames."""
    live = LiveMeasurement(rate_hz, task, target=target, a4_hz=a4_hz, max_seconds=np.inf)
    for block in blocks:
        live.follow(block)
    return live.stop()
