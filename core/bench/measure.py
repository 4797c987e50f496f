"""How true and how costly the hold measurement is. Prints one table; asserts nothing."""

import argparse
import resource
import sys
import time
from dataclasses import dataclass

import numpy as np

from core.notes.note import Note
from core.simulate.voice import Sung, Voice, sing
from core.sound.live import LiveMeasurement, measure_sound
from core.sound.reading import Sound
from core.sound.tasks import Measured

PIECE_S = 0.05
RATES_HZ = (16_000, 44_100, 48_000)


@dataclass(frozen=True, slots=True, kw_only=True)
class Kind:
    """A kind of sound: how the voices of this kind differ from the usual."""

    name: str
    level_db: tuple[float, float] = (-40.0, -15.0)
    wobble: tuple[float, float] = (0.0, 0.3)
    breath_db: tuple[float, float] = (-40.0, -20.0)
    noise_db: float = -75.0


KINDS = (
    Kind(name="clean"),
    Kind(name="soft", level_db=(-52.0, -42.0)),
    Kind(name="shaky", wobble=(0.4, 0.8)),
    Kind(name="breathy", breath_db=(-12.0, -6.0)),
    Kind(name="in a noisy room", level_db=(-34.0, -24.0), noise_db=-50.0),
)


def voices(kind: Kind, count: int) -> list[Sung]:
    """`count` seeded voices of a kind over the whole range, at changing sample rates."""
    made = []
    for seed in range(count):
        random = np.random.default_rng((seed, len(kind.name)))
        note = Note(int(random.integers(40, 79)))
        voice = Voice(
            f0_hz=note.hz() * 2 ** (random.normal() * 0.2 / 12),
            seconds=float(random.uniform(1.5, 9.0)),
            level_db=float(random.uniform(*kind.level_db)),
            wobble_semitones=float(random.uniform(*kind.wobble)),
            breath_db=float(random.uniform(*kind.breath_db)),
            noise_db=kind.noise_db,
            trail_off_db=float(random.uniform(-6, 0)),
            seed=seed,
        )
        made.append(sing(voice, RATES_HZ[seed % len(RATES_HZ)]))
    return made


def measure_kind(kind: Kind, count: int) -> str:
    """One line of the table."""
    holds_ms, cents, missed, cpu_s, sound_s = [], [], 0, 0.0, 0.0
    for sung in voices(kind, count):
        began = time.process_time()
        found = measure_sound(Sound(sung.samples, sung.rate_hz), Measured.HOLD)
        cpu_s += time.process_time() - began
        sound_s += len(sung.samples) / sung.rate_hz
        if not found.hold_s or not found.f0_median_hz or not sung.f0_median_hz:
            missed += 1
            continue
        holds_ms.append(abs(found.hold_s - sung.hold_s) * 1000)
        cents.append(abs(1200 * np.log2(found.f0_median_hz / sung.f0_median_hz)))
    hold = np.percentile(holds_ms, [50, 95, 100])
    pitch = np.percentile(cents, [50, 95])
    return (
        f"| {kind.name} | {count} | {missed} | {hold[0]:.1f} | {hold[1]:.1f} | {hold[2]:.1f} "
        f"| {pitch[0]:.2f} | {pitch[1]:.2f} | {cpu_s / sound_s:.4f} |"
    )


def stream_cost(seconds: float = 60.0) -> tuple[float, float]:
    """CPU milliseconds a 50 ms piece of one stream at 16 kHz: mean and worst wall time."""
    sung = sing(Voice(f0_hz=196.0, seconds=seconds))
    live = LiveMeasurement(16_000, Measured.HOLD)
    step = int(PIECE_S * sung.rate_hz)
    worst, pieces = 0.0, 0
    began = time.process_time()
    for at in range(0, len(sung.samples), step):
        now = time.perf_counter()
        live.feed(sung.samples[at : at + step])
        worst = max(worst, time.perf_counter() - now)
        pieces += 1
    return (time.process_time() - began) / pieces * 1000, worst * 1000


def main(arguments: list[str] | None = None) -> int:
    """Print the table and the stream's cost."""
    parser = argparse.ArgumentParser(prog="./reed bench")
    parser.add_argument("what", nargs="?", default="measure", choices=["measure"])
    parser.add_argument("--count", type=int, default=60, help="voices of each kind")
    given = parser.parse_args(arguments)
    head = "kind | voices | no hold | hold median ms | 95 % ms | worst ms"
    print(f"| {head} | pitch median cents | 95 % cents | CPU s per s |")
    print("|---|---|---|---|---|---|---|---|---|")
    for kind in KINDS:
        print(measure_kind(kind, given.count), flush=True)
    mean_ms, worst_ms = stream_cost()
    peak_mb = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    print(f"\nOne stream, pieces of 50 ms: {mean_ms:.2f} ms CPU a piece, worst {worst_ms:.1f} ms.")
    print(f"Peak memory {peak_mb:.0f} MB.")
    return 0


if __name__ == "__main__":
    sys.exit(main())
