"""`./reed bench measure`: how true and how costly the hold measurement is, kind by kind.

Prints tables and asserts nothing. Beside it, on a few voices of each kind, the probabilistic
pitch tracker of a general audio library, to show what these sounds ask for.
"""

import argparse
import resource
import sys
import time
import zlib
from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np
import soxr

from core.kinds.live import LiveMeasurement, measure_sound
from core.sound.kernel import HOP_S, analyse
from core.sound.reading import Sound
from core.sound.voicing import runs
from lab.bench.kinds import KINDS, NOTHING, RATES_HZ, plain
from lab.bench.score import Score, frame_errors, score
from lab.bench.tasks import print_tasks
from lab.simulate.glottis import RATE_HZ
from lab.simulate.surroundings import at_level
from lab.simulate.voice import Sung, Voice, sing

PIECE_S = 0.1
TOGETHER = 32
NOTHING_S = 8.0


@dataclass(frozen=True, slots=True)
class Cost:
    """CPU seconds spent on so many seconds of sound."""

    cpu_s: float
    sound_s: float

    @property
    def a_second(self) -> float:
        return self.cpu_s / self.sound_s


def voices(kind: str, count: int) -> Iterator[Sung]:
    """Seeded voices of a kind, at changing sample rates."""
    for seed in range(count):
        random = np.random.default_rng((seed, zlib.crc32(kind.encode())))
        yield sing(KINDS[kind](plain(random, seed), random), RATES_HZ[seed % len(RATES_HZ)])


def measured(kind: str, count: int) -> tuple[list[Score], Cost]:
    """Scores of a kind and what measuring them cost."""
    scores, cpu_s, sound_s = [], 0.0, 0.0
    for sung in voices(kind, count):
        began = time.process_time()
        found = measure_sound(Sound(sung.samples, sung.rate_hz), "hold")
        cpu_s += time.process_time() - began
        sound_s += len(sung.samples) / sung.rate_hz
        scores.append(score(sung, found))
    return scores, Cost(cpu_s, sound_s)


def row(kind: str, scores: list[Score], cost: Cost) -> str:
    """One line of the table."""
    holds = np.abs([s.hold_s for s in scores if s.hold_s is not None]) * 1000
    medians = np.abs([s.median_cents for s in scores if s.median_cents is not None])
    cents = np.abs(np.concatenate([s.cents for s in scores]))
    voiced, judged = max(len(cents), 1), sum(s.judged for s in scores)
    found, true = sum(s.breaks_found for s in scores), sum(s.breaks_true for s in scores)
    within = np.count_nonzero(holds <= 50) / len(scores) * 100
    return (
        f"| {kind} | {within:.0f} | {np.median(holds):.1f} | {np.percentile(holds, 95):.1f} "
        f"| {holds.max():.0f} | {np.median(medians):.2f} | {np.median(cents):.2f} "
        f"| {np.percentile(cents, 95):.1f} | {sum(s.gross for s in scores) / voiced * 100:.2f} "
        f"| {sum(s.voicing for s in scores) / judged * 100:.2f} "
        f"| {found}/{true}, {sum(s.breaks_false for s in scores)} | {cost.a_second:.4f} |"
    )


HEAD = (
    "| kind | holds within 50 ms, % | median, ms | 95 %, ms | worst, ms | pitch of the hold, cents "
    "| of a frame, median | 95 % | gross, % | voicing, % | breaks found/true, false | CPU s per s |"
)


def print_accuracy(count: int) -> None:
    """The table of all kinds, then all together, then the sounds that hold no hold."""
    print(HEAD + "\n" + "|---" * 12 + "|")
    everything: list[Score] = []
    spent = Cost(0.0, 0.0)
    for kind in KINDS:
        scores, cost = measured(kind, count)
        everything += scores
        spent = Cost(spent.cpu_s + cost.cpu_s, spent.sound_s + cost.sound_s)
        print(row(kind, scores, cost), flush=True)
    print(row("all", everything, spent))
    print("\n| no hold in | sounds | holds found |\n|---|---|---|")
    for kind, make in NOTHING.items():
        found = sum(bool(_hold_in(kind, make, seed)) for seed in range(count))
        print(f"| {kind} | {count} | {found} |", flush=True)


def _hold_in(kind: str, make: Callable, seed: int) -> float | None:
    random = np.random.default_rng((seed, zlib.crc32(kind.encode())))
    sound = at_level(make(int(NOTHING_S * RATE_HZ), random), float(random.uniform(-45, -22)))
    samples = np.clip(soxr.resample(sound, RATE_HZ, 16_000), -1, 1)
    return measure_sound(Sound(samples, 16_000), "hold").hold_s


