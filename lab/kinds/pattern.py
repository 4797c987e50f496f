"""Scale patterns of known notes, and the simulated attempt."""

import numpy as np

from core.kinds.pattern.aim import PatternTarget
from core.kinds.pattern.figures import SungPattern
from core.notes.note import Note, nearest_note
from lab.kinds.attempt import SimulatedAttempt
from lab.kinds.bench_table import Spent, seeded_voice
from lab.simulate.tasks import SimulatedSound, sing_pattern
from lab.simulate.voice import Voice

_OFF_CENTS = 18.0


def perform(voice: Voice, attempt: SimulatedAttempt) -> np.ndarray:
    """The notes aimed at, or up a tone and back, each a little off."""
    aim = attempt.aim
    notes = aim.notes if isinstance(aim, PatternTarget) else _up_and_back(voice.f0_hz)
    off = np.random.default_rng(voice.seed).normal(0, _OFF_CENTS, len(notes)).tolist()
    return sing_pattern(voice, notes, note_s=attempt.seconds / len(notes), cents=off).samples


def _up_and_back(hz: float) -> tuple[Note, ...]:
    start = nearest_note(hz)[0]
    return start, start.up(2), start


PATTERNS = (
    "C4 D4 C4",
    "C4 D4 E4 D4 C4",
    "C4 D4 E4 F4 E4 D4 C4",
    "C4 D4 E4 F4 G4 F4 E4 D4 C4",
)


def singing(seed: int) -> tuple[SimulatedSound, tuple[Note, ...]]:
    """A scale pattern in any key, each note up to 35 cents off, every third time with a breath."""
    random = np.random.default_rng((seed, 4))
    key = int(random.integers(-12, 8))
    notes = tuple(Note(Note.named(n).number + key) for n in PATTERNS[seed % 4].split())
    voice = seeded_voice(
        random,
        seed,
        size="woman" if key > -6 else "man",
        vowel=str(random.choice(["ah", "oo", "ee"])),
        jitter_percent=0.2,
        tremor_hz=5.5,
        tremor_cents=float(random.choice([0.0, 0.0, 15.0])),
    )
    played = sing_pattern(
        voice,
        notes,
        note_s=float(random.uniform(0.25, 0.7)),
        cents=[float(c) for c in np.clip(random.normal(0, 15, len(notes)), -35, 35)],
        transition_s=float(random.uniform(0.02, 0.06)),
        breaths_after=(len(notes) // 2,) if seed % 3 == 0 else (),
    )
    return played, notes


def bench_rows(count: int) -> list[str]:
    """Measure `count` seeded attempts."""
    spent = Spent("pattern")
    for seed in range(count):
        played, notes = singing(seed)
        own = spent.measure(played, PatternTarget(notes)).own
        if not isinstance(own, SungPattern):
            spent.add("notes missing or added", len(notes))
            continue
        spent.add("notes missing or added", len(own.missing) + len(own.added))
        places = [p for p in range(len(notes)) if p not in own.missing]
        for place, note in zip(places, own.notes, strict=True):
            _name, start_s, _end_s, cents = played.notes[place]
            spent.add("note, cents", note.cents - cents)
            spent.add("start, ms", 1000 * (note.start_s - start_s))
    return spent.rows("pattern")
