"""A simulated scale pattern."""

import numpy as np

from core.kinds.kind import Played
from core.kinds.pattern.aim import PatternTarget
from core.notes.note import Note, nearest_note
from core.simulate.tasks import sing_pattern
from core.simulate.voice import Voice

_OFF_CENTS = 18.0


def performed(voice: Voice, played: Played) -> np.ndarray:
    """The notes aimed at, or up a tone and back, each a little off."""
    aim = played.aim
    notes = aim.notes if isinstance(aim, PatternTarget) else _up_and_back(voice.f0_hz)
    off = np.random.default_rng(voice.seed).normal(0, _OFF_CENTS, len(notes)).tolist()
    return sing_pattern(voice, notes, note_s=played.seconds / len(notes), cents=off).samples


def _up_and_back(hz: float) -> tuple[Note, ...]:
    start = nearest_note(hz)[0]
    return start, start.up(2), start
