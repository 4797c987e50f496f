"""What `tests/web/test_practice.py` and others make and look at."""

from datetime import timedelta

import numpy as np

from core.grading.need import Need
from core.sound.figures import Contour, Figures, Quality, QualityVerdict
from lab.demo.save_session import WholeAttempt, save_session
from tests.conftest import NOW
from web.review.caseload.rounds import rounds

NOTHING = Contour(f0_hz=np.zeros(0), level_db=np.zeros(0))


def held(seconds, *, level_db=-30.0, sd=0.3, trail_off_db=-1.0):
    return Figures(
        task="hold",
        target=None,
        quality=Quality(QualityVerdict.GOOD),
        contour=NOTHING,
        hold_s=seconds,
        f0_median_hz=261.6,
        f0_sd_semitones=sd,
        level_mean_db=level_db,
        trail_off_db=trail_off_db,
    )


def session_on(client, version, day, *, seconds=7.0, strain=2, device="tablet", sign="", **figures):
    """A whole home session on a day of June 2026, every power note held twice; the rest by the clock."""
    *others, step = version.program.routines[0].steps
    attempts = [
        WholeAttempt(
            step=other, place=0, repetition=n, figures=None, seconds=other.target.seconds, after_s=n
        )
        for other in others
        for n in (1, 2)
    ]
    attempts += [
        WholeAttempt(
            step=step,
            place=place,
            repetition=n,
            figures=held(seconds, **figures),
            after_s=30 * place,
        )
        for n in (1, 2)
        for place in range(len(step.holds))
    ]
    return save_session(
        client,
        version,
        access=None,
        started_at=NOW.replace(day=day),
        attempts=attempts,
        strain=strain,
        stop_sign=sign,
        input_name=device,
        measured_by="test",
    )


TODAY = NOW.date() + timedelta(days=1)  # the fixed day of the pages


def ready(client, today=TODAY):
    """Whether Rounds says so on that day, from the row alone."""
    from web.clients.signals import record_changed

    record_changed.send(None, client_id=client.pk)
    (line,) = rounds(client.clinic, clinician=None, today=today, find=client.name).lines
    return line.need is Need.READY_TO_CLIMB


def practice(person, version, *days):
    """Both home sessions of each day, as prescribed."""
    for day in days:
        session_on(person, version, day)
        session_on(person, version, day)