def print_beside(count: int) -> None:
    """The same few voices through this product and through librosa.pyin."""
    import librosa

    print("\n| tracker | holds within 50 ms, % | of a frame, median cents | CPU s per s |")
    print("|---|---|---|---|")
    ours: list[tuple[float, np.ndarray]] = []
    theirs: list[tuple[float, np.ndarray]] = []
    spent = [0.0, 0.0, 0.0]
    for kind in KINDS:
        for sung in voices(kind, count):
            samples = soxr.resample(sung.samples, sung.rate_hz, 16_000)
            spent[2] += len(samples) / 16_000
            began = time.process_time()
            own = measure_sound(Sound(samples, 16_000), "hold")
            spent[0] += time.process_time() - began
            ours.append(_beside(sung, own.contour.f0_hz, own.hold_s or 0.0))
            began = time.process_time()
            f0_hz, voiced, _ = librosa.pyin(
                samples, fmin=60, fmax=1000, sr=16_000, frame_length=1024, hop_length=160
            )
            spent[1] += time.process_time() - began
            theirs.append(_beside(sung, f0_hz, _longest_s(voiced)))
    for name, found, cpu_s in (
        ("Still Reed", ours, spent[0]),
        ("librosa.pyin, longest voiced stretch", theirs, spent[1]),
    ):
        within = np.mean([abs(hold) <= 0.05 for hold, _ in found]) * 100
        cents = np.median(np.abs(np.concatenate([c for _, c in found])))
        print(f"| {name} | {within:.0f} | {cents:.2f} | {cpu_s / spent[2]:.4f} |")


def _beside(sung: Sung, f0_hz: np.ndarray, hold_s: float) -> tuple[float, np.ndarray]:
    return hold_s - sung.hold_s, frame_errors(sung.f0_hz, f0_hz)[0]


def _longest_s(voiced: np.ndarray) -> float:
    joined: list[list[int]] = []
    for first, after in runs(voiced):
        if joined and (first - joined[-1][1]) * HOP_S < 0.25:
            joined[-1][1] = after
        else:
            joined.append([first, after])
    return max((after - first) * HOP_S for first, after in joined) if joined else 0.0


def stream_cost(seconds: float = 60.0) -> tuple[float, float]:
    """CPU s per s of one stream in 100 ms pieces at 16 kHz, and its worst piece in ms."""
    sung = sing(Voice(f0_hz=196.0, seconds=seconds))
    live = LiveMeasurement(16_000, "hold")
    step = int(PIECE_S * sung.rate_hz)
    worst = 0.0
    began = time.process_time()
    for at in range(0, len(sung.samples), step):
        now = time.perf_counter()
        live.feed(sung.samples[at : at + step])
        worst = max(worst, time.perf_counter() - now)
    live.stop()
    return (time.process_time() - began) / (len(sung.samples) / sung.rate_hz), worst * 1000


def together_cost(seconds: float = 20.0) -> float:
    """CPU s per s and stream when the pieces of 32 streams are analysed together."""
    sung = sing(Voice(f0_hz=196.0, seconds=seconds))
    lives = [LiveMeasurement(16_000, "hold") for _ in range(TOGETHER)]
    step = int(PIECE_S * sung.rate_hz)
    began = time.process_time()
    for at in range(0, len(sung.samples), step):
        spans = [live.take(sung.samples[at : at + step]) for live in lives]
        frames = analyse(np.concatenate(spans))
        done = 0
        for live, own in zip(lives, spans, strict=True):
            live.give(frames.part(done, done + len(own)))
            done += len(own)
    for live in lives:
        live.stop()
    return (time.process_time() - began) / (len(sung.samples) / sung.rate_hz) / TOGETHER


def run(arguments: list[str]) -> int:
    """Print the tables and the costs of streams."""
    parser = argparse.ArgumentParser(prog="./reed bench measure")
    parser.add_argument("--count", type=int, default=20, help="sounds of each kind")
    parser.add_argument("--beside", type=int, default=2, help="of each kind through librosa.pyin")
    parser.add_argument("--seconds", type=float, default=60.0, help="of sound for the costs")
    given = parser.parse_args(arguments)
    print_accuracy(given.count)
    print_tasks(2 * given.count)
    own_mb = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    one, worst_ms = stream_cost(given.seconds)
    print(f"\nOne stream, pieces of 100 ms: {one:.4f} CPU s per s, worst piece {worst_ms:.1f} ms.")
    together = together_cost(given.seconds / 3)
    print(f"{TOGETHER} streams together: {together:.4f} CPU s per s and stream.")
    print(f"Peak memory {own_mb:.0f} MB.")
    if given.beside:
        print_beside(given.beside)
    return 0


if __name__ == "__main__":
    sys.exit(run(sys.argv[1:]))
