"""Whether a sustained-note step may climb one rung (rule D; clinical defaults)."""

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date

from core.reference.values import (
    DAYS_BETWEEN_CLIMBS,
    DAYS_LOOKED_OVER,
    HOLD_LEVEL_OVER_PROBE,
    HOLD_PITCH_SD,
    HOLD_TRAIL_OFF,
    KEPT_TO_CLIMB,
    NOTES_AT_TARGET,
    SESSIONS_LOOKED_AT,
    SESSIONS_TO_CLIMB,
    STRAIN_RISE,
)


@dataclass(frozen=True, slots=True, kw_only=True)
class HoldFigures:
    """One measured attempt at a power note. None = not measurable or unknown."""

    note: str
    seconds: float
    target_s: float
    pitch_sd_semitones: float | None
    trail_off_db: float | None
    level_over_probe_db: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class SessionFigures:
    """One home session at the current rung, best of the attempts a note."""

    day: date
    notes_asked: int
    notes_at_target: int
    pitch_sd_semitones: float | None
    trail_off_db: float | None
    level_over_probe_db: float | None
    strain: float | None


@dataclass(frozen=True, slots=True)
class ClimbAdvice:
    """Whether to climb and every reason for or against, in words."""

    climb: bool
    reasons: tuple[str, ...]


def session_figures(
    attempts: Iterable[HoldFigures], *, day: date, notes_asked: int, strain: float | None
) -> SessionFigures:
    """Best attempt a note (longest); figures are the medians over those best attempts."""
    best: dict[str, HoldFigures] = {}
    for attempt in attempts:
        if attempt.note not in best or attempt.seconds > best[attempt.note].seconds:
            best[attempt.note] = attempt
    held = tuple(best.values())
    return SessionFigures(
        day=day,
        notes_asked=notes_asked,
        notes_at_target=sum(a.seconds >= a.target_s for a in held),
        pitch_sd_semitones=_middle([a.pitch_sd_semitones for a in held]),
        trail_off_db=_middle([a.trail_off_db for a in held]),
        level_over_probe_db=_middle([a.level_over_probe_db for a in held]),
        strain=strain,
    )


def climb_advice(
    sessions: Sequence[SessionFigures],
    *,
    today: date,
    last_climb: date | None,
    kept_share_7_days: float | None,
    stop_sign_open: bool,
    strain_median_14_days: float | None,
) -> ClimbAdvice:
    """Advice for one climb from the home sessions at the current rung, oldest first.

    Looks at the last 5 over at least 3 days; needs 4 that meet every condition, half of the
    practice kept in 7 days, 7 days since the last climb, no open stop sign, no rise of strain.
    An unknown figure never counts as met.
    """
    looked = tuple(sessions[-int(SESSIONS_LOOKED_AT.number) :])
    against = []
    if stop_sign_open:
        against.append("a stop sign is not cleared")
    if len(looked) < SESSIONS_LOOKED_AT.number:
        against.append(f"{len(looked)} of 5 measurable home sessions at this rung")
    if len({s.day for s in looked}) < DAYS_LOOKED_OVER.number:
        against.append("fewer than 3 different days")
    if last_climb is not None and (today - last_climb).days < DAYS_BETWEEN_CLIMBS.number:
        against.append(f"the last climb was {(today - last_climb).days} days ago")
    if kept_share_7_days is None or kept_share_7_days < KEPT_TO_CLIMB.number:
        against.append("under half of the practice kept in 7 days")
    if _strain_rose(looked, strain_median_14_days):
        against.append("throat strain is up by 2 on two days")
    met = sum(_meets(session) for session in looked)
    if met < SESSIONS_TO_CLIMB.number:
        against.append(f"{met} of the last {len(looked)} home sessions meet the goal, 4 are needed")
    if against:
        return ClimbAdvice(False, tuple(against))
    return ClimbAdvice(True, (f"{met} of the last 5 home sessions meet the goal",))


def _meets(session: SessionFigures) -> bool:
    asked = math.ceil(NOTES_AT_TARGET.number * session.notes_asked)
    sd, trail, level = (
        session.pitch_sd_semitones,
        session.trail_off_db,
        session.level_over_probe_db,
    )
    return (
        session.notes_at_target >= asked
        and sd is not None
        and sd <= HOLD_PITCH_SD.number
        and trail is not None
        and trail >= -HOLD_TRAIL_OFF.number
        and level is not None
        and level <= HOLD_LEVEL_OVER_PROBE.number
        and session.strain is not None
    )


def _strain_rose(sessions: Sequence[SessionFigures], usual: float | None) -> bool:
    if usual is None:
        return False
    days = {
        s.day for s in sessions if s.strain is not None and s.strain - usual >= STRAIN_RISE.number
    }
    return len(days) >= 2


def _middle(values: Sequence[float | None]) -> float | None:
    known = sorted(value for value in values if value is not None)
    if not known or len(known) < len(values):
        return None
    half = len(known) // 2
    return known[half] if len(known) % 2 else (known[half - 1] + known[half]) / 2
