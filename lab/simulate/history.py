"""Practice histories with a plausible course: which home sessions happened and how the holds went.

Seeded; figures only, no sound. Used by the demo and by tests of the rules.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum

import numpy as np


class SimulatedCourse(StrEnum):
    """How a client's practice went."""

    IMPROVING = "improving"
    PLATEAUED = "plateaued"
    OVER_KEEN = "over_keen"
    LAPSED = "lapsed"
    STOPPED = "stopped"
    NEW = "new"


@dataclass(frozen=True, slots=True, kw_only=True)
class Profile:
    """A client's ability: longest soft hold at the start and what a week adds, s."""

    course: SimulatedCourse
    start_s: float
    gain_s_a_week: float
    keeps: float
    strain: float
    seed: int


@dataclass(frozen=True, slots=True, kw_only=True)
class PlayedHold:
    """One hold: seconds, pitch error (cents), pitch SD (semitones), level (dBFS), trail-off (dB)."""

    seconds: float
    cents: float
    pitch_sd_semitones: float
    level_db: float
    trail_off_db: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PlayedSession:
    """One home session that happened: local date, minutes after midnight, strain, stopped."""

    day: date
    minute: int
    strain: int
    stopped: bool
    seed: int


def sessions_of(
    profile: Profile,
    *,
    first: date,
    days: int,
    asked: Callable[[date], int] = lambda _day: 2,
) -> tuple[PlayedSession, ...]:
    """The home sessions of `days` days from `first`; `asked`: how many a day prescribes."""
    random = np.random.default_rng(profile.seed)
    played = []
    quiet_from = days - 9 if profile.course is SimulatedCourse.LAPSED else days
    for offset in range(days):
        if offset >= quiet_from:
            break
        prescribed = asked(first + timedelta(days=offset))
        extra = 2 if profile.course is SimulatedCourse.OVER_KEEN else 0
        for place in range(prescribed + extra):
            if random.random() > profile.keeps:
                continue
            strain = int(np.clip(round(profile.strain + random.normal() * 0.6), 0, 10))
            played.append(
                PlayedSession(
                    day=first + timedelta(days=offset),
                    minute=int(8 * 60 + place * 200 + random.integers(0, 90)),
                    strain=strain,
                    stopped=False,
                    seed=int(random.integers(1, 2**31)),
                )
            )
    if profile.course is SimulatedCourse.STOPPED and played:
        last = played[-1]
        played[-1] = PlayedSession(
            day=last.day, minute=last.minute, strain=6, stopped=True, seed=last.seed
        )
    return tuple(played)


def hold_on(
    profile: Profile, *, session_seed: int, place: int, weeks_in: float, target_s: float
) -> PlayedHold:
    """One hold in a session: `place` counts the attempts, `weeks_in` weeks since the start."""
    random = np.random.default_rng((session_seed, place))
    able = profile.start_s + profile.gain_s_a_week * weeks_in
    if profile.course is SimulatedCourse.PLATEAUED:
        able = min(able, target_s * 0.97)
    tired = 1 - 0.02 * (place % 10)
    seconds = min(able * tired * math.exp(random.normal() * 0.07), target_s * 1.3)
    return PlayedHold(
        seconds=round(max(seconds, 0.5), 2),
        cents=float(random.normal() * 14),
        pitch_sd_semitones=float(np.clip(0.3 + random.normal() * 0.06, 0.1, 1.0)),
        level_db=float(-30 + random.normal() * 0.7),
        trail_off_db=float(-2 + random.normal() * 0.8),
    )
