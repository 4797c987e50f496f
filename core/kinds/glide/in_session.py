"""Figures of glides in a home session."""

import math
from collections.abc import Sequence

from core.kinds.in_session import (
    SessionFigure,
    TriedAttempt,
    breaks,
    figure,
    level_over,
    seconds_held,
    share_that,
)
from core.notes.note import nearest_note, semitone_of
from core.reference.values import CONCERT_A4, GLIDE_END_REACHED
from core.sound.figures import Glide


def in_session(tries: Sequence[TriedAttempt]) -> tuple[SessionFigure, ...]:
    """Codes: best_s, mean_s, share; span (the widest), low and high (semitone number of the lowest
    and highest pitch), ends: how many glides reach both prescribed ends, %; evenness, gaps, jumps;
    broke_at: the note at which each break began, once for each note; over_db."""
    return (
        *seconds_held(tries),
        figure("span", tries, lambda one: _of(one, "span_semitones"), max),
        figure("low", tries, lambda one: _semitone(_of(one, "low_hz")), min),
        figure("high", tries, lambda one: _semitone(_of(one, "high_hz")), max),
        share_that("ends", tries, _reaches_both_ends),
        figure("evenness", tries, lambda one: _of(one, "evenness_semitones")),
        *breaks(tries),
        *_broke_at(tries),
        level_over(tries),
    )


def _glide(tried: TriedAttempt) -> Glide | None:
    return tried.known.glide if tried.known else None


def _of(tried: TriedAttempt, name: str) -> float | None:
    glide = _glide(tried)
    return None if glide is None else getattr(glide, name)


def _semitone(hz: float | None) -> float | None:
    """The number of a pitch among the notes, 69 = 440 Hz, with its fraction."""
    return None if hz is None else semitone_of(hz)


def _reaches_both_ends(tried: TriedAttempt) -> bool | None:
    glide = _glide(tried)
    return None if glide is None else reaches_ends(glide, tried.ends)


def reaches_ends(
    glide: Glide, ends: Sequence[int], a4_hz: float = CONCERT_A4.number
) -> bool | None:
    """Whether a slide comes to both prescribed ends (semitone numbers, in either order);
    None where none are prescribed."""
    if not ends:
        return None
    low, high = sorted(ends)
    near = GLIDE_END_REACHED.number
    return (
        semitone_of(glide.low_hz, a4_hz) <= low + near
        and semitone_of(glide.high_hz, a4_hz) >= high - near
    )


def _broke_at(tries: Sequence[TriedAttempt]) -> tuple[SessionFigure, ...]:
    pitches = [hz for tried in tries if (glide := _glide(tried)) for hz in glide.broke_at_hz]
    notes = [nearest_note(hz)[0].name for hz in pitches if not math.isnan(hz)]
    return tuple(
        SessionFigure(code="broke_at", value=float(notes.count(note)), of=note)
        for note in sorted(set(notes))
    )
