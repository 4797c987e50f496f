"""Figures of paced breaths in a home session."""

from collections.abc import Sequence

from core.kinds.breath.aim import PaceTarget
from core.kinds.breath.figures import PacedBreath
from core.kinds.in_session import SessionFigure, TriedAttempt, figure, share_that
from core.reference.values import BREATH_WITHIN_BEATS


def in_session(tries: Sequence[TriedAttempt]) -> tuple[SessionFigure, ...]:
    """Codes: in_s and out_s, s; from_end: how far the breath out ends from its end, in beats (negative
    = too soon); within_beat: how many end within a beat of it, %."""
    return (
        figure("in_s", tries, lambda one: own.in_s if (own := _own(one)) else None),
        figure("out_s", tries, lambda one: own.out_s if (own := _own(one)) else None),
        figure("from_end", tries, _from_end),
        share_that("within_beat", tries, _within_beat),
    )


def _own(tried: TriedAttempt) -> PacedBreath | None:
    own = tried.known.own if tried.known else None
    return own if isinstance(own, PacedBreath) else None


def _from_end(tried: TriedAttempt) -> float | None:
    own = _own(tried)
    if own is None or own.out_s is None or not isinstance(tried.aim, PaceTarget):
        return None
    return None if not tried.beat_s else (own.out_s - tried.aim.out_s) / tried.beat_s


def _within_beat(tried: TriedAttempt) -> bool | None:
    off = _from_end(tried)
    return None if off is None else abs(off) <= BREATH_WITHIN_BEATS.number
