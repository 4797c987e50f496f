"""What one client of the demo did in the visit, performed by the simulators and really measured."""

import hashlib
import uuid
from dataclasses import replace
from datetime import datetime

import numpy as np

from core.kinds.live import measure_sound
from core.kinds.pattern.aim import PatternTarget
from core.notes.note import Note
from core.notes.range import VoiceGroup
from core.sound.reading import Sound
from lab.simulate.meter import meter_reading_db
from lab.simulate.tasks import bubble, hiss_to_buzz, sing_pattern, speak
from lab.simulate.voice import Voice, sing
from web.clients.baseline.measures import ASKED, Aims
from web.clients.intake.intake_file import IntakeFile
from web.clients.models import Baseline, BaselineAttempt, Measure
from web.clients.usecases.baseline import BaselineSink
from web.clients.usecases.device import save_reference
from web.clinic.models import User
from web.measuring.models import Taken
from web.measuring.sinks import AttemptOffer, AttemptTaken
from web.measuring.tickets import Ticket

_DEVICE = {"label": "desk microphone", "sampleRate": 48_000, "autoGainControl": False}
_ROOM_DB = -66.0


def _size(baseline: Baseline) -> str:
    return "man" if baseline.client.voice_group == VoiceGroup.MEN else "woman"


def measure_visit(baseline: Baseline, *, low: Note, high: Note, by: User, now: datetime) -> None:
    """Level reference by the simulated meter, talk, reading, glides, tube, join and pattern."""
    speaking_hz = low.up(4).hz()
    voice = Voice(f0_hz=speaking_hz, seconds=6.0, noise_db=_ROOM_DB, seed=7)
    glide = replace(
        voice, wobble_semitones=0.05, f0_hz=low.hz() * 0.99, glide_to_hz=high.hz() * 1.01
    )
    pattern = Aims(baseline).of(Measure.PATTERN)
    notes = pattern.notes if isinstance(pattern, PatternTarget) else ()
    cents = np.random.default_rng(9).normal(0, 16, len(notes))
    performed: dict[str, np.ndarray] = {
        Measure.REFERENCE: sing(
            Voice(f0_hz=speaking_hz, seconds=4.0, noise_db=_ROOM_DB, lead_s=2.0, level_db=-29.0)
        ).samples,
        Measure.CONVERSATION: speak(
            noise_db=_ROOM_DB, level_db=-30.0, fade_db=-5.0, size=_size(baseline), seed=2
        ).samples,
        Measure.STRONG: sing(
            Voice(
                f0_hz=low.up(6).hz(),
                seconds=8.0,
                noise_db=_ROOM_DB,
                level_db=-21.0,
                trail_off_db=-1,
            )
        ).samples,
        Measure.READING: speak(
            phrases=8,
            phrase_s=2.6,
            noise_db=_ROOM_DB,
            level_db=-29.0,
            fade_db=-3.0,
            size=_size(baseline),
            seed=2,
        ).samples,
        Measure.GLIDE_UP: sing(glide).samples,
        Measure.GLIDE_DOWN: sing(
            replace(glide, f0_hz=high.hz(), glide_to_hz=low.hz(), gaps=((3.4, 0.1),))
        ).samples,
        Measure.BUBBLES: bubble(voice, bubble_hz=16.0, stops=((3.6, 0.7),)).samples,
        Measure.JOIN: hiss_to_buzz(voice, hiss_s=3.0, gap_s=0.09).samples,
        Measure.PATTERN: sing_pattern(
            Voice(
                f0_hz=speaking_hz, seconds=1.0, noise_db=_ROOM_DB, vowel="oo", jitter_percent=0.2
            ),
            notes,
            cents=[float(c) for c in cents],
            breaths_after=(4,),
        ).samples,
    }
    allowed = IntakeFile(baseline.client, now.date()).allowed
    for place, (measure, samples) in enumerate(performed.items()):
        if not ASKED[measure].touches <= allowed:
            continue
        row = _keep(baseline, measure, samples, by, now, place)
        if measure == Measure.REFERENCE and row.measurement:
            level = row.measurement.level_mean_db or 0.0
            save_reference(
                row,
                distance_cm=30.0,
                meter_db=meter_reading_db(level, seed=3),
                meter_distance_cm=30.0,
                by=by,
                now=now,
            )


def _keep(
    baseline: Baseline, measure: str, samples: np.ndarray, by: User, now: datetime, place: int
) -> BaselineAttempt:
    end = BaselineSink()
    ticket = Ticket(
        purpose="baseline",
        clinic=str(baseline.clinic_id),
        client=str(baseline.client_id),
        holder=str(by.pk),
        sitting=str(baseline.pk),
        issued_at=now.isoformat(),
    )
    offer = AttemptOffer(
        attempt_id=str(uuid.uuid5(baseline.pk, f"{measure} {place}")),
        step_id=measure,
        input="simulated voice",
        device=_DEVICE,
    )
    permit = end.permit(ticket, offer)
    assert permit.task is not None  # every task of the visit is measured
    task = permit.task
    found = measure_sound(Sound(samples, 16_000), task, target=permit.target, a4_hz=permit.a4_hz)
    digest = hashlib.sha256(samples.tobytes()).hexdigest()
    caught = AttemptTaken(taken=Taken.LIVE, sha256=digest, figures=found)
    end.keep(ticket, offer, permit, caught, now)
    return BaselineAttempt.objects.select_related("measurement").get(pk=offer.attempt_id)
