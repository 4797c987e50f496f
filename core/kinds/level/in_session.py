"""Figures of speech, counting and reading in a home session."""

from collections.abc import Sequence

from core.kinds.in_session import SessionFigure, TriedAttempt, figure, level_over
from core.kinds.level.figures import SpeechFigures
from core.notes.note import semitone_of


def in_session(tries: Sequence[TriedAttempt]) -> tuple[SessionFigure, ...]:
    """Codes: over_db (level over the conversation); over_target: share of the voiced time at or over
    the target, %, each attempt by its voiced time, where a level is aimed at; trail_off of the
    phrases, dB; rate, words a minute, where the words are known; pitch: the commonest, as the number
    of a note with its fraction; voiced_s, s."""
    aimed = any(tried.aimed_db is not None for tried in tries)
    rate = figure("rate", tries, lambda one: _of(one, "words_a_minute"))
    return (
        level_over(tries),
        *((_over_target(tries),) if aimed else ()),
        figure("trail_off", tries, lambda one: _of(one, "trail_off_db")),
        *((rate,) if rate.value is not None else ()),
        figure("pitch", tries, _pitch),
        figure("voiced_s", tries, lambda one: _of(one, "voiced_s"), sum),
    )


def _own(tried: TriedAttempt) -> SpeechFigures | None:
    own = tried.known.own if tried.known else None
    return own if isinstance(own, SpeechFigures) else None


def _of(tried: TriedAttempt, name: str) -> float | None:
    own = _own(tried)
    return None if own is None else getattr(own, name)


def _pitch(tried: TriedAttempt) -> float | None:
    hz = _of(tried, "mode_hz")
    return None if hz is None else semitone_of(hz)


def _over_target(tries: Sequence[TriedAttempt]) -> SessionFigure:
    known = [
        (own.over_target_share, own.voiced_s)
        for tried in tries
        if (own := _own(tried)) and own.over_target_share is not None and own.voiced_s
    ]
    if not known:
        return figure("over_target", tries, lambda _tried: None)
    voiced = sum(seconds for _share, seconds in known)
    share = sum(share * seconds for share, seconds in known) / voiced
    return SessionFigure(code="over_target", value=100.0 * share)
