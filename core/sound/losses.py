"""Sound that the device lost: told by the sound itself, for no voice stops within one sample.

Found in the samples as they came, before any resampling: a run of samples that are exactly zero
with voice hard on both sides of it, or a step from one sample to the next that is far beyond every
other step around it while the sound before and after goes on as loud.
"""

from dataclasses import dataclass

import numpy as np

from core.sound.settings.losses import LOSS


@dataclass(frozen=True, slots=True)
class Loss:
    """A place where sound was lost, s from the first sample; seconds: of zeros, 0 for a step."""

    at_s: float
    seconds: float


class LossFinder:
    """Looks for lost sound in pieces as they arrive, at their own rate.

    `push` takes float samples, shape (n,); `finish` looks at what is left; `found` are the losses
    so far, in time. Blocks are cut at fixed places, so that a stream cut anywhere gives the same, and a
    second is looked at in one go, since numpy's cost is in the call.
    """

    def __init__(self, rate_hz: int) -> None:
        self._rate_hz = rate_hz
        self._block = round(LOSS.block_s * rate_hz)
        self._at_once = LOSS.blocks * self._block
        self._around = round(LOSS.around_s * rate_hz)
        self._near = round(LOSS.near_s * rate_hz)
        self._least = round(LOSS.least_zeros_s * rate_hz)
        reach = np.arange(-self._around, self._around)
        self._others = reach[np.abs(reach) > LOSS.guard]
        self._nearest = np.flatnonzero(np.abs(self._others) <= LOSS.guard + LOSS.nearest)
        self._waiting: list[np.ndarray] = []
        self._kept = np.zeros(0, dtype=np.float32)
        self._begins = self._end = 0
        self._looked = 0
        self._open: tuple[int, bool] | None = None
        self._losses: list[Loss] = []

    def push(self, samples: np.ndarray) -> None:
        self._waiting.append(samples)
        self._end += len(samples)
        if self._looked + self._at_once + self._around <= self._end:
            self._gather()
        while self._looked + self._at_once + self._around <= self._end:
            self._look(self._looked + self._at_once)

    def finish(self) -> None:
        self._gather()
        while self._looked < self._end:
            self._look(min(self._looked + self._at_once, self._end))

    def found(self) -> tuple[Loss, ...]:
        return tuple(sorted(self._losses, key=lambda loss: loss.at_s))

    def _gather(self) -> None:
        self._kept = np.concatenate((self._kept, *self._waiting))
        self._waiting.clear()

    def _look(self, until: int) -> None:
        """At the samples up to that one, counted from the start of all sound."""
        first, after = self._looked - self._begins, until - self._begins
        if after - first > 1:
            self._steps(first, after)
        self._zeros(first, after)
        self._looked = until
        spare = max(after - 2 * self._around, 0)
        self._kept, self._begins = self._kept[spare:], self._begins + spare

    def _steps(self, first: int, after: int) -> None:
        """The widest step of each block, where it stands out of all around it."""
        steps = np.abs(np.diff(self._kept, prepend=self._kept[:1]))
        blocks = -(-(after - first) // self._block)
        own = np.zeros(blocks * self._block)
        own[: after - first] = steps[first:after]
        places = own.reshape(blocks, -1).argmax(axis=1) + np.arange(blocks) * self._block + first
        places = places[steps[places] > LOSS.quietest]
        for reach in (self._others[self._nearest], self._others):
            near = places[:, None] + reach
            known = (near >= 1) & (near < len(steps))
            others = np.where(known, steps[np.clip(near, 0, len(steps) - 1)], 0.0)
            stands_out = steps[places] > LOSS.step_over_others * others.max(axis=1, initial=0)
            places = places[stands_out & (known.mean(axis=1) >= LOSS.enough)]
            if not len(places):
                return
        for at in places.tolist():
            left = _rms(self._kept[max(at - self._near, 0) : at])
            right = _rms(self._kept[at : at + self._near])
            if _alike(left, right) and steps[at] > LOSS.step_over_level * max(left, right):
                self._losses.append(Loss((self._begins + at) / self._rate_hz, 0.0))

    def _zeros(self, first: int, after: int) -> None:
        """The runs of zeros of a block; one that goes on stays open with what stood before it. Quiet
        sound is full of short ones, so only the long ones are looked at one by one."""
        zero = self._kept[first:after] == 0.0
        few = np.count_nonzero(zero) < self._least and not zero[-1]
        if few and self._open is None:
            return
        was = self._open is not None
        edges = np.flatnonzero(np.diff(np.concatenate(([was], zero)).astype(np.int8))) + first
        if self._open is not None and len(edges):
            self._end_of_zeros(*self._open, int(edges[0]))
            self._open, edges = None, edges[1:]
        begins, ends = edges[::2], edges[1::2]
        for one in np.flatnonzero(ends - begins[: len(ends)] >= self._least):
            begin = int(begins[one])
            self._end_of_zeros(self._begins + begin, self._loud_before(begin), int(ends[one]))
        if len(begins) > len(ends):
            begin = int(begins[-1])
            self._open = self._begins + begin, self._loud_before(begin)

    def _loud_before(self, place: int) -> bool:
        return _sudden(self._kept[max(place - self._around, 0) : place], last=True) > LOSS.quietest

    def _end_of_zeros(self, begin: int, loud_before: bool, place: int) -> None:
        lasted = self._begins + place - begin
        if not loud_before or not self._least <= lasted < LOSS.longest_zeros_s * self._rate_hz:
            return
        if _sudden(self._kept[place : place + self._around], last=False) > LOSS.quietest:
            self._losses.append(Loss(begin / self._rate_hz, lasted / self._rate_hz))


def _rms(samples: np.ndarray) -> float:
    return float(np.sqrt(np.mean(samples * samples))) if len(samples) else 0.0


def _alike(one: float, two: float) -> bool:
    return min(one, two) > LOSS.quietest and max(one, two) < LOSS.alike * min(one, two)


def _sudden(samples: np.ndarray, *, last: bool) -> float:
    """Level of the sixth nearest to the seam, 0 where the sound had faded to under a quarter of
    what it was, as a voice that ends does."""
    if not len(samples):
        return 0.0
    sixth = max(len(samples) // 6, 1)
    nearest = _rms(samples[-sixth:] if last else samples[:sixth])
    return nearest if nearest > _rms(samples) / LOSS.alike else 0.0
