"""Figures of swells on a note in a home session."""

from collections.abc import Sequence

from core.kinds.held_in_session import held_in_session
from core.kinds.in_session import SessionFigure, TriedAttempt, figure
from core.kinds.swell_figures import fall_db, rise_db


def in_session(tries: Sequence[TriedAttempt]) -> tuple[SessionFigure, ...]:
    """Codes: those of held notes, and rise and fall, dB."""
    return (
        *held_in_session(tries),
        figure("rise", tries, lambda tried: rise_db(tried.known)),
        figure("fall", tries, lambda tried: fall_db(tried.known)),
    )
