"""Figures of hisses in a home session."""

from collections.abc import Sequence

from core.kinds.in_session import (
    SessionFigure,
    TriedAttempt,
    breaks,
    figure,
    of_figures,
    seconds_held,
)
from core.kinds.swell_figures import fall_db, rise_db


def in_session(tries: Sequence[TriedAttempt]) -> tuple[SessionFigure, ...]:
    """Codes: best_s, mean_s, share, level_sd, gaps, jumps; of a swelled hiss rise and fall, dB."""
    swelled = any(rise_db(tried.known) is not None for tried in tries)
    grown = (
        figure("rise", tries, lambda tried: rise_db(tried.known)),
        figure("fall", tries, lambda tried: fall_db(tried.known)),
    )
    return (
        *seconds_held(tries),
        figure("level_sd", tries, of_figures("level_sd_db")),
        *breaks(tries),
        *(grown if swelled else ()),
    )
