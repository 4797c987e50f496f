"""Figures of phrases near a note in a home session."""

from collections.abc import Sequence
from statistics import median

from core.kinds.in_session import SessionFigure, TriedAttempt, figure, why_unknown
from core.kinds.near.figures import NearPhrases
from core.notes.note import semitone_of


def in_session(tries: Sequence[TriedAttempt]) -> tuple[SessionFigure, ...]:
    """Codes: near, the share of all phrases within a semitone of the note, %, of those asked for where
    fewer were heard; off_note: the middle distance of the phrases, semitones; pitch: the commonest, as
    the number of a note with its fraction; voiced_s, s."""
    return (
        _near(tries),
        figure("off_note", tries, _off),
        figure("pitch", tries, _pitch),
        figure("voiced_s", tries, lambda one: own.voiced_s if (own := _own(one)) else None, sum),
    )


def _own(tried: TriedAttempt) -> NearPhrases | None:
    own = tried.known.own if tried.known else None
    return own if isinstance(own, NearPhrases) and own.phrases else None


def _near(tries: Sequence[TriedAttempt]) -> SessionFigure:
    known = [own for tried in tries if (own := _own(tried))]
    if not known:
        return SessionFigure(code="near", value=None, why=why_unknown(tries))
    near = sum(own.near_count for own in known)
    of = sum(max(len(own.phrases), own.asked or 0) for own in known)
    return SessionFigure(code="near", value=100 * near / of)


def _off(tried: TriedAttempt) -> float | None:
    own = _own(tried)
    found = (
        [one.off_semitones for one in own.phrases if one.off_semitones is not None] if own else []
    )
    return median(found) if found else None


def _pitch(tried: TriedAttempt) -> float | None:
    own = _own(tried)
    return semitone_of(median(one.pitch_hz for one in own.phrases)) if own else None
