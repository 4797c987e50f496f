"""One attempt of any measured task as a made-up client does it; each a little unlike the last."""

from dataclasses import replace

import numpy as np

from core.notes.note import Note, nearest_note
from core.simulate.tasks import breathe, bubble, hiss_to_buzz, sing_pattern, speak
from core.simulate.voice import Voice, sing
from core.sound.tasks import Measured, PaceTarget, PatternTarget, Target

_PHRASE_AND_PAUSE_S = 2.4
_OFF_THE_NOTE_CENTS = 18.0
_PHRASE_FADE_DB = -3.5
_HISS_HZ = 200.0


def performance(
    task: Measured,
    voice: Voice,
    *,
    seconds: float,
    aim: Target | None = None,
    hiss_s: float | None = None,
    late: float = 1.0,
    size: str = "woman",
) -> np.ndarray:
    """Samples at 16 kHz, shape (n,).

    voice: the voice of the attempt; where no voice is held its seed, level and room count. seconds:
    what is asked for in all; aim: notes of a pattern, pace of a breath; hiss_s: before a buzz,
    None = half; late: times the breath out; size: of a speaker.
    """
    seed = voice.seed
    if task is Measured.BUBBLES:
        stops = ((voice.seconds * 0.6, 0.5),) if seed % 4 == 1 else ()
        return bubble(voice, bubble_hz=14.0 + seed % 5, stops=stops).samples
    if task is Measured.SZ:
        hiss_s = voice.seconds / 2 if hiss_s is None else hiss_s
        buzz = replace(voice, seconds=max(voice.seconds - hiss_s, 0.5))
        return hiss_to_buzz(buzz, hiss_s=hiss_s, gap_s=0.07 if seed % 3 == 0 else 0.0).samples
    if task is Measured.HISS:
        return sing(Voice(f0_hz=_HISS_HZ, seconds=voice.seconds, hiss=True, seed=seed)).samples
    if task is Measured.PATTERN:
        notes = aim.notes if isinstance(aim, PatternTarget) else _up_and_back(voice.f0_hz)
        off = np.random.default_rng(seed).normal(0, _OFF_THE_NOTE_CENTS, len(notes)).tolist()
        return sing_pattern(voice, notes, note_s=seconds / len(notes), cents=off).samples
    if task is Measured.LEVEL:
        return speak(
            phrases=max(round(seconds / _PHRASE_AND_PAUSE_S), 1),
            level_db=voice.level_db,
            fade_db=_PHRASE_FADE_DB,
            noise_db=voice.noise_db,
            size=size,
            seed=seed,
        ).samples
    if task is Measured.BREATH:
        pace = aim if isinstance(aim, PaceTarget) else PaceTarget(in_s=2.4, out_s=4.8)
        return breathe(
            in_s=pace.in_s, out_s=max(pace.out_s * late, 1.0), cycles=1, seed=seed
        ).samples
    return sing(voice).samples


def _up_and_back(hz: float) -> tuple[Note, ...]:
    start = nearest_note(hz)[0]
    return start, start.up(2), start
