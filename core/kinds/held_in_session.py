"""Figures of held notes in a home session, note by note."""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import replace

from core.kinds.in_session import (
    SessionFigure,
    TriedAttempt,
    breaks,
    by_place,
    figure,
    level_over,
    of_figures,
    seconds_held,
    share_of_target,
    share_that,
)
from core.reference.values import STRONG_ENOUGH


def held_in_session(tries: Sequence[TriedAttempt]) -> tuple[SessionFigure, ...]:
    """Codes: for each note best_s, mean_s, share; over all pitch_sd, trail_off, over_db, gaps, jumps;
    lags: the note whose best comes least near to what was asked for, where there are several.
    Where strength is asked for, at_length, at_level and at_both: how many attempts reach it, %."""
    names = _names(tries)
    notes = [
        replace(one, of=names[place])
        for place, own in by_place(tries).items()
        for one in seconds_held(own)
    ]
    strong = any(tried.aimed_db is not None for tried in tries)
    return (
        *notes,
        figure("pitch_sd", tries, of_figures("f0_sd_semitones")),
        figure("trail_off", tries, of_figures("trail_off_db")),
        level_over(tries),
        *breaks(tries),
        *_lagging(tries, names),
        *(_strong(tries) if strong else ()),
    )


def _names(tries: Sequence[TriedAttempt]) -> dict[int, str]:
    """What each place is called: its note; where a note comes twice, with the number of the place."""
    notes = {place: own[0].note for place, own in by_place(tries).items()}
    often = Counter(notes.values())
    return {
        place: note if note and often[note] == 1 else f"{note} {place + 1}".strip()
        for place, note in notes.items()
    }


def _lagging(tries: Sequence[TriedAttempt], names: Mapping[int, str]) -> tuple[SessionFigure, ...]:
    bests = {
        place: max((s for one in own if (s := share_of_target(one)) is not None), default=None)
        for place, own in by_place(tries).items()
    }
    known = {place: share for place, share in bests.items() if share is not None}
    if len(known) < 2 or min(known.values()) == max(known.values()):
        return ()
    place = min(known, key=lambda one: known[one])
    return (SessionFigure(code="lags", value=known[place], of=names[place]),)


def _strong(tries: Sequence[TriedAttempt]) -> tuple[SessionFigure, ...]:
    return (
        share_that("at_length", tries, at_length),
        share_that("at_level", tries, at_level),
        share_that("at_both", tries, _both),
    )


def at_length(tried: TriedAttempt) -> bool | None:
    """Whether it lasted as long as was asked for; None = not measurable."""
    return None if tried.seconds is None else tried.seconds >= tried.target_s


def at_level(tried: TriedAttempt) -> bool | None:
    """Whether it was as strong as was asked for; None where no level is known."""
    if tried.over_db is None or tried.aimed_db is None:
        return None
    return tried.over_db >= tried.aimed_db - STRONG_ENOUGH.number


def _both(tried: TriedAttempt) -> bool | None:
    found = (at_length(tried), at_level(tried))
    if False in found:
        return False
    return None if None in found else True
