"""Bubbles of known rate, with and without a voice, and the simulated attempt."""

import numpy as np

from core.kinds.bubbles.aim import AirOnly
from core.kinds.bubbles.figures import Bubbling
from lab.kinds.attempt import SimulatedAttempt
from lab.kinds.bench_table import Spent, length_error_s, seeded_voice
from lab.simulate.tasks import SimulatedSound, bubble
from lab.simulate.voice import Voice


def perform(voice: Voice, attempt: SimulatedAttempt) -> np.ndarray:
    """14–18 bubbles a second; in every fourth they stop for half a second."""
    bubble_hz, air_only = 14.0 + voice.seed % 5, isinstance(attempt.aim, AirOnly)
    stops = ((voice.seconds * 0.6, 0.5),) if voice.seed % 4 == 1 else ()
    return bubble(voice, bubble_hz=bubble_hz, stops=stops, air_only=air_only).samples


LONGEST_SILENT_STOP_S = 0.7
"""Without a voice a longer silence ends the attempt."""
_STOP_WITHIN_S = 0.2


def bubbling(seed: int, *, air_only: bool = False) -> SimulatedSound:
    """Bubbles of 9–30 a second, uneven by 1–12 %; every third time they stop for a while.
    air_only: without a voice, as loud."""
    random = np.random.default_rng((seed, 1))
    voice = seeded_voice(random, seed, attack_s=0.06, release_s=0.08)
    stop_s = float(random.uniform(0.4, 1.0))
    stop = (voice.seconds * 0.5, min(stop_s, LONGEST_SILENT_STOP_S) if air_only else stop_s)
    return bubble(
        voice,
        bubble_hz=float(random.uniform(9, 30)),
        unevenness=float(random.uniform(0.01, 0.12)),
        depth_db=float(random.uniform(4, 14)),
        splash_db=float(random.uniform(-15, -3)),
        stops=(stop,) if seed % 3 == 0 else (),
        air_only=air_only,
    )


def bench_rows(count: int) -> list[str]:
    """So many seeded attempts with a voice, as many with air only."""
    return _bubbles(count) + _bubbles(count, air_only=True)


def _bubbles(count: int, *, air_only: bool = False) -> list[str]:
    spent = Spent("bubbles")
    aim = AirOnly() if air_only else None
    for seed in range(count):
        played = bubbling(seed, air_only=air_only)
        found = spent.measure(played, aim)
        own = found.own
        rate = own.rate_hz if isinstance(own, Bubbling) and own.rate_hz else 0.0
        spent.add("rate, %", (rate / (played.bubble_hz or 1) - 1) * 100)
        if played.f0_hz:
            pitch = (found.f0_median_hz or 1) / played.f0_hz
            spent.add("pitch, cents", 1200 * np.log2(pitch))
        spent.add("phonation time, s" if played.f0_hz else "time, s", length_error_s(found, played))
        stops = own.stops if isinstance(own, Bubbling) else ()
        missed = [s for s in played.stops if not any(_same(s, seen) for seen in stops)]
        spent.add("stops missed or false", len(missed) + len(stops) - len(played.stops))
    return spent.rows("bubbles, air only" if air_only else "bubbles")


def _same(one: tuple[float, float], two: tuple[float, float]) -> bool:
    return all(abs(a - b) < _STOP_WITHIN_S for a, b in zip(one, two, strict=True))
