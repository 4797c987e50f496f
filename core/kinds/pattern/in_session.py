"""Figures of scale patterns in a home session, key by key."""

from collections.abc import Sequence

from core.kinds.in_session import SessionFigure, TriedAttempt, figure
from core.kinds.pattern.aim import PatternTarget
from core.kinds.pattern.figures import SungPattern
from core.notes.note import Note
from core.reference.values import PATTERN_NOTE_OFF


def in_session(tries: Sequence[TriedAttempt]) -> tuple[SessionFigure, ...]:
    """Codes: in_tune: notes within 50 cents, % of those asked for, of each key and over all; missing
    and added notes; low_clean and high_clean: the lowest and highest key in which every note was
    there and in tune, as the number of its start note; tempo_sd, %."""
    by_key: dict[str, list[TriedAttempt]] = {}
    for tried in tries:
        by_key.setdefault(tried.note, []).append(tried)
    keys = [
        SessionFigure(code="in_tune", value=share, of=key)
        for key, own in by_key.items()
        if key and (share := _over_all(own).value) is not None
    ]
    clean = [Note.named(t.note).number for t in tries if t.note and _in_tune(t) == 100.0]
    ends = (("low_clean", min), ("high_clean", max))
    return (
        *keys,
        _over_all(tries),
        figure("missing", tries, lambda one: _count(one, "missing"), sum),
        figure("added", tries, lambda one: _count(one, "added"), sum),
        *(SessionFigure(code=code, value=float(end(clean))) for code, end in ends if clean),
        figure("tempo_sd", tries, lambda one: o.tempo_sd_percent if (o := _own(one)) else None),
    )


def _own(tried: TriedAttempt) -> SungPattern | None:
    own = tried.known.own if tried.known else None
    return own if isinstance(own, SungPattern) else None


def _counts(tried: TriedAttempt) -> tuple[int, int] | None:
    """Notes in tune and asked for; one sung in another key is out of tune throughout."""
    own = _own(tried)
    if own is None or not isinstance(tried.aim, PatternTarget):
        return None
    near = sum(abs(note.cents) <= PATTERN_NOTE_OFF.number for note in own.notes)
    return (0 if own.key_semitones else near), len(tried.aim.notes)


def _in_tune(tried: TriedAttempt) -> float | None:
    counts = _counts(tried)
    return None if counts is None else 100.0 * counts[0] / counts[1]


def _over_all(tries: Sequence[TriedAttempt]) -> SessionFigure:
    counted = [counts for tried in tries if (counts := _counts(tried))]
    if not counted:
        return figure("in_tune", tries, lambda _tried: None)
    near, asked = (sum(column) for column in zip(*counted, strict=True))
    return SessionFigure(code="in_tune", value=100.0 * near / asked)


def _count(tried: TriedAttempt, name: str) -> float | None:
    own = _own(tried)
    return None if own is None else float(len(getattr(own, name)))
