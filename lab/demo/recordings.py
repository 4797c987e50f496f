"""What a demo client agreed to have heard: takes of their newest home session, sung again the same way."""

from collections.abc import Iterable, Sequence
from datetime import datetime

from core.sound.figures import Figures
from core.sound.recording import Recording
from lab.demo.perform_take import RATE_HZ, Take, sounding
from lab.demo.simulated_steps import PlannedAttempt
from web.measuring.sinks import AttemptTaken
from web.practice.models import Attempt, HomeSession
from web.practice.usecases.recordings import save_sound


def save_recordings(
    session: HomeSession,
    planned: Sequence[PlannedAttempt],
    figures: Iterable[Figures],
    *,
    now: datetime,
) -> None:
    """Keep the first try of each step of a home session as its sound."""
    found = iter(figures)
    steps = set()
    for row, one in zip(_in_order(session), planned, strict=True):
        if one.take is None:
            continue
        heard = next(found)
        if one.attempt.step is not None and row.step_id not in steps:
            steps.add(row.step_id)
            save_sound(row, _caught(one.take, heard, row), now=now)


def _in_order(session: HomeSession) -> list[Attempt]:
    return list(session.attempts.select_related("client").order_by("started_at"))


def _caught(take: Take, figures: Figures, row: Attempt) -> AttemptTaken:
    sound = Recording.of(sounding(take), RATE_HZ)
    return AttemptTaken(taken=row.taken, sha256=row.sha256, figures=figures, sound=sound)
