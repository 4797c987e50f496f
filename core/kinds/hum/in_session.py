"""Figures of the long level hums of a home session."""

from collections.abc import Sequence

from core.kinds.in_session import (
    SessionFigure,
    TriedAttempt,
    breaks,
    figure,
    of_figures,
    seconds_held,
)


def in_session(tries: Sequence[TriedAttempt]) -> tuple[SessionFigure, ...]:
    """Codes: best_s, mean_s, share, level_sd, trail_off, pitch_sd, gaps, jumps."""
    return (
        *seconds_held(tries),
        figure("level_sd", tries, of_figures("level_sd_db")),
        figure("trail_off", tries, of_figures("trail_off_db")),
        figure("pitch_sd", tries, of_figures("f0_sd_semitones")),
        *breaks(tries),
    )
