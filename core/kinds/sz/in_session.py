"""Figures of hisses that turn into a buzz in a home session."""

from collections.abc import Sequence

from core.kinds.in_session import SessionFigure, TriedAttempt, figure, share_that
from core.kinds.sz.figures import Joined


def in_session(tries: Sequence[TriedAttempt]) -> tuple[SessionFigure, ...]:
    """Codes: gap (the silence between, s), hiss_s, buzz_s, joined: how many had both sounds, %."""
    return (
        figure("gap", tries, lambda tried: _of(tried, "gap_s")),
        figure("hiss_s", tries, lambda tried: _of(tried, "hiss_s")),
        figure("buzz_s", tries, lambda tried: _of(tried, "buzz_s")),
        share_that("joined", tries, _joined),
    )


def _own(tried: TriedAttempt) -> Joined | None:
    own = tried.known.own if tried.known else None
    return own if isinstance(own, Joined) else None


def _of(tried: TriedAttempt, name: str) -> float | None:
    own = _own(tried)
    return None if own is None else getattr(own, name)


def _joined(tried: TriedAttempt) -> bool | None:
    own = _own(tried)
    return None if own is None else own.gap_s is not None
