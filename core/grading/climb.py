"""Whether a sustained-note step may climb one rung (rule D; clinical defaults)."""

import math
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from datetime import date

from core.grading.strain import StrainView
from core.reason import Reason, says
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
    TREMOR_OVER_OWN,
)

CALL = says("call_for_strain", "throat strain 5 and more: call the client")
_STOP_OPEN = says("stop_sign_open", "a stop sign is not cleared")
_FEW_SESSIONS = says("few_sessions", "{sessions} of 5 measurable home sessions at this rung")
_FEW_DAYS = says("few_days", "fewer than 3 different days")
_CLIMBED_LATELY = says("climbed_lately", "the last climb was {days} days ago")
_LITTLE_KEPT = says("little_kept", "under half of the practice kept in 7 days")
_STRAIN_UNANSWERED = says("strain_unanswered", "strain was not answered in {sessions} of them: ask")
_MEETS_GOAL = says("meets_goal", "{sessions} of the last 5 home sessions meet the goal")
_TOO_FEW = says(
    "too_few_met", "{met} of the last {sessions} home sessions meet the goal, 4 are needed"
)
_UNKNOWN_IN = says(
    "too_few_known",
    "{met} of the last {sessions} home sessions meet the goal, 4 are needed; in {unknown} the level "
    "or steadiness is not known",
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
    """One home session at the current rung. A note is met by one attempt that meets everything;
    notes_unknown: held long enough, and whether softly and steadily is not known."""

    day: date
    notes_asked: int
    notes_met: int
    notes_unknown: int
    strain: float | None


@dataclass(frozen=True, slots=True)
class ClimbAdvice:
    """Whether to climb and every reason for or against; ease: ids of the steps that go
    down a rung; contact: call the client first."""

    climb: bool
    reasons: tuple[Reason, ...]
    ease: tuple[str, ...] = ()
    contact: bool = False


def most_pitch_sd(usual_with_tremor: float | None) -> float:
    """Steadiness asked for, semitones: 0.5, with tremor the larger of that and the client's own
    + 10 %."""
    if usual_with_tremor is None:
        return HOLD_PITCH_SD.number
    return max(HOLD_PITCH_SD.number, TREMOR_OVER_OWN.number * usual_with_tremor)


def met(attempt: HoldFigures, *, most_sd: float) -> bool | None:
    """Whether one attempt meets everything at once; None where what is known does and something is
    not known. Seconds won by pressing, or shaken, do not count."""
    if attempt.seconds < attempt.target_s:
        return False
    conditions = (
        _holds(attempt.pitch_sd_semitones, lambda sd: sd <= most_sd),
        _holds(attempt.trail_off_db, lambda fade: fade >= -HOLD_TRAIL_OFF.number),
        _holds(attempt.level_over_probe_db, lambda over: over <= HOLD_LEVEL_OVER_PROBE.number),
    )
    if False in conditions:
        return False
    return None if None in conditions else True


def _holds(value: float | None, condition: Callable[[float], bool]) -> bool | None:
    return None if value is None else condition(value)


def session_figures(
    attempts: Iterable[HoldFigures],
    *,
    day: date,
    notes_asked: int,
    strain: float | None,
    usual_with_tremor: float | None = None,
) -> SessionFigures:
    """The notes of one home session that were met; each by its best single attempt."""
    most_sd = most_pitch_sd(usual_with_tremor)
    by_note: dict[str, list[bool | None]] = {}
    for attempt in attempts:
        by_note.setdefault(attempt.note, []).append(met(attempt, most_sd=most_sd))
    return SessionFigures(
        day=day,
        notes_asked=notes_asked,
        notes_met=sum(True in found for found in by_note.values()),
        notes_unknown=sum(True not in found and None in found for found in by_note.values()),
        strain=strain,
    )


def climb_advice(
    sessions: Sequence[SessionFigures],
    *,
    today: date,
    last_climb: date | None,
    kept_share_7_days: float | None,
    stop_sign_open: bool,
    strain: StrainView,
) -> ClimbAdvice:
    """Advice for one climb from the home sessions at the current rung, oldest first.

    Looks at the last 5 over at least 3 days; needs 4 that meet the goal, an answer about strain in
    each, half of the practice kept in 7 days, 7 days since the last climb, no open stop sign and
    nothing against it of strain. An unknown figure never counts as met.
    """
    looked = tuple(sessions[-int(SESSIONS_LOOKED_AT.number) :])
    against = list[Reason]()
    if stop_sign_open:
        against.append(_STOP_OPEN())
    if strain.contact:
        against.append(CALL())
    against += strain.against
    if len(looked) < SESSIONS_LOOKED_AT.number:
        against.append(_FEW_SESSIONS(sessions=len(looked)))
    if len({s.day for s in looked}) < DAYS_LOOKED_OVER.number:
        against.append(_FEW_DAYS())
    if last_climb is not None and (today - last_climb).days < DAYS_BETWEEN_CLIMBS.number:
        against.append(_CLIMBED_LATELY(days=(today - last_climb).days))
    if kept_share_7_days is None or kept_share_7_days < KEPT_TO_CLIMB.number:
        against.append(_LITTLE_KEPT())
    unanswered = sum(session.strain is None for session in looked)
    if unanswered:
        against.append(_STRAIN_UNANSWERED(sessions=unanswered))
    met_goal = sum(_meets(session) for session in looked)
    if met_goal < SESSIONS_TO_CLIMB.number:
        against.append(_too_few(met_goal, looked))
    if against:
        return ClimbAdvice(False, tuple(against), strain.eased, strain.contact)
    return ClimbAdvice(True, (_MEETS_GOAL(sessions=met_goal),))


def _too_few(met_goal: int, looked: Sequence[SessionFigures]) -> Reason:
    unknown = sum(not _meets(s) and s.notes_met + s.notes_unknown >= _needed(s) for s in looked)
    if unknown:
        return _UNKNOWN_IN(met=met_goal, sessions=len(looked), unknown=unknown)
    return _TOO_FEW(met=met_goal, sessions=len(looked))


def _needed(session: SessionFigures) -> int:
    return math.ceil(NOTES_AT_TARGET.number * session.notes_asked)


def _meets(session: SessionFigures) -> bool:
    return session.notes_met >= _needed(session)
